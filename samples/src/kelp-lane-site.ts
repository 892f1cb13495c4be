import type { Ground } from '@dial-shade/core';

/** The plot falls towards the harbour in the south-west. */
export const GROUND: Ground = { kind: 'plane', levelM: 12, slopeDeg: 2.5, fallsTowardsDeg: 205 };

/** The allotment garden west of the plot. */
export function gardenOutline(): [number, number][] {
  return [
    [-29, 14],
    [-4, 14],
    [-4, 41],
    [-24, 41],
    [-24, 38],
    [-29, 38],
  ];
}
