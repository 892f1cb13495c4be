import { type Mass, type Neighbour, type OpeningRule, defaultMass, type Point2 } from '@dial-shade/core';

/** A rectangle from its lower left corner. */
export function box(x: number, y: number, width: number, depth: number): Point2[] {
  return [
    [x, y],
    [x + width, y],
    [x + width, y + depth],
    [x, y + depth],
  ];
}

/** A mass of these storeys on the ground. */
export function mass(
  id: string,
  name: string,
  outer: Point2[],
  heights: number[],
  roof?: Mass['roof'],
): Mass {
  return {
    ...defaultMass(id, name, outer, 1),
    storeys: heights.map((heightM) => ({ heightM })),
    roof: roof ?? { kind: 'flat', parapetM: 0 },
  };
}

/** The same as a neighbour. */
export function building(...args: Parameters<typeof mass>): Neighbour {
  return { kind: 'building', ...mass(...args) };
}

/** A scope that leaves nothing out. */
export const ANYWHERE: OpeningRule['scope'] = {
  owners: null,
  sectors: null,
  storeys: null,
  walls: null,
  except: [],
};

/** Windows of one size in every wall that faces one of the sectors. */
export function lights(
  id: string,
  name: string,
  scope: Partial<OpeningRule['scope']>,
  make: OpeningRule['make'],
): OpeningRule {
  return {
    id,
    name,
    scope: { ...ANYWHERE, ...scope },
    make,
    glazing: 'double-coated',
    revealM: 0.12,
    openable: true,
  };
}
