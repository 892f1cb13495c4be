// The engine alone, not the package's door: that brings offsets, triangulation and Minkowski sums to the first view.
import { ClipType, FillRule, type Path64 } from 'clipper2-ts/dist/Core.js';
import { Clipper64, type PolyPath64, PolyTree64 } from 'clipper2-ts/dist/Engine.js';
import { anticlockwise, bounds, type Point2, type Ring } from './ring';

/** A region of the plane: an outline with holes, running either way. */
export interface Polygon {
  outer: Ring;
  holes: readonly Ring[];
}

/** Coarsest and finest grid, points a metre: 0.1 mm and 1 µm. */
const COARSEST = 1e4;
const FINEST = 1e6;
/** Points across the whole: products of two coordinates stay whole numbers. */
const ACROSS = 2 ** 25;

/**
 * The region that lies in any of these. Like all three operations, it works on a grid of 0.1 mm or finer, so that it
 * gives an answer for any input; outlines run anticlockwise, holes clockwise; slivers thinner than the grid go.
 */
export function unitePolygons(polygons: readonly Polygon[]): Polygon[] {
  return combine(ClipType.Union, polygons, []);
}

/** What of the first lies in none of the others. */
export function subtractPolygons(from: readonly Polygon[], others: readonly Polygon[]): Polygon[] {
  return combine(ClipType.Difference, from, others);
}

/** The region that lies in one of the first and in one of the others. */
export function intersectPolygons(some: readonly Polygon[], others: readonly Polygon[]): Polygon[] {
  return combine(ClipType.Intersection, some, others);
}

/** The regions that rings bound, whichever way they run: what lies within an odd number of them. */
export function outlinesFrom(rings: readonly Ring[]): Polygon[] {
  return combine(
    ClipType.Union,
    rings.map((outer) => ({ outer, holes: [] })),
    [],
    FillRule.EvenOdd,
  );
}

function combine(
  kind: ClipType,
  subject: readonly Polygon[],
  clip: readonly Polygon[],
  rule = FillRule.NonZero,
): Polygon[] {
  const all = [...subject, ...clip].flatMap(({ outer }) => [...outer]);
  if (all.length === 0) return [];
  const { minX, minY, maxX, maxY } = bounds(all);
  // The corner of the whole box is a point of the grid, so that what is cut by it stays cut exactly.
  const extent = Math.max(maxX - minX, maxY - minY, 1e-3);
  const scale = Math.max(COARSEST, Math.min(FINEST, ACROSS / extent));
  const path = (ring: Ring): Path64 =>
    ring.map(([x, y]) => ({ x: Math.round((x - minX) * scale), y: Math.round((y - minY) * scale) }));
  const paths = ({ outer, holes }: Polygon): Path64[] => [
    path(anticlockwise(outer)),
    ...holes.map((hole) => path([...anticlockwise(hole)].reverse())),
  ];
  const clipper = new Clipper64();
  clipper.addSubject(subject.flatMap(paths));
  clipper.addClip(clip.flatMap(paths));
  const tree = new PolyTree64();
  clipper.execute(kind, rule, tree);
  const found: Polygon[] = [];
  const ring = ({ polygon }: PolyPath64): Point2[] =>
    (polygon ?? []).map(({ x, y }): Point2 => [minX + x / scale, minY + y / scale]);
  const collect = (parent: PolyPath64) => {
    for (const outer of childrenOf(parent)) {
      const holes = childrenOf(outer);
      found.push({ outer: ring(outer), holes: holes.map(ring) });
      holes.forEach(collect);
    }
  };
  collect(tree);
  return found;
}

function childrenOf(path: PolyPath64): PolyPath64[] {
  return Array.from({ length: path.count }, (_, i) => path.child(i));
}
