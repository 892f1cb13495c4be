import type { LayeredObstacles, Transmission } from '../trace';

/** What rays meet: what blocks, and what lets light pass. */
export interface Surroundings {
  layers: LayeredObstacles['layers'];
  transmissions: readonly Transmission[];
}

/** Several sets of obstacles as one. */
export function surroundingsOf(all: readonly LayeredObstacles[]): Surroundings {
  return {
    layers: all.flatMap(({ layers }) => layers),
    transmissions: all.flatMap(({ transmission }) => transmission ?? []),
  };
}
