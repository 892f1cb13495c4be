/**
 * The mask kernel for WebAssembly with SIMD, in AssemblyScript: sensors × directions against a tree, any
 * hit: one sensor and packets of 8 neighbouring directions at a time. Memory is laid out by `simd-kernel.ts`, which
 * explains the layout.
 *
 * A ray meets a triangle when it passes on the inner side of the three planes through its origin and the triangle's
 * edges. Corners relative to the origin are formed in double precision and rounded once; all planes come from those
 * rounded corners, so two triangles that share an edge have exactly opposite planes there, and no ray slips between them.
 */
import {
  dot,
  hints,
  isEmpty,
  NODE,
  nodes,
  PACKET,
  packetCount,
  packets,
  recent,
  SENSOR,
  SLACK,
  stack,
  starts,
} from './kernel-state';
import { highX, highY, highZ, lowX, lowY, lowZ, planesOf, planeX, planeY, planeZ, setOrigin } from './planes';
import { gatherFor, meets, startFours, startsFrom } from './walk-starts';

/** Bytes of a prepared blocker. */
const BLOCKER: usize = 144;
/** Sensors for which it is gathered together where walks begin. */
const TOGETHER: i32 = 8;
/** Recent blockers that are tried before the tree. */
const RECENT: i32 = 4;

let recentCount: i32 = 0;
let recentNext: i32 = 0;
/** Triangles of the recent blockers. */
let recent0: i32 = -1;
let recent1: i32 = -1;
let recent2: i32 = -1;
let recent3: i32 = -1;

/** What is still open: a lane is all ones while its ray has met nothing. */
let aliveLow: v128 = i32x4.splat(0);
let aliveHigh: v128 = i32x4.splat(0);

// @ts-ignore: decorator
@inline
function splatLane0(v: v128): v128 {
  return v128.shuffle<f32>(v, v, 0, 0, 0, 0);
}

// @ts-ignore: decorator
@inline
function splatLane1(v: v128): v128 {
  return v128.shuffle<f32>(v, v, 1, 1, 1, 1);
}

// @ts-ignore: decorator
@inline
function splatLane2(v: v128): v128 {
  return v128.shuffle<f32>(v, v, 2, 2, 2, 2);
}

/** A place in the ring of recent blockers for triangle t: where its planes are kept. */
function remember(t: i32): usize {
  const slot = recentNext;
  recentNext = (slot + 1) & (RECENT - 1);
  if (recentCount < RECENT) recentCount++;
  if (slot == 0) recent0 = t;
  else if (slot == 1) recent1 = t;
  else if (slot == 2) recent2 = t;
  else recent3 = t;
  return recent + <usize>slot * BLOCKER;
}

/** Takes out the lanes that triangle t stops; keeps it as a recent blocker where there are any. */
// @ts-ignore: decorator
@inline
function testTriangle(t: i32, p: usize): void {
  if (!planesOf(t)) return;
  const nx = planeX;
  const ny = planeY;
  const nz = planeZ;
  const zero = f32x4.splat(0);
  const xl = v128.load(p);
  const xh = v128.load(p, 16);
  const yl = v128.load(p, 32);
  const yh = v128.load(p, 48);
  const zl = v128.load(p, 64);
  const zh = v128.load(p, 80);
  const ux = splatLane0(nx);
  const uy = splatLane0(ny);
  const uz = splatLane0(nz);
  let low = f32x4.ge(dot(xl, yl, zl, ux, uy, uz), zero);
  let high = f32x4.ge(dot(xh, yh, zh, ux, uy, uz), zero);
  const vx = splatLane1(nx);
  const vy = splatLane1(ny);
  const vz = splatLane1(nz);
  low = v128.and(low, f32x4.ge(dot(xl, yl, zl, vx, vy, vz), zero));
  high = v128.and(high, f32x4.ge(dot(xh, yh, zh, vx, vy, vz), zero));
  const wx = splatLane2(nx);
  const wy = splatLane2(ny);
  const wz = splatLane2(nz);
  low = v128.and(v128.and(low, aliveLow), f32x4.ge(dot(xl, yl, zl, wx, wy, wz), zero));
  high = v128.and(v128.and(high, aliveHigh), f32x4.ge(dot(xh, yh, zh, wx, wy, wz), zero));
  if (!v128.any_true(v128.or(low, high))) return;
  aliveLow = v128.andnot(aliveLow, low);
  aliveHigh = v128.andnot(aliveHigh, high);
  const q = remember(t);
  v128.store(q, ux);
  v128.store(q, uy, 16);
  v128.store(q, uz, 32);
  v128.store(q, vx, 48);
  v128.store(q, vy, 64);
  v128.store(q, vz, 80);
  v128.store(q, wx, 96);
  v128.store(q, wy, 112);
  v128.store(q, wz, 128);
  if (t != hint0) {
    hint3 = hint2;
    hint2 = hint1;
    hint1 = hint0;
    hint0 = t;
  }
}

let hint0: i32 = -1;
let hint1: i32 = -1;
let hint2: i32 = -1;
let hint3: i32 = -1;

/** Prepares a recent blocker for the sensor at hand. */
function prepare(t: i32): void {
  if (!planesOf(t)) return;
  const nx = planeX;
  const ny = planeY;
  const nz = planeZ;
  const q = remember(t);
  v128.store(q, splatLane0(nx));
  v128.store(q, splatLane0(ny), 16);
  v128.store(q, splatLane0(nz), 32);
  v128.store(q, splatLane1(nx), 48);
  v128.store(q, splatLane1(ny), 64);
  v128.store(q, splatLane1(nz), 80);
  v128.store(q, splatLane2(nx), 96);
  v128.store(q, splatLane2(ny), 112);
  v128.store(q, splatLane2(nz), 128);
}

/** Takes out the lanes that one of the recent blockers stops. */
// @ts-ignore: decorator
@inline
function tryRecent(p: usize): void {
  const zero = f32x4.splat(0);
  const xl = v128.load(p);
  const xh = v128.load(p, 16);
  const yl = v128.load(p, 32);
  const yh = v128.load(p, 48);
  const zl = v128.load(p, 64);
  const zh = v128.load(p, 80);
  let al = aliveLow;
  let ah = aliveHigh;
  for (let r = 0; r < recentCount; r++) {
    const q = recent + <usize>r * BLOCKER;
    const ux = v128.load(q);
    const uy = v128.load(q, 16);
    const uz = v128.load(q, 32);
    const vx = v128.load(q, 48);
    const vy = v128.load(q, 64);
    const vz = v128.load(q, 80);
    const wx = v128.load(q, 96);
    const wy = v128.load(q, 112);
    const wz = v128.load(q, 128);
    const low = v128.and(
      v128.and(
        f32x4.ge(dot(xl, yl, zl, ux, uy, uz), zero),
        f32x4.ge(dot(xl, yl, zl, vx, vy, vz), zero),
      ),
      f32x4.ge(dot(xl, yl, zl, wx, wy, wz), zero),
    );
    const high = v128.and(
      v128.and(
        f32x4.ge(dot(xh, yh, zh, ux, uy, uz), zero),
        f32x4.ge(dot(xh, yh, zh, vx, vy, vz), zero),
      ),
      f32x4.ge(dot(xh, yh, zh, wx, wy, wz), zero),
    );
    al = v128.andnot(al, low);
    ah = v128.andnot(ah, high);
    if (!v128.any_true(v128.or(al, ah))) break;
  }
  aliveLow = al;
  aliveHigh = ah;
}

/** Walks the tree with a packet. */
function walk(p: usize): void {
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
      const low = v128.and(f32x4.le(nearLow, f32x4.mul(farLow, slack)), aliveLow);
      const high = v128.and(f32x4.le(nearHigh, f32x4.mul(farHigh, slack)), aliveHigh);
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
        for (let t = first; t < first + more; t++) testTriangle(t, p);
        if (!v128.any_true(v128.or(aliveLow, aliveHigh))) return;
      }
      break;
    }
  }
}

/**
 * Sets a bit for every open direction: `words` words of 32 bits a sensor, from `mask` on, which are 0 before.
 * With `bounded`, directions at a right angle to the sensor's normal or behind it are not traced and stay 0.
 */
export function bySensor(sensors: usize, count: i32, bounded: bool, mask: usize, words: i32): void {
  const zero = f32x4.splat(0);
  for (let s = 0; s < count; s++) {
    if (!isEmpty && s % TOGETHER == 0) gatherFor(sensors + <usize>s * SENSOR, min(TOGETHER, count - s));
    const at = sensors + <usize>s * SENSOR;
    const ox = load<f64>(at);
    const oy = load<f64>(at, 8);
    const oz = load<f64>(at, 16);
    setOrigin(ox, oy, oz);
    refreshRecent();
    if (!isEmpty) startsFrom(lowX, lowY, lowZ, highX, highY, highZ);
    const nx = f32x4.splat(<f32>load<f64>(at, 24));
    const ny = f32x4.splat(<f32>load<f64>(at, 32));
    const nz = f32x4.splat(<f32>load<f64>(at, 40));
    const out = mask + <usize>s * <usize>words * 4;
    for (let k = 0; k < packetCount; k++) {
      const p = packets + <usize>k * PACKET;
      const il = v128.load(p, 192);
      const ih = v128.load(p, 208);
      let al = i32x4.ge_s(il, i32x4.splat(0));
      let ah = i32x4.ge_s(ih, i32x4.splat(0));
      if (bounded) {
        al = v128.and(al, f32x4.gt(dot(v128.load(p), v128.load(p, 32), v128.load(p, 64), nx, ny, nz), zero));
        ah = v128.and(
          ah,
          f32x4.gt(dot(v128.load(p, 16), v128.load(p, 48), v128.load(p, 80), nx, ny, nz), zero),
        );
      }
      if (!v128.any_true(v128.or(al, ah))) continue;
      aliveLow = al;
      aliveHigh = ah;
      if (!isEmpty) {
        tryRecent(p);
        if (v128.any_true(v128.or(aliveLow, aliveHigh))) {
          const hint = hints + (<usize>k << 4);
          const a = load<i32>(hint, 0);
          const b = load<i32>(hint, 4);
          const c = load<i32>(hint, 8);
          const d = load<i32>(hint, 12);
          hint0 = -1;
          hint1 = -1;
          hint2 = -1;
          hint3 = -1;
          if (a >= 0) testTriangle(a, p);
          if (b >= 0 && v128.any_true(v128.or(aliveLow, aliveHigh))) testTriangle(b, p);
          if (c >= 0 && v128.any_true(v128.or(aliveLow, aliveHigh))) testTriangle(c, p);
          if (d >= 0 && v128.any_true(v128.or(aliveLow, aliveHigh))) testTriangle(d, p);
          if (v128.any_true(v128.or(aliveLow, aliveHigh))) walk(p);
          store<i32>(hint, hint0, 0);
          store<i32>(hint, hint1, 4);
          store<i32>(hint, hint2, 8);
          store<i32>(hint, hint3, 12);
        }
      }
      let open = i32x4.bitmask(aliveLow) | (i32x4.bitmask(aliveHigh) << 4);
      while (open) {
        const d = load<i32>(p + (<usize>ctz(open) << 2), 192);
        const word = out + (<usize>(d >> 5) << 2);
        store<u32>(word, load<u32>(word) | (1 << (d & 31)));
        open &= open - 1;
      }
    }
  }
}

/** Prepares the recent blockers anew for another origin. */
function refreshRecent(): void {
  const count = recentCount;
  const a = recent0;
  const b = recent1;
  const c = recent2;
  const d = recent3;
  recentCount = 0;
  recentNext = 0;
  if (count > 0) prepare(a);
  if (count > 1) prepare(b);
  if (count > 2) prepare(c);
  if (count > 3) prepare(d);
}

/** Forgets the recent blockers and the hints: what is traced next begins as if nothing had been traced. */
export function forget(): void {
  recentCount = 0;
  recentNext = 0;
  memory.fill(hints, 255, <usize>packetCount * 16);
}
