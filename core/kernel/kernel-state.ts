/**
 * What the kernels of this folder read: the tree, its triangles and the directions, as `simd-kernel.ts` lays them out in
 * memory.
 */

/** Bytes of a node, a triangle, a packet of directions and a sensor. */
export const NODE: usize = 32;
export const TRIANGLE: usize = 96;
export const PACKET: usize = 256;
export const SENSOR: usize = 48;
/** A little over 1: takes up the rounding of three operations in the test of a box. */
export const SLACK: f32 = 1.0000012;

export let nodes: usize = 0;
export let triangles: usize = 0;
export let packets: usize = 0;
export let packetCount: i32 = 0;
/** Of each packet four triangles that blocked it before the sensor before, −1 where there are fewer. */
export let hints: usize = 0;
export let recent: usize = 0;
export let stack: usize = 0;
/** Where walks begin; see `walk-starts.ts`. */
export let starts: usize = 0;
/** Where boxes are measured from. */
export let centreX: f64 = 0;
export let centreY: f64 = 0;
export let centreZ: f64 = 0;
export let isEmpty: bool = true;

export function setTree(
  nodesAt: usize,
  trianglesAt: usize,
  nodeCount: i32,
  stackAt: usize,
  recentAt: usize,
  startsAt: usize,
  x: f64,
  y: f64,
  z: f64,
): void {
  nodes = nodesAt;
  triangles = trianglesAt;
  isEmpty = nodeCount == 0;
  stack = stackAt;
  recent = recentAt;
  starts = startsAt;
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
export function dot(ax: v128, ay: v128, az: v128, bx: v128, by: v128, bz: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(ax, bx), f32x4.mul(ay, by)), f32x4.mul(az, bz));
}

/** At least a rounding step lower, and higher. */
// @ts-ignore: decorator
@inline
export function below(v: f32): f32 {
  return v - abs(v) * 1.2e-7 - 1e-30;
}

// @ts-ignore: decorator
@inline
export function above(v: f32): f32 {
  return v + abs(v) * 1.2e-7 + 1e-30;
}
