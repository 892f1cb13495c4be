import { innerPoint } from '../form';
import {
  areaWithHoles,
  bounds,
  centroid,
  containsWithHoles,
  dot,
  intersectPolygons,
  minus,
  type Point2,
  type Point3,
  polygonsArea,
  type Ring,
  subtractPolygons,
} from '../geometry';
import type { Scene } from '../scene';
import { castersOf, castShade, type FlatReceiver, type RoomOpening } from '../shade';
import { MAX_POINTS } from './ray-shapes';

/** What of a cell of a pane lies in sun: the middle of its largest part, and its area. */
export interface LitCell {
  at: Point3;
  areaM2: number;
  opening: RoomOpening;
}

/** The cells of a regular grid over a pane, in the frame of its face. */
export function paneCells(opening: RoomOpening, spacingM: number): Ring[] {
  return cellsIn(paneReceiver(opening).outline, spacingM);
}

/**
 * The cells of a pane that lie in sun, each with what of it does, by exact polygons: so what enters goes
 * by the glass and not by the grid. None where the sun stands behind it.
 */
export function litCells(opening: RoomOpening, cells: readonly Ring[], scene: Scene, sun: Point3): LitCell[] {
  const { receiver } = paneReceiver(opening);
  if (dot(receiver.normal, sun) <= 1e-6) return [];
  // Ground that is a plane blocks by itself, not by what shows it.
  const pieces = scene.pieces.slice(scene.shown > 0 ? 1 : 0);
  const shade = castShade(receiver, castersOf(pieces, sun));
  const lit = shade.length > 0 ? subtractPolygons(receiver.regions, shade) : [...receiver.regions];
  return cells.flatMap((cell): LitCell[] => {
    const parts = intersectPolygons(lit, [{ outer: cell, holes: [] }]);
    if (parts.length === 0) return [];
    const largest = parts.reduce((best, one) => (areaWithHoles(one) > areaWithHoles(best) ? one : best));
    const middle = centroid(largest.outer);
    const at = containsWithHoles(largest, middle) ? middle : innerPoint(largest);
    return [{ at: receiver.lift(at), areaM2: polygonsArea(parts), opening }];
  });
}

/** The cells of a regular grid over an outline, as near to the spacing as divide its box evenly: those that touch it. */
function cellsIn(outline: readonly Point2[], spacingM: number): Ring[] {
  const { minX, minY, maxX, maxY } = bounds(outline);
  const [w, h] = [maxX - minX, maxY - minY];
  const [n, m] = [w, h].map((length) => Math.max(1, Math.round(length / spacingM))) as [number, number];
  const [cw, ch] = [w / n, h / m];
  return Array.from({ length: Math.min(n * m, MAX_POINTS + 1) }, (_, i): Ring => {
    const [x, y] = [minX + (i % n) * cw, minY + Math.floor(i / n) * ch];
    return [
      [x, y],
      [x + cw, y],
      [x + cw, y + ch],
      [x, y + ch],
    ];
  });
}

/** The pane of an opening as what shade is cast on, and its outline in the frame of its face. */
function paneReceiver({ face, pane }: RoomOpening): { receiver: FlatReceiver; outline: Ring } {
  const { origin, u, v, normal } = face;
  const flat = (p: Point3): Point2 => [dot(minus(p, origin), u), dot(minus(p, origin), v)];
  const outline = pane.map(flat);
  const inM = dot(minus(pane[0]!, origin), normal);
  return {
    outline,
    receiver: {
      normal,
      offset: dot(pane[0]!, normal),
      flat,
      lift: ([a, b]) =>
        [0, 1, 2].map((k) => origin[k]! + u[k]! * a + v[k]! * b + normal[k]! * inM) as unknown as Point3,
      regions: [{ outer: outline, holes: [] }],
      stretch: 1,
    },
  };
}
