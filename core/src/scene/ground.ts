import { RAD } from '../civil/angle';
import type { Point2 } from '../geometry/ring';
import type { Ground } from '../project/schema';

/** Level of the ground at a point, metres. */
export function groundLevel(ground: Ground, [x, y]: Point2): number {
  if (ground.kind === 'level') return ground.levelM;
  const bearing = ground.fallsTowardsDeg * RAD;
  return ground.levelM - Math.tan(ground.slopeDeg * RAD) * (x * Math.sin(bearing) + y * Math.cos(bearing));
}

/** Upward unit normal of the ground. */
export function groundNormal(ground: Ground): [number, number, number] {
  if (ground.kind === 'level') return [0, 0, 1];
  const slope = ground.slopeDeg * RAD;
  const bearing = ground.fallsTowardsDeg * RAD;
  return [Math.sin(slope) * Math.sin(bearing), Math.sin(slope) * Math.cos(bearing), Math.cos(slope)];
}
