import { EndType, inflatePathsD, JoinType, simplifyPathD } from 'clipper2-ts';
import { outlinesFrom, type Polygon } from './clip';
import { anticlockwise, type Point2, type Ring } from './ring';

/** How far a sharp corner of a grown region reaches, in distances. */
const MITRE = 2;
/** Decimals of the grid on which regions are grown: 0.1 mm. */
const GROWN_DECIMALS = 4;

/** The regions with every edge moved outwards by so much (inwards where negative), corners kept sharp. */
export function growPolygons(polygons: readonly Polygon[], byM: number): Polygon[] {
  const paths = polygons.flatMap(({ outer, holes }) => [
    anticlockwise(outer),
    ...holes.map((hole) => [...anticlockwise(hole)].reverse()),
  ]);
  const grown = inflatePathsD(
    paths.map((ring) => ring.map(([x, y]) => ({ x, y }))),
    byM,
    JoinType.Miter,
    EndType.Polygon,
    MITRE,
    GROWN_DECIMALS,
  );
  return outlinesFrom(grown.map((ring) => ring.map(({ x, y }): Point2 => [x, y])));
}

/** A ring with fewer corners that leaves the given one by no more than about so much. */
export function simplerRing(ring: Ring, tolerance: number): Point2[] {
  const path = ring.map(([x, y]) => ({ x, y }));
  return simplifyPathD(path, tolerance, true).map(({ x, y }): Point2 => [x, y]);
}
