/**
 * How far along a ray a triangle is met, in lengths of the direction; −1 where the ray passes it by, lies in its plane or
 * has it behind. Edges belong to both triangles that share one: each side is told by the same product with the signs
 * turned, so that nothing leaks between them.
 * @param v corners of triangles, nine numbers each
 * @param o where the triangle's corners begin in v
 */
export function meetTriangle(
  v: Float64Array,
  o: number,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
): number {
  const ax = v[o]! - ox,
    ay = v[o + 1]! - oy,
    az = v[o + 2]! - oz;
  const bx = v[o + 3]! - ox,
    by = v[o + 4]! - oy,
    bz = v[o + 5]! - oz;
  const cx = v[o + 6]! - ox,
    cy = v[o + 7]! - oy,
    cz = v[o + 8]! - oz;
  const p = dx * (ay * bz - az * by) + dy * (az * bx - ax * bz) + dz * (ax * by - ay * bx);
  const q = dx * (by * cz - bz * cy) + dy * (bz * cx - bx * cz) + dz * (bx * cy - by * cx);
  const r = dx * (cy * az - cz * ay) + dy * (cz * ax - cx * az) + dz * (cx * ay - cy * ax);
  const sum = p + q + r;
  if (sum === 0 || (sum > 0 ? Math.min(p, q, r) < 0 : Math.max(p, q, r) > 0)) return -1;
  const volume = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  return Math.max(-1, volume / sum);
}

/** The normal of a triangle along a direction, times the direction's length: positive where the face is met from behind. */
export function cosineAt(v: Float64Array, o: number, dx: number, dy: number, dz: number): number {
  const ex = v[o + 3]! - v[o]!,
    ey = v[o + 4]! - v[o + 1]!,
    ez = v[o + 5]! - v[o + 2]!;
  const fx = v[o + 6]! - v[o]!,
    fy = v[o + 7]! - v[o + 1]!,
    fz = v[o + 8]! - v[o + 2]!;
  const nx = ey * fz - ez * fy;
  const ny = ez * fx - ex * fz;
  const nz = ex * fy - ey * fx;
  return (nx * dx + ny * dy + nz * dz) / Math.hypot(nx, ny, nz);
}
