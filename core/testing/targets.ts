import type { Point2 } from '../src/geometry';
import type { DrawnTarget, Ground, PlaneTarget } from '../src/project';
import { layGrid as lay } from '../src/study';

const LEVEL: Ground = { kind: 'level', levelM: 0 };

/** An upright plane facing south. */
export function planeTarget(outline: Point2[], holes: Point2[][], spacingM: number): PlaneTarget {
  const pairs = (ring: Point2[]) => ring.map(([u, v]): [number, number] => [u, v]);
  return {
    id: 'plane',
    name: 'Plane',
    kind: 'plane',
    origin: [0, 0, 0],
    u: [1, 0, 0],
    v: [0, 0, 1],
    outline: pairs(outline),
    holes: holes.map(pairs),
    spacingM,
    offsetM: 0.01,
    of: null,
  };
}

/** The grid of targets on level ground with nothing on it. */
export function layGrid(targets: DrawnTarget[]) {
  return lay(targets, LEVEL, []);
}
