/**
 * The nearest triangle along each of many directions from one sensor: the walk of `mask-kernel.ts`, which goes on until
 * nothing nearer can be met. A ray meets a triangle as it does there, so that nothing leaks; how far away is told by the
 * volume over the sum of the three products.
 */
import { dot, isEmpty, NODE, nodes, PACKET, packetCount, packets, SENSOR, SLACK, stack, starts } from './kernel-state';
import {
  highX,
  highY,
  highZ,
  lowX,
  lowY,
  lowZ,
  planesOf,
  planeVolume,
  planeX,
  planeY,
  planeZ,
  setOrigin,
} from './planes';
import { gatherFor, meets, startFours, startsFrom } from './walk-starts';

/** Sensors for which it is gathered together where walks begin. */
const TOGETHER: i32 = 8;

/** Of each lane, how far its nearest triangle is so far, and which. */
let bestLow: v128 = f32x4.splat(0);
let bestHigh: v128 = f32x4.splat(0);
let idLow: v128 = i32x4.splat(-1);
let idHigh: v128 = i32x4.splat(-1);

function testNearest(t: i32, p: usize): void {
  if (!planesOf(t)) return;
  const nx = planeX;
  const ny = planeY;
  const nz = planeZ;
  const volume = f32x4.splat(planeVolume);
  const zero = f32x4.splat(0);
  const xl = v128.load(p);
  const xh = v128.load(p, 16);
  const yl = v128.load(p, 32);
  const yh = v128.load(p, 48);
  const zl = v128.load(p, 64);
  const zh = v128.load(p, 80);
  const ux = v128.shuffle<f32>(nx, nx, 0, 0, 0, 0);
  const uy = v128.shuffle<f32>(ny, ny, 0, 0, 0, 0);
  const uz = v128.shuffle<f32>(nz, nz, 0, 0, 0, 0);
  const al = dot(xl, yl, zl, ux, uy, uz);
  const ah = dot(xh, yh, zh, ux, uy, uz);
  const vx = v128.shuffle<f32>(nx, nx, 1, 1, 1, 1);
  const vy = v128.shuffle<f32>(ny, ny, 1, 1, 1, 1);
  const vz = v128.shuffle<f32>(nz, nz, 1, 1, 1, 1);
  const bl = dot(xl, yl, zl, vx, vy, vz);
  const bh = dot(xh, yh, zh, vx, vy, vz);
  const wx = v128.shuffle<f32>(nx, nx, 2, 2, 2, 2);
  const wy = v128.shuffle<f32>(ny, ny, 2, 2, 2, 2);
  const wz = v128.shuffle<f32>(nz, nz, 2, 2, 2, 2);
  const cl = dot(xl, yl, zl, wx, wy, wz);
  const ch = dot(xh, yh, zh, wx, wy, wz);
  const atLow = f32x4.div(volume, f32x4.add(f32x4.add(al, bl), cl));
  const atHigh = f32x4.div(volume, f32x4.add(f32x4.add(ah, bh), ch));
  const low = v128.and(
    v128.and(v128.and(f32x4.ge(al, zero), f32x4.ge(bl, zero)), f32x4.ge(cl, zero)),
    f32x4.lt(atLow, bestLow),
  );
  const high = v128.and(
    v128.and(v128.and(f32x4.ge(ah, zero), f32x4.ge(bh, zero)), f32x4.ge(ch, zero)),
    f32x4.lt(atHigh, bestHigh),
  );
  const own = i32x4.splat(t);
  bestLow = v128.bitselect(atLow, bestLow, low);
  bestHigh = v128.bitselect(atHigh, bestHigh, high);
  idLow = v128.bitselect(own, idLow, low);
  idHigh = v128.bitselect(own, idHigh, high);
}

function walkNearest(p: usize): void {
  const octant = load<i32>(p, 224);
  const nearX: usize = octant & 1 ? 16 : 0;
  const nearY: usize = octant & 2 ? 20 : 4;
  const nearZ: usize = octant & 4 ? 24 : 8;
  const farX: usize = 16 - nearX;
  const farY: usize = 24 - nearY;
  const farZ: usize = 32 - nearZ;
  const ox0 = octant & 1 ? lowX : highX;
  const ox1 = octant & 1 ? highX : lowX;
  const oy0 = octant & 2 ? lowY : highY;
  const oy1 = octant & 2 ? highY : lowY;
  const oz0 = octant & 4 ? lowZ : highZ;
  const oz1 = octant & 4 ? highZ : lowZ;
  const ixl = v128.load(p, 96);
  const ixh = v128.load(p, 112);
  const iyl = v128.load(p, 128);
  const iyh = v128.load(p, 144);
  const izl = v128.load(p, 160);
  const izh = v128.load(p, 176);
  const zero = f32x4.splat(0);
  const slack = f32x4.splat(SLACK);
  const leastX = v128.load32_splat(p, 228);
  const leastY = v128.load32_splat(p, 232);
  const leastZ = v128.load32_splat(p, 236);
  const mostX = v128.load32_splat(p, 240);
  const mostY = v128.load32_splat(p, 244);
  const mostZ = v128.load32_splat(p, 248);
  const end = <usize>startFours << 4;
  let four: usize = 0;
  let met: i32 = 0;
  let top = stack;
  let node: usize = 0;
  for (;;) {
    if (top > stack) {
      top -= 4;
      node = load<usize>(top);
    } else {
      while (met == 0) {
        if (four == end) return;
        met = meets(four, octant, leastX, leastY, leastZ, mostX, mostY, mostZ);
        four += 16;
      }
      node = load<usize>(starts + four - 16 + (<usize>ctz(met) << 2));
      met &= met - 1;
    }
    for (;;) {
      const x0 = f32x4.sub(v128.load32_splat(node + nearX), ox0);
      const y0 = f32x4.sub(v128.load32_splat(node + nearY), oy0);
      const z0 = f32x4.sub(v128.load32_splat(node + nearZ), oz0);
      const x1 = f32x4.sub(v128.load32_splat(node + farX), ox1);
      const y1 = f32x4.sub(v128.load32_splat(node + farY), oy1);
      const z1 = f32x4.sub(v128.load32_splat(node + farZ), oz1);
      const nearLow = f32x4.pmax(
        f32x4.pmax(f32x4.mul(x0, ixl), f32x4.mul(y0, iyl)),
        f32x4.pmax(f32x4.mul(z0, izl), zero),
      );
      const nearHigh = f32x4.pmax(
        f32x4.pmax(f32x4.mul(x0, ixh), f32x4.mul(y0, iyh)),
        f32x4.pmax(f32x4.mul(z0, izh), zero),
      );
      const farLow = f32x4.pmin(f32x4.pmin(f32x4.mul(x1, ixl), f32x4.mul(y1, iyl)), f32x4.mul(z1, izl));
      const farHigh = f32x4.pmin(f32x4.pmin(f32x4.mul(x1, ixh), f32x4.mul(y1, iyh)), f32x4.mul(z1, izh));
      const low = f32x4.le(nearLow, f32x4.mul(f32x4.pmin(farLow, bestLow), slack));
      const high = f32x4.le(nearHigh, f32x4.mul(f32x4.pmin(farHigh, bestHigh), slack));
      if (v128.any_true(v128.or(low, high))) {
        const link = load<i32>(node, 12);
        const more = load<i32>(node, 28);
        if (link >= 0) {
          const right = nodes + <usize>link * NODE;
          if ((octant >> more) & 1) {
            store<usize>(top, node + NODE);
            node = right;
          } else {
            store<usize>(top, right);
            node = node + NODE;
          }
          top += 4;
          continue;
        }
        const first = ~link;
        for (let t = first; t < first + more; t++) testNearest(t, p);
      }
      break;
    }
  }
}

/**
 * Writes the number of the nearest triangle along each direction, −1 where there is none: `directions` numbers of four
 * bytes a sensor from `ids` on.
 */
export function nearestBySensor(sensors: usize, count: i32, ids: usize, directions: i32): void {
  for (let s = 0; s < count; s++) {
    const at = sensors + <usize>s * SENSOR;
    if (!isEmpty && s % TOGETHER == 0) gatherFor(at, min(TOGETHER, count - s));
    setOrigin(load<f64>(at), load<f64>(at, 8), load<f64>(at, 16));
    if (!isEmpty) startsFrom(lowX, lowY, lowZ, highX, highY, highZ);
    const out = ids + <usize>s * <usize>directions * 4;
    for (let k = 0; k < packetCount; k++) {
      const p = packets + <usize>k * PACKET;
      bestLow = f32x4.splat(f32.MAX_VALUE);
      bestHigh = bestLow;
      idLow = i32x4.splat(-1);
      idHigh = idLow;
      if (!isEmpty) walkNearest(p);
      for (let lane: usize = 0; lane < 8; lane++) {
        const d = load<i32>(p + (lane << 2), 192);
        if (d < 0) continue;
        let t = -1;
        if (lane == 0) t = i32x4.extract_lane(idLow, 0);
        else if (lane == 1) t = i32x4.extract_lane(idLow, 1);
        else if (lane == 2) t = i32x4.extract_lane(idLow, 2);
        else if (lane == 3) t = i32x4.extract_lane(idLow, 3);
        else if (lane == 4) t = i32x4.extract_lane(idHigh, 0);
        else if (lane == 5) t = i32x4.extract_lane(idHigh, 1);
        else if (lane == 6) t = i32x4.extract_lane(idHigh, 2);
        else t = i32x4.extract_lane(idHigh, 3);
        store<i32>(out + (<usize>d << 2), t);
      }
    }
  }
}
