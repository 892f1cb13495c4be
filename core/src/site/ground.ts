import { RAD } from '../civil';
import type { Point2, Point3, Ring } from '../geometry';
import type { Ground } from '../project';
import { terrainSurface } from './terrain';

/** Level of the ground at a point, metres. */
export function groundLevel(ground: Ground, [x, y]: Point2): number {
  if (ground.kind === 'level') return ground.levelM;
  if (ground.kind === 'terrain') return terrainSurface(ground).levelAt([x, y]);
  const bearing = ground.fallsTowardsDeg * RAD;
  return ground.levelM - Math.tan(ground.slopeDeg * RAD) * (x * Math.sin(bearing) + y * Math.cos(bearing));
}

/** Upward unit normal of the ground at a point. */
export function groundNormal(ground: Ground, at: Point2 = [0, 0]): [number, number, number] {
  if (ground.kind === 'level') return [0, 0, 1];
  if (ground.kind === 'terrain') return terrainSurface(ground).normalAt(at);
  const slope = ground.slopeDeg * RAD;
  const bearing = ground.fallsTowardsDeg * RAD;
  return [Math.sin(slope) * Math.sin(bearing), Math.sin(slope) * Math.cos(bearing), Math.cos(slope)];
}

/** A plane beneath everything: points p with normal · p = offset. */
export interface GroundPlane {
  /** Unit normal, upwards. */
  normal: Point3;
  offset: number;
}

/**
 * The plane that blocks every direction pointing below it, however far: level and sloping ground itself, which has no
 * end; of a terrain the level of its lowest point, for what looks over its edge.
 */
export function groundPlane(ground: Ground): GroundPlane {
  if (ground.kind === 'terrain') return { normal: [0, 0, 1], offset: terrainSurface(ground).lowM };
  const normal = groundNormal(ground);
  return { normal, offset: normal[2] * ground.levelM };
}

/** How far apart the ground is looked at along walls on a terrain, metres. */
const STEP_M = 1;

/** The highest and the lowest ground along a closed outline: at its corners, on a terrain also between them. */
export function groundAlong(ground: Ground, ring: Ring): { highM: number; lowM: number } {
  let highM = -Infinity;
  let lowM = Infinity;
  const look = (p: Point2) => {
    const level = groundLevel(ground, p);
    highM = Math.max(highM, level);
    lowM = Math.min(lowM, level);
  };
  ring.forEach((p, i) => {
    look(p);
    if (ground.kind !== 'terrain') return;
    const q = ring[(i + 1) % ring.length]!;
    const steps = Math.min(400, Math.floor(Math.hypot(q[0] - p[0], q[1] - p[1]) / STEP_M));
    for (let k = 1; k < steps; k++)
      look([p[0] + ((q[0] - p[0]) * k) / steps, p[1] + ((q[1] - p[1]) * k) / steps]);
  });
  return { highM, lowM };
}
