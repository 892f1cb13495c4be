import {
  areaWithHoles,
  bounds,
  containsWithHoles,
  growPolygons,
  intersectPolygons,
  type Point2,
  type Polygon,
  type Ring,
  simplerRing,
} from '../geometry';
import type { EnvelopeSolver } from './envelope-field';
import { type EnvelopeLattice, superlevel } from './envelope-lattice';

/** Places along outlines are looked at this far apart, metres. */
const ALONG_M = 0.4;
/** What stands over the field by less is not over it, metres. */
const EXACT_M = 1e-3;
/** Straight edges stay this far within the contour; wider where that is not enough. */
const STRAIGHT_M = [0.12, 0.2, 0.3, 0.45] as const;
/** And the contour is taken this far over the level. */
const OVER_M = [0.02, 0.06, 0.15, 0.4] as const;

/** Places along a ring, its corners among them. */
export function placesAlong(ring: Ring, apartM = ALONG_M): Point2[] {
  return ring.flatMap((p, i): Point2[] => {
    const q = ring[(i + 1) % ring.length]!;
    const parts = Math.max(1, Math.ceil(Math.hypot(q[0] - p[0], q[1] - p[1]) / apartM));
    return Array.from({ length: parts }, (_, k): Point2 => [
      p[0] + ((q[0] - p[0]) * k) / parts,
      p[1] + ((q[1] - p[1]) * k) / parts,
    ]);
  });
}

/** Places within a region, on a grid. */
export function placesWithin(region: Polygon, apartM: number): Point2[] {
  const { minX, minY, maxX, maxY } = bounds(region.outer);
  const found: Point2[] = [];
  for (let y = minY + apartM / 2; y < maxY; y += apartM)
    for (let x = minX + apartM / 2; x < maxX; x += apartM)
      if (containsWithHoles(region, [x, y])) found.push([x, y]);
  return found;
}

/** Whether a region may be built up to a level, by its outlines and a grid within. */
export function fitsUnder(solver: EnvelopeSolver, region: Polygon, levelM: number): boolean {
  return (
    [region.outer, ...region.holes]
      .flatMap((ring) => placesAlong(ring))
      .every((p) => solver.at(p).levelM >= levelM - EXACT_M) &&
    placesWithin(region, 1).every((p) => solver.at(p).levelM >= levelM - EXACT_M)
  );
}

/**
 * Plates with straight edges that may be built up to a level, within others, nowhere narrower than so much. Held against
 * the exact field along their edges and within; what does not fit in any manner is left out.
 */
export function platesUnder(
  solver: EnvelopeSolver,
  lattice: EnvelopeLattice,
  levelM: number,
  inside: readonly Polygon[],
  leastDepthM: number,
): Polygon[] {
  let plates: Polygon[] = [];
  for (let k = 0; k < OVER_M.length; k++) {
    const straight = STRAIGHT_M[k]!;
    const raw = growPolygons(superlevel(lattice, levelM + OVER_M[k]!), -straight);
    const plain = raw.map(({ outer, holes }) => ({
      outer: simplerRing(outer, straight),
      holes: holes.map((hole) => simplerRing(hole, straight)),
    }));
    plates = opened(intersectPolygons(plain.filter(isRegion), inside), leastDepthM);
    if (plates.every((plate) => fitsUnder(solver, plate, levelM))) return plates;
  }
  return plates.filter((plate) => fitsUnder(solver, plate, levelM));
}

const isRegion = ({ outer }: Polygon) => outer.length > 2;

/** Corners nearer than this to a line through their neighbours are no corners, metres. */
const FLAT_M = 0.004;

/** Regions without what is narrower than a depth. */
function opened(regions: readonly Polygon[], depthM: number): Polygon[] {
  const core = growPolygons(regions, -depthM / 2);
  if (core.length === 0) return [];
  return intersectPolygons(growPolygons(core, depthM / 2), regions)
    .map(({ outer, holes }) => ({
      outer: simplerRing(outer, FLAT_M),
      holes: holes.map((hole) => simplerRing(hole, FLAT_M)).filter((hole) => hole.length > 2),
    }))
    .filter((region) => isRegion(region) && areaWithHoles(region) >= depthM * depthM);
}
