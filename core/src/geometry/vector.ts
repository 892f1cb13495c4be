/** A point or a vector in space. */
export type Point3 = readonly [number, number, number];

export function dot(a: Point3, b: Point3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

export function cross(a: Point3, b: Point3): Point3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

/** Unit normal of a flat polygon (Newell). */
export function polygonNormal(points: readonly Point3[]): Point3 {
  let [x, y, z] = [0, 0, 0];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    x += (p[1] - q[1]) * (p[2] + q[2]);
    y += (p[2] - q[2]) * (p[0] + q[0]);
    z += (p[0] - q[0]) * (p[1] + q[1]);
  });
  const length = Math.hypot(x, y, z) || 1;
  return [x / length, y / length, z / length];
}

/** Area of a flat outline in space. */
export function areaInSpace(corners: readonly Point3[]): number {
  const sum = [0, 0, 0];
  corners.forEach((a, i) =>
    cross(a, corners[(i + 1) % corners.length]!).forEach((value, k) => (sum[k]! += value)),
  );
  return Math.hypot(...sum) / 2;
}

/** Unit normal of the triangle a, b, c; zero when it has no area. */
export function triangleNormal(a: Point3, b: Point3, c: Point3): [number, number, number] {
  const ux = b[0] - a[0];
  const uy = b[1] - a[1];
  const uz = b[2] - a[2];
  const vx = c[0] - a[0];
  const vy = c[1] - a[1];
  const vz = c[2] - a[2];
  const n: [number, number, number] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.hypot(...n);
  return length > 0 ? [n[0] / length, n[1] / length, n[2] / length] : [0, 0, 0];
}

/** a − b. */
export const minus = (a: Point3, b: Point3): Point3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

/** a + t · d. */
export const plus = (a: Point3, d: Point3, t: number): Point3 => [
  a[0] + d[0] * t,
  a[1] + d[1] * t,
  a[2] + d[2] * t,
];

/** The same length the other way. */
export const opposite = (v: Point3): Point3 => [-v[0], -v[1], -v[2]];
