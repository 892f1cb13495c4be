import { newId } from '../document';
import { areaWithHoles, containsWithHoles, type Point2, type Polygon } from '../geometry';
import { InputError } from '../errors';
import type { Envelope, Mass, Project } from '../project';
import { groundAlong } from '../site';
import type { EnvelopeSolver } from './envelope-field';
import type { EnvelopeLattice } from './envelope-lattice';
import { placesWithin, platesUnder } from './plates-under';

/** How an envelope is filled. */
export interface FillWish {
  storeyM: number;
  /** No storey is narrower anywhere. */
  leastDepthM: number;
  /** No part of a storey is further from a core. */
  coreM: number;
}

/** Whole storeys under an envelope. */
export interface Filled {
  masses: Mass[];
  floorAreaM2: number;
  storeys: number;
  /** Where cores stand, as few as reach all, and over how many storeys. */
  cores: { at: Point2; storeys: number }[];
}

/** Storeys that a stack may have. */
const MAX_STOREYS = 60;
/** Plates whose areas differ by less are the same, m². */
const SAME_M2 = 0.05;
/** Cores are looked for on a grid, metres. */
const CORE_GRID_M = 1;

interface Plate {
  region: Polygon;
  storey: number;
}

/**
 * Fills an envelope with whole storeys, the top stepped: each storey as large as the field lets it be with straight edges,
 * over the one below. Throws InputError `envelope` where not one storey fits.
 */
export function fillEnvelope(
  project: Project,
  envelope: Envelope,
  solver: EnvelopeSolver,
  lattice: EnvelopeLattice,
  { storeyM, leastDepthM, coreM }: FillWish,
): Filled {
  const { ground } = project.site;
  const masses: Mass[] = [];
  const plates: Plate[] = [];
  const lowest = Math.max(...lattice.open.map(({ outer }) => groundAlong(ground, outer).highM));
  const first = platesUnder(solver, lattice, lowest + storeyM, lattice.open, leastDepthM);
  const stack = (region: Polygon, storey: number, floorM: number): void => {
    // As many storeys as have the same plate are one mass.
    let count = 1;
    let above: Polygon[];
    plates.push({ region, storey });
    for (;;) {
      above =
        storey + count >= MAX_STOREYS
          ? []
          : platesUnder(solver, lattice, floorM + (storey + count + 1) * storeyM, [region], leastDepthM);
      if (above.length !== 1 || areaWithHoles(region) - areaWithHoles(above[0]!) > SAME_M2) break;
      plates.push({ region, storey: storey + count });
      count++;
    }
    masses.push(massOf(region, count, storey === 0 ? null : floorM + storey * storeyM));
    for (const next of above) stack(next, storey + count, floorM);
  };
  const massOf = ({ outer, holes }: Polygon, count: number, levelM: number | null): Mass => ({
    id: newId('mass'),
    name: `Storeys ${masses.length + 1}`,
    footprint: { outer: outer.map(tidy), holes: holes.map((hole) => hole.map(tidy)) },
    base: levelM === null ? { on: 'ground', offsetM: 0 } : { on: 'level', levelM: Number(levelM.toFixed(4)) },
    storeys: Array.from({ length: count }, () => ({ heightM: storeyM })),
    roof: { kind: 'flat', parapetM: 0 },
    ...{ openings: [], partitions: [], rooms: [], furniture: [], demolished: false },
  });
  for (const region of first) stack(region, 0, groundAlong(ground, region.outer).highM);
  if (masses.length === 0)
    throw new InputError(
      'envelope',
      `Not one storey of ${storeyM} m and at least ${leastDepthM} m deep fits under “${envelope.name}”; make them lower or less deep.`,
    );
  return {
    masses,
    floorAreaM2: plates.reduce((sum, { region }) => sum + areaWithHoles(region), 0),
    storeys: Math.max(...plates.map(({ storey }) => storey)) + 1,
    cores: coresOf(plates, coreM),
  };
}

const tidy = ([x, y]: Point2): [number, number] => [Number(x.toFixed(4)), Number(y.toFixed(4))];

/** Places that cores are weighed by, at most; the grid is wider where there are more. */
const MAX_PLACES = 500;

/** From the top down, where something is too far from every core that reaches it, a core is put where it serves most of that. */
function coresOf(plates: readonly Plate[], coreM: number): Filled['cores'] {
  const cores: Filled['cores'] = [];
  const reach = (p: Point2) =>
    plates.reduce(
      (most, { region, storey }) => (containsWithHoles(region, p) ? Math.max(most, storey + 1) : most),
      0,
    );
  for (const { region, storey } of [...plates].sort((a, b) => b.storey - a.storey)) {
    const grid = Math.max(CORE_GRID_M, Math.sqrt(areaWithHoles(region) / MAX_PLACES));
    const all = placesWithin(region, grid);
    // What lies between the places of the grid is near enough too.
    const reachM = Math.max(coreM / 2, coreM - grid);
    const near = ([ax, ay]: Point2, [bx, by]: Point2) => Math.hypot(ax - bx, ay - by) <= reachM;
    let far = all.filter((p) => !cores.some(({ at, storeys }) => storeys > storey && near(at, p)));
    while (far.length > 0) {
      const served = (p: Point2) => far.reduce((sum, q) => sum + Number(near(p, q)), 0);
      const best = all.map((p) => ({ p, count: served(p) })).reduce((a, b) => (b.count > a.count ? b : a));
      cores.push({ at: best.p, storeys: reach(best.p) });
      far = far.filter((p) => !near(best.p, p));
    }
  }
  return cores;
}
