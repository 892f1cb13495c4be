/**
 * Builds the bounding volume tree for WebAssembly with SIMD, in AssemblyScript: binned surface area heuristic, all three
 * axes in one pass. Memory is laid out by `tree.ts`.
 *
 * A record is a triangle: least x, y, z and its number, greatest x, y, z and a blank, in single precision. Records are
 * moved while nodes are split, so that each node's triangles lie side by side. A node is least x, y, z and a link,
 * greatest x, y, z and a second link: inner, the right child and the axis; leaf, ~first record and how many.
 */

/** Bytes of a record and of a node. */
const RECORD: usize = 32;
const NODE: usize = 32;
const BINS: i32 = 16;
/** Bins enough for a node of few triangles. */
const FEW_BINS: i32 = 6;
const FEW: i32 = 24;
const LEAF: i32 = 4;
const TRAVERSAL_COST: f32 = 1.2;
/** Below this depth triangles are halved by their number, so that no tree is deeper than what walks it can hold. */
const MAX_DEPTH: i32 = 64;
/** Bytes of one axis of bins: a box each, then how many. */
const BOXES: usize = <usize>BINS * 32;

let records: usize = 0;
let nodes: usize = 0;
let bins: usize = 0;
let counts: usize = 0;
/** From the right: areas and counts of what lies beyond each bin. */
let rightAreas: usize = 0;
let rightCounts: usize = 0;
let nodeCount: i32 = 0;

// What the split of the node at hand was found to be.
let bestAxis: i32 = -1;
let bestBin: i32 = 0;
let bestCost: f32 = 0;
let origin: v128 = f32x4.splat(0);
let scale: v128 = f32x4.splat(0);

/** Builds the tree of so many records; the scratch takes 2,048 bytes. Gives the number of nodes. */
export function buildTree(recordsAt: usize, count: i32, nodesAt: usize, scratchAt: usize): i32 {
  records = recordsAt;
  nodes = nodesAt;
  bins = scratchAt;
  counts = bins + 3 * BOXES;
  rightAreas = counts + 3 * <usize>BINS * 4;
  rightCounts = rightAreas + <usize>BINS * 4;
  nodeCount = 0;
  if (count > 0) split(0, count, 0);
  return nodeCount;
}

// @ts-ignore: decorator
@inline
function halfArea(low: v128, high: v128): f32 {
  const size = f32x4.sub(high, low);
  const x = f32x4.extract_lane(size, 0);
  const y = f32x4.extract_lane(size, 1);
  const z = f32x4.extract_lane(size, 2);
  return x * y + y * z + z * x;
}

/** Bins of a record along the three axes. */
// @ts-ignore: decorator
@inline
function binsOf(at: usize): v128 {
  const centre = f32x4.add(v128.load(at), v128.load(at, 16));
  return i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(centre, origin), scale));
}

function split(start: i32, end: i32, depth: i32): i32 {
  const node = nodeCount++;
  const first = records + <usize>start * RECORD;
  const last = records + <usize>end * RECORD;
  let low = f32x4.splat(Infinity);
  let high = f32x4.splat(-Infinity);
  let centreLow = low;
  let centreHigh = high;
  for (let at = first; at < last; at += RECORD) {
    const a = v128.load(at);
    const b = v128.load(at, 16);
    const centre = f32x4.add(a, b);
    low = f32x4.pmin(low, a);
    high = f32x4.pmax(high, b);
    centreLow = f32x4.pmin(centreLow, centre);
    centreHigh = f32x4.pmax(centreHigh, centre);
  }
  const at = nodes + <usize>node * NODE;
  v128.store(at, low);
  v128.store(at, high, 16);
  const size = end - start;
  bestAxis = -1;
  if (size > 1 && depth < MAX_DEPTH) findSplit(first, last, size, centreLow, centreHigh);
  if (size <= LEAF && (bestAxis < 0 || bestCost / halfArea(low, high) + TRAVERSAL_COST >= <f32>size)) {
    store<i32>(at, ~start, 12);
    store<i32>(at, size, 28);
    return node;
  }
  const axis = max(bestAxis, 0);
  const middle = bestAxis < 0 ? start + (size >> 1) : partition(start, end);
  split(start, middle, depth + 1);
  store<i32>(at, split(middle, end, depth + 1), 12);
  store<i32>(at, axis, 28);
  return node;
}

/** Finds the axis and the bin after which to split. */
function findSplit(first: usize, last: usize, size: i32, centreLow: v128, centreHigh: v128): void {
  const binCount = size < FEW ? FEW_BINS : BINS;
  const width = f32x4.sub(centreHigh, centreLow);
  origin = centreLow;
  // A little less than the number of bins, so that the greatest centre falls into the last one.
  scale = f32x4.div(f32x4.splat(<f32>binCount * 0.99999), width);
  // Along an axis without width everything falls into the first bin.
  scale = v128.and(scale, f32x4.gt(width, f32x4.splat(0)));
  empty(binCount);
  for (let at = first; at < last; at += RECORD) {
    const a = v128.load(at);
    const b = v128.load(at, 16);
    const bin = binsOf(at);
    count(bins, counts, i32x4.extract_lane(bin, 0), a, b);
    count(bins + BOXES, counts + <usize>BINS * 4, i32x4.extract_lane(bin, 1), a, b);
    count(bins + 2 * BOXES, counts + 2 * <usize>BINS * 4, i32x4.extract_lane(bin, 2), a, b);
  }
  for (let axis = 0; axis < 3; axis++) sweep(axis, binCount);
}

function empty(binCount: i32): void {
  const low = f32x4.splat(Infinity);
  const high = f32x4.splat(-Infinity);
  memory.fill(counts, 0, 3 * <usize>BINS * 4);
  for (let axis = 0; axis < 3; axis++)
    for (let b = 0; b < binCount; b++) {
      const box = bins + <usize>axis * BOXES + (<usize>b << 5);
      v128.store(box, low);
      v128.store(box, high, 16);
    }
}

// @ts-ignore: decorator
@inline
function count(boxes: usize, tally: usize, bin: i32, low: v128, high: v128): void {
  const box = boxes + (<usize>bin << 5);
  v128.store(box, f32x4.pmin(v128.load(box), low));
  v128.store(box, f32x4.pmax(v128.load(box, 16), high), 16);
  const at = tally + (<usize>bin << 2);
  store<i32>(at, load<i32>(at) + 1);
}

/** Weighs every place to split along an axis; keeps the best so far. */
function sweep(axis: i32, binCount: i32): void {
  const boxes = bins + <usize>axis * BOXES;
  const tally = counts + <usize>axis * <usize>BINS * 4;
  let low = f32x4.splat(Infinity);
  let high = f32x4.splat(-Infinity);
  let n = 0;
  for (let b = binCount - 1; b > 0; b--) {
    const box = boxes + (<usize>b << 5);
    low = f32x4.pmin(low, v128.load(box));
    high = f32x4.pmax(high, v128.load(box, 16));
    n += load<i32>(tally + (<usize>b << 2));
    store<f32>(rightAreas + (<usize>b << 2), n ? halfArea(low, high) : 0);
    store<i32>(rightCounts + (<usize>b << 2), n);
  }
  low = f32x4.splat(Infinity);
  high = f32x4.splat(-Infinity);
  n = 0;
  for (let b = 0; b < binCount - 1; b++) {
    const box = boxes + (<usize>b << 5);
    low = f32x4.pmin(low, v128.load(box));
    high = f32x4.pmax(high, v128.load(box, 16));
    n += load<i32>(tally + (<usize>b << 2));
    const right = load<i32>(rightCounts + (<usize>(b + 1) << 2));
    if (n == 0 || right == 0) continue;
    const cost =
      halfArea(low, high) * <f32>n + load<f32>(rightAreas + (<usize>(b + 1) << 2)) * <f32>right;
    if (bestAxis < 0 || cost < bestCost) {
      bestAxis = axis;
      bestBin = b;
      bestCost = cost;
    }
  }
}

/** Moves the records of the left child before those of the right; gives where the right ones begin. */
function partition(start: i32, end: i32): i32 {
  const shift = <usize>bestAxis << 2;
  const lane = bins;
  let i = records + <usize>start * RECORD;
  let j = records + <usize>(end - 1) * RECORD;
  while (i <= j) {
    v128.store(lane, binsOf(i));
    if (load<i32>(lane + shift) <= bestBin) {
      i += RECORD;
      continue;
    }
    const a = v128.load(i);
    const b = v128.load(i, 16);
    v128.store(i, v128.load(j));
    v128.store(i, v128.load(j, 16), 16);
    v128.store(j, a);
    v128.store(j, b, 16);
    j -= RECORD;
  }
  return <i32>((i - records) / RECORD);
}
