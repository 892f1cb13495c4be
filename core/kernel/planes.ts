/** The sensor at hand, and the planes through it and the edges of a triangle. */
import { above, below, centreX, centreY, centreZ, TRIANGLE, triangles } from './kernel-state';

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

let originX: v128 = f64x2.splat(0);
let originY: v128 = f64x2.splat(0);
let originZ: v128 = f64x2.splat(0);
export let lowX: v128 = f32x4.splat(0);
export let lowY: v128 = f32x4.splat(0);
export let lowZ: v128 = f32x4.splat(0);
export let highX: v128 = f32x4.splat(0);
export let highY: v128 = f32x4.splat(0);
export let highZ: v128 = f32x4.splat(0);

export let planeX: v128 = f32x4.splat(0);
export let planeY: v128 = f32x4.splat(0);
export let planeZ: v128 = f32x4.splat(0);
/** Of the triangle asked for last, six times the volume between it and the sensor. */
export let planeVolume: f32 = 0;

/** Works out the planes of triangle t for the sensor at hand, a lane an edge; false where it is seen from its own plane. */
// @ts-ignore: decorator
@inline
export function planesOf(t: i32): bool {
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
  planeVolume = abs(volume);
  planeX = nx;
  planeY = ny;
  planeZ = nz;
  return true;
}

/** Places the sensor at hand. */
export function setOrigin(ox: f64, oy: f64, oz: f64): void {
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

