/**
 * The mask kernel for WebAssembly with SIMD, in AssemblyScript: sensors × directions against a tree, any
 * hit: one sensor and packets of 8 neighbouring directions at a time. Memory is laid out by `simd-kernel.ts`, which
 * explains the layout.
 *
 * A ray meets a triangle when it passes on the inner side of the three planes through its origin and the triangle's
 * edges. Corners relative to the origin are formed in double precision and rounded once; all planes come from those
 * rounded corners, so two triangles that share an edge have exactly opposite planes there, and no ray slips between them.
 */

/** Bytes of a node, a triangle, a packet of directions, a sensor, and a prepared blocker. */
const NODE: usize = 32;
const TRIANGLE: usize = 96;
const PACKET: usize = 256;
const SENSOR: usize = 48;
const BLOCKER: usize = 144;
/** Recent blockers that are tried before the tree. */
const RECENT: i32 = 4;
/** A little over 1: takes up the rounding of three operations in the test of a box. */
const SLACK: f32 = 1.0000012;

let nodes: usize = 0;
let triangles: usize = 0;
let packets: usize = 0;
let packetCount: i32 = 0;
let hints: usize = 0;
let recent: usize = 0;
let stack: usize = 0;
/** Where boxes are measured from. */
let centreX: f64 = 0;
let centreY: f64 = 0;
let centreZ: f64 = 0;
let isEmpty: bool = true;

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

export function setTree(
  nodesAt: usize,
  trianglesAt: usize,
  nodeCount: i32,
  stackAt: usize,
  recentAt: usize,
  x: f64,
  y: f64,
  z: f64,
): void {
  nodes = nodesAt;
  triangles = trianglesAt;
  isEmpty = nodeCount == 0;
  stack = stackAt;
  recent = recentAt;
  centreX = x;
  centreY = y;
  centreZ = z;
}

export function setDirections(packetsAt: usize, count: i32, hintsAt: usize): void {
  packets = packetsAt;
  packetCount = count;
  hints = hintsAt;
}

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

// @ts-ignore: decorator
@inline
function dot(ax: v128, ay: v128, az: v128, bx: v128, by: v128, bz: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(ax, bx), f32x4.mul(ay, by)), f32x4.mul(az, bz));
}

/** Three doubles, less one number, as the first three lanes of single precision. */
// @ts-ignore: decorator
@inline
function relative(at: usize, origin: v128): v128 {
  const two = f32x4.demote_f64x2_zero(f64x2.sub(v128.load(at), origin));
  const one = f32x4.demote_f64x2_zero(f64x2.sub(v128.load64_zero(at, 16), origin));
  return v128.shuffle<f32>(two, one, 0, 1, 4, 5);
}

// @ts-ignore: decorator
@inline
function turned(v: v128): v128 {
  return v128.shuffle<f32>(v, v, 1, 2, 0, 3);
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

let originX: v128 = f64x2.splat(0);
let originY: v128 = f64x2.splat(0);
let originZ: v128 = f64x2.splat(0);
let lowX: v128 = f32x4.splat(0);
let lowY: v128 = f32x4.splat(0);
let lowZ: v128 = f32x4.splat(0);
let highX: v128 = f32x4.splat(0);
let highY: v128 = f32x4.splat(0);
let highZ: v128 = f32x4.splat(0);

let planeX: v128 = f32x4.splat(0);
let planeY: v128 = f32x4.splat(0);
let planeZ: v128 = f32x4.splat(0);

/** Works out the planes of triangle t for the sensor at hand, a lane an edge; false where it is seen from its own plane. */
// @ts-ignore: decorator
@inline
function planesOf(t: i32): bool {
  const at = triangles + <usize>t * TRIANGLE;
  const x = relative(at, originX);
  const y = relative(at + 32, originY);
  const z = relative(at + 64, originZ);
  const tx = turned(x);
  const ty = turned(y);
  const tz = turned(z);
  let nx = f32x4.sub(f32x4.mul(y, tz), f32x4.mul(z, ty));
  let ny = f32x4.sub(f32x4.mul(z, tx), f32x4.mul(x, tz));
  let nz = f32x4.sub(f32x4.mul(x, ty), f32x4.mul(y, tx));
  const volume =
    f32x4.extract_lane(nx, 0) * f32x4.extract_lane(x, 2) +
    f32x4.extract_lane(ny, 0) * f32x4.extract_lane(y, 2) +
    f32x4.extract_lane(nz, 0) * f32x4.extract_lane(z, 2);
  if (volume == 0) return false;
  if (volume < 0) {
    nx = f32x4.neg(nx);
    ny = f32x4.neg(ny);
    nz = f32x4.neg(nz);
  }
  planeX = nx;
  planeY = ny;
  planeZ = nz;
  return true;
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
  lastBlocker = t;
}

let lastBlocker: i32 = -1;

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
  let top = stack;
  let node = nodes;
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
    if (top == stack) return;
    top -= 4;
    node = load<usize>(top);
  }
}

/**
 * Sets a bit for every open direction: `words` words of 32 bits a sensor, from `mask` on, which are 0 before.
 * With `bounded`, directions at a right angle to the sensor's normal or behind it are not traced and stay 0.
 */
export function bySensor(sensors: usize, count: i32, bounded: bool, mask: usize, words: i32): void {
  const zero = f32x4.splat(0);
  for (let s = 0; s < count; s++) {
    const at = sensors + <usize>s * SENSOR;
    const ox = load<f64>(at);
    const oy = load<f64>(at, 8);
    const oz = load<f64>(at, 16);
    setOrigin(ox, oy, oz);
    refreshRecent();
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
          const hint = hints + (<usize>k << 2);
          const t = load<i32>(hint);
          lastBlocker = t;
          if (t >= 0) testTriangle(t, p);
          if (v128.any_true(v128.or(aliveLow, aliveHigh))) walk(p);
          store<i32>(hint, lastBlocker);
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

function setOrigin(ox: f64, oy: f64, oz: f64): void {
  originX = f64x2.splat(ox);
  originY = f64x2.splat(oy);
  originZ = f64x2.splat(oz);
  const x = <f32>(ox - centreX);
  const y = <f32>(oy - centreY);
  const z = <f32>(oz - centreZ);
  lowX = f32x4.splat(below(x));
  lowY = f32x4.splat(below(y));
  lowZ = f32x4.splat(below(z));
  highX = f32x4.splat(above(x));
  highY = f32x4.splat(above(y));
  highZ = f32x4.splat(above(z));
}

/** At least a rounding step lower, and higher. */
// @ts-ignore: decorator
@inline
function below(v: f32): f32 {
  return v - abs(v) * 1.2e-7 - 1e-30;
}

// @ts-ignore: decorator
@inline
function above(v: f32): f32 {
  return v + abs(v) * 1.2e-7 + 1e-30;
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
  memory.fill(hints, 255, <usize>packetCount * 4);
}
