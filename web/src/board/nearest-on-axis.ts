import { type Ray, Vector3 } from 'three';

/** How far along an axis (a unit vector) through a point a line of sight passes nearest; null where they run alike. */
export function nearestOnAxis(
  ray: Ray,
  origin: readonly [number, number, number],
  axis: readonly [number, number, number],
): number | null {
  const d = new Vector3(...axis);
  const w = new Vector3(...origin).sub(ray.origin);
  const b = d.dot(ray.direction);
  const denominator = 1 - b * b;
  return denominator < 1e-4 ? null : (b * ray.direction.dot(w) - d.dot(w)) / denominator;
}
