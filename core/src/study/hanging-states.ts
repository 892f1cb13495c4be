import type { FaceAxes, MovedBy } from '../devices';
import { positionNow, type Piece, solidAt } from '../scene';
import { type LayeredObstacles, type MovingObstacle, withStanding } from '../trace';
import { type FlatTarget, leftInside } from './flat-target';
import type { RadiationSamples } from './kinds';
import { samplesOfSome } from './kinds/samples-of-some';
import { movedByOf } from './moving-tracer';

/** Directions of the sky of each way of hanging, where there are several. */
const PARTS = 1024;

/** One way in which everything that moves hangs, and the hours in which it does. */
export interface HangingState {
  samples: RadiationSamples;
  /** A moment at which it hangs so; null: at rest. */
  by: MovedBy | null;
}

/**
 * The hours of samples by how what moves hangs in them: beam, sky and what is thrown back meet it as it does. Of what does
 * not move, all of them.
 */
export function hangingStates(moving: readonly MovingObstacle[], samples: RadiationSamples): HangingState[] {
  if (moving.length === 0) return [{ samples, by: null }];
  const walls = moving.map(({ make, stations }) => ({ make, faces: facesOf(stations) }));
  const keyOf = (by: MovedBy | null) =>
    walls.map(({ make, faces }) => faces.map((face) => positionNow(make, face, by)).join()).join(';');
  const keys = Array.from({ length: samples.suns }, (_, d) => keyOf(movedByOf(samples, d)));
  const rest = keyOf(null);
  const states = new Map<string, MovedBy | null>([[rest, null]]);
  keys.forEach((key, d) => {
    if (!states.has(key)) states.set(key, movedByOf(samples, d));
  });
  return [...states].map(([key, by]) => ({
    by,
    samples: samplesOfSome(samples, (sun) => (sun === null ? rest : keys[sun]) === key, PARTS),
  }));
}

/** Walls that lie different ways. */
function facesOf(stations: MovingObstacle['stations']): FaceAxes[] {
  const faces = new Map<string, FaceAxes>();
  for (const { face } of stations)
    faces.set([...face.normal, ...face.v].map((k) => k.toFixed(6)).join(), face);
  return [...faces.values()];
}

/** Obstacles with what moves as it hangs at a moment, at rest for null, among what stands. */
export function hungObstacles(obstacles: LayeredObstacles, by: MovedBy | null): LayeredObstacles {
  const { moving } = obstacles;
  if (moving.length === 0) return obstacles;
  const pieces = moving.map(({ make, stations }): Piece =>
    solidAt(
      make,
      stations,
      stations.map(({ face }) => positionNow(make, face, by)),
    ),
  );
  return withStanding(obstacles, pieces);
}

/** Panes whose sheets inside hang as they do at a moment: less of what falls on them comes in. */
export function hungTargets(targets: readonly FlatTarget[], by: MovedBy | null): FlatTarget[] {
  return targets.map((target) => {
    const { glass } = target;
    if (!glass?.inside) return target;
    const { inside: _, ...bare } = glass;
    return { ...target, glass: { ...bare, gValue: glass.gValue * leftInside(glass, by) } };
  });
}
