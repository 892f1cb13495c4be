/**
 * Where walks begin. Rays of one sensor, or of sensors close together, all enter the boxes that hold them: those need no test.
 * Walks begin at boxes below them, the nearest first, which are gathered once for all directions and then tested four at a
 * time against all rays of a packet together.
 */
import { NODE, nodes, SENSOR, stack, starts } from './kernel-state';
import { highX, highY, highZ, lowX, lowY, lowZ, setOrigin } from './planes';

/** Starts that there may be. */
const MAX_STARTS: i32 = 64;
/** Bytes of one row of starts: a number each. */
const ROW: usize = 256;
/** Rows: the nodes, how far away they are, their least and greatest x, y, z, and the same from the origins at hand. */
const FAR: usize = ROW;
const BOX: usize = 2 * ROW;
const LOW: usize = 8 * ROW;
const HIGH: usize = 11 * ROW;
/** Boxes of which the square of the diagonal is more than so many times that of the distance are opened. */
const OPEN_FROM: f32 = 30;

/** How many starts there are, in fours. */
export let startFours: i32 = 0;

// @ts-ignore: decorator
@inline
function apart(low: f32, high: f32, from: f32, to: f32): f32 {
  return max(max(low - to, from - high), 0);
}

/** Gathers the starts for origins within a box. */
function gatherStarts(x0: f32, y0: f32, z0: f32, x1: f32, y1: f32, z1: f32): void {
  let top = stack;
  let node = nodes;
  let count = 0;
  /** Nodes that wait on the stack. */
  let waiting = 0;
  for (;;) {
    const ax = load<f32>(node);
    const ay = load<f32>(node, 4);
    const az = load<f32>(node, 8);
    const link = load<i32>(node, 12);
    const bx = load<f32>(node, 16);
    const by = load<f32>(node, 20);
    const bz = load<f32>(node, 24);
    const dx = apart(ax, bx, x0, x1);
    const dy = apart(ay, by, y0, y1);
    const dz = apart(az, bz, z0, z1);
    const far = dx * dx + dy * dy + dz * dz;
    const size = (bx - ax) * (bx - ax) + (by - ay) * (by - ay) + (bz - az) * (bz - az);
    if (link >= 0 && size > OPEN_FROM * far && count + waiting + 2 <= MAX_STARTS) {
      store<usize>(top, nodes + <usize>link * NODE);
      top += 4;
      waiting++;
      node += NODE;
      continue;
    }
    let at = starts + (<usize>count << 2);
    while (at > starts && load<f32>(at - 4, FAR) > far) {
      store<usize>(at, load<usize>(at - 4));
      store<f32>(at, load<f32>(at - 4, FAR), FAR);
      at -= 4;
    }
    store<usize>(at, node);
    store<f32>(at, far, FAR);
    count++;
    if (top == stack) break;
    top -= 4;
    waiting--;
    node = load<usize>(top);
  }
  // The last four are filled up with boxes that nothing meets.
  startFours = (count + 3) >> 2;
  for (let i = 0; i < startFours * 4; i++) {
    const at = starts + (<usize>i << 2);
    const box = load<usize>(at);
    for (let k: usize = 0; k < 3; k++) {
      const corner = box + (k << 2);
      store<f32>(at + k * ROW, i < count ? load<f32>(corner) : 1e30, BOX);
      store<f32>(at + k * ROW, i < count ? load<f32>(corner, 16) : -1e30, BOX + 3 * ROW);
    }
  }
}

/** Gathers where the walks of some sensors begin; the sensor at hand is another then. */
export function gatherFor(sensors: usize, count: i32): void {
  setOrigin(load<f64>(sensors), load<f64>(sensors, 8), load<f64>(sensors, 16));
  let x0 = lowX;
  let y0 = lowY;
  let z0 = lowZ;
  let x1 = highX;
  let y1 = highY;
  let z1 = highZ;
  for (let s = 1; s < count; s++) {
    const at = sensors + <usize>s * SENSOR;
    setOrigin(load<f64>(at), load<f64>(at, 8), load<f64>(at, 16));
    x0 = f32x4.pmin(x0, lowX);
    y0 = f32x4.pmin(y0, lowY);
    z0 = f32x4.pmin(z0, lowZ);
    x1 = f32x4.pmax(x1, highX);
    y1 = f32x4.pmax(y1, highY);
    z1 = f32x4.pmax(z1, highZ);
  }
  gatherStarts(
    f32x4.extract_lane(x0, 0),
    f32x4.extract_lane(y0, 0),
    f32x4.extract_lane(z0, 0),
    f32x4.extract_lane(x1, 0),
    f32x4.extract_lane(y1, 0),
    f32x4.extract_lane(z1, 0),
  );
}

/** Tells the starts where the origins lie: between these two corners. */
export function startsFrom(x0: v128, y0: v128, z0: v128, x1: v128, y1: v128, z1: v128): void {
  for (let i = 0; i < startFours; i++) {
    const at = starts + (<usize>i << 4);
    v128.store(at, f32x4.sub(v128.load(at, BOX), x1), LOW);
    v128.store(at, f32x4.sub(v128.load(at, BOX + ROW), y1), LOW + ROW);
    v128.store(at, f32x4.sub(v128.load(at, BOX + 2 * ROW), z1), LOW + 2 * ROW);
    v128.store(at, f32x4.sub(v128.load(at, BOX + 3 * ROW), x0), HIGH);
    v128.store(at, f32x4.sub(v128.load(at, BOX + 4 * ROW), y0), HIGH + ROW);
    v128.store(at, f32x4.sub(v128.load(at, BOX + 5 * ROW), z0), HIGH + 2 * ROW);
  }
}

/** Which of four starts any ray with reciprocals between these may meet: a bit each. */
// @ts-ignore: decorator
@inline
export function meets(
  four: usize,
  octant: i32,
  leastX: v128,
  leastY: v128,
  leastZ: v128,
  mostX: v128,
  mostY: v128,
  mostZ: v128,
): i32 {
  const at = starts + four;
  const x0 = v128.load(at + (octant & 1 ? HIGH : LOW));
  const x1 = v128.load(at + (octant & 1 ? LOW : HIGH));
  const y0 = v128.load(at + (octant & 2 ? HIGH : LOW), ROW);
  const y1 = v128.load(at + (octant & 2 ? LOW : HIGH), ROW);
  const z0 = v128.load(at + (octant & 4 ? HIGH : LOW), 2 * ROW);
  const z1 = v128.load(at + (octant & 4 ? LOW : HIGH), 2 * ROW);
  const near = f32x4.pmax(
    f32x4.pmax(
      f32x4.pmin(f32x4.mul(x0, leastX), f32x4.mul(x0, mostX)),
      f32x4.pmin(f32x4.mul(y0, leastY), f32x4.mul(y0, mostY)),
    ),
    f32x4.pmax(f32x4.pmin(f32x4.mul(z0, leastZ), f32x4.mul(z0, mostZ)), f32x4.splat(0)),
  );
  const far = f32x4.pmin(
    f32x4.pmin(
      f32x4.pmax(f32x4.mul(x1, leastX), f32x4.mul(x1, mostX)),
      f32x4.pmax(f32x4.mul(y1, leastY), f32x4.mul(y1, mostY)),
    ),
    f32x4.pmax(f32x4.mul(z1, leastZ), f32x4.mul(z1, mostZ)),
  );
  return i32x4.bitmask(f32x4.le(near, f32x4.mul(far, f32x4.splat(1.000002))));
}
