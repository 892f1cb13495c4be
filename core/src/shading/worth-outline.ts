import { contours } from 'd3-contour';
import { areaWithHoles, contains, type Point2, type Polygon, signedArea, unitePolygons } from '../geometry';
import type { WorthMap } from './shade-worth';

/** How the outline of a device is taken from a map. */
export type OutlineManner = 'cells' | 'smooth' | 'straight';

/** Parts smaller than so many cells are left out of smoothed outlines. */
const MIN_CELLS = 2;
/** Worth more than nothing: by so much of the best cell. */
const ABOVE = 1e-6;
/** Outlines of less are no plates, m². */
const MIN_M2 = 0.0101;
/** Corners nearer than this are one, in cells. */
const APART = 0.05;
/** How far straight edges may leave the contour, in cells. */
const STRAIGHT = 0.8;

/** Net worth of each cell: unwanted less λ × wanted. */
export function netWorth({ unwanted, wanted }: WorthMap, lambda: number): Float64Array {
  return unwanted.map((value, i) => value - lambda * wanted[i]!);
}

/**
 * The best outline of a device on the plane of a map: where shade is worth more than nothing. As whole cells (panels), along
 * the contour, or along it with straight edges. In the coordinates of a plate.
 */
export function worthOutline(map: WorthMap, lambda: number, manner: OutlineManner): Polygon[] {
  const { columns, rows, cellM, x0 } = map;
  const net = netWorth(map, lambda);
  if (manner === 'cells') {
    const boxes: Polygon[] = [];
    // A strip for each run of cells of a row.
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        if (!(net[row * columns + column]! > 0)) continue;
        let end = column;
        while (end < columns && net[row * columns + end]! > 0) end++;
        const [left, right] = [x0 + column * cellM, x0 + end * cellM];
        boxes.push({
          outer: [
            [left, row * cellM],
            [right, row * cellM],
            [right, (row + 1) * cellM],
            [left, (row + 1) * cellM],
          ],
          holes: [],
        });
        column = end;
      }
    return boxes.length > 0 ? buildable(unitePolygons(boxes)) : [];
  }
  // Cells that no ray passes are worth exactly nothing, and are no part of it.
  const most = net.reduce((best, value) => Math.max(best, value), 0);
  if (most === 0) return [];
  const smooth = blurred(blurred(net, columns, rows), columns, rows);
  const [found] = contours()
    .size([columns, rows])
    .thresholds([ABOVE * most])(Array.from(smooth));
  const ring = (points: number[][]): Point2[] => {
    const at = apart(
      points.slice(0, -1).map(([x, y]): Point2 => [x0 + x! * cellM, y! * cellM]),
      APART * cellM,
    );
    return manner === 'straight' ? straightened(at, STRAIGHT * cellM) : at;
  };
  return (
    found!.coordinates
      .map(([outer, ...holes]): Polygon => ({ outer: ring(outer!), holes: holes.map(ring) }))
      .map(({ outer, holes }) => ({ outer, holes: holes.filter(isLarge) }))
      .filter((polygon) => isLarge(polygon.outer) && areaWithHoles(polygon) > 0)
      // Straightened edges may cross: what they enclose together is the outline.
      .flatMap((polygon) => buildable(unitePolygons([polygon])))
  );

  function isLarge(points: readonly Point2[]): boolean {
    return points.length > 2 && Math.abs(signedArea(points)) >= MIN_CELLS * cellM * cellM;
  }
}

/** Those that a plate can be made of: slivers and single crumbs of cells are none, and parts that meet in a corner are two. */
function buildable(polygons: readonly Polygon[]): Polygon[] {
  const isEnough = (points: readonly Point2[]) => Math.abs(signedArea(points)) >= MIN_M2;
  return polygons
    .flatMap(apartAtCorners)
    .filter(({ outer }) => isEnough(outer))
    .map(({ outer, holes }) => ({ outer, holes: holes.filter(isEnough) }));
}

/** A polygon whose rings pass no corner twice, in parts where it does. */
function apartAtCorners({ outer, holes }: Polygon): Polygon[] {
  const turn = Math.sign(signedArea(outer));
  const rings = loops(outer);
  const parts = rings.filter((ring) => Math.sign(signedArea(ring)) === turn);
  // What an outer ring goes round the other way is a hole of it that touches its edge.
  const inner = [...rings.filter((ring) => !parts.includes(ring)), ...holes.flatMap(loops)];
  return parts.map((part) => ({
    outer: part,
    holes: parts.length === 1 ? inner : inner.filter((hole) => contains(part, middleOf(hole))),
  }));
}

const middleOf = (ring: readonly Point2[]): Point2 => {
  const [a, b] = [ring[0]!, ring[1]!];
  return [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
};

/** A ring cut where it comes by the same corner again. */
function loops(ring: readonly Point2[]): Point2[][] {
  const found: Point2[][] = [];
  const open: Point2[] = [];
  const keyOf = ([x, y]: Point2) => `${x.toFixed(6)} ${y.toFixed(6)}`;
  for (const p of ring) {
    const at = open.findIndex((q) => keyOf(q) === keyOf(p));
    if (at >= 0) found.push(open.splice(at));
    open.push(p);
  }
  found.push(open);
  return found.filter((loop) => loop.length > 2);
}

/** A ring without corners that lie as good as on the one before. */
function apart(ring: readonly Point2[], leastM: number): Point2[] {
  const kept: Point2[] = [];
  for (const p of ring) {
    const last = kept.at(-1);
    if (!last || Math.hypot(p[0] - last[0], p[1] - last[1]) >= leastM) kept.push(p);
  }
  return kept;
}

/** Each cell meaned with its neighbours (1 2 1 either way): suns an hour apart leave ripples that no edge should follow. */
function blurred(values: Float64Array, columns: number, rows: number): Float64Array {
  const line = (
    from: Float64Array,
    count: number,
    step: number,
    first: (k: number) => number,
    lines: number,
  ) => {
    const into = new Float64Array(from.length);
    for (let k = 0; k < lines; k++)
      for (let i = 0; i < count; i++) {
        const at = first(k) + i * step;
        const [before, after] = [
          i > 0 ? from[at - step]! : from[at]!,
          i + 1 < count ? from[at + step]! : from[at]!,
        ];
        into[at] = (before + 2 * from[at]! + after) / 4;
      }
    return into;
  };
  const across = line(values, columns, 1, (row) => row * columns, rows);
  return line(across, rows, columns, (column) => column, columns);
}

/** A ring with as few corners as keep it within a distance of what it was (Douglas & Peucker 1973), begun at its two ends farthest apart. */
function straightened(ring: readonly Point2[], withinM: number): Point2[] {
  if (ring.length < 4) return [...ring];
  const from = farthest(ring, ring[0]!);
  const to = farthest(ring, ring[from]!);
  const turned = [...ring.slice(from), ...ring.slice(0, from)];
  const half = (to - from + ring.length) % ring.length;
  const back = [...turned.slice(half), turned[0]!];
  return [
    ...simplified(turned.slice(0, half + 1), withinM).slice(0, -1),
    ...simplified(back, withinM).slice(0, -1),
  ];
}

function farthest(ring: readonly Point2[], [x, y]: Point2): number {
  let best = 0;
  ring.forEach((p, i) => {
    const b = ring[best]!;
    if (Math.hypot(p[0] - x, p[1] - y) > Math.hypot(b[0] - x, b[1] - y)) best = i;
  });
  return best;
}

function simplified(line: readonly Point2[], withinM: number): Point2[] {
  const [a, b] = [line[0]!, line.at(-1)!];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  let [most, at] = [0, -1];
  for (let i = 1; i < line.length - 1; i++) {
    const [x, y] = [line[i]![0] - a[0], line[i]![1] - a[1]];
    const off = length > 0 ? Math.abs(x * (b[1] - a[1]) - y * (b[0] - a[0])) / length : Math.hypot(x, y);
    if (off > most) [most, at] = [off, i];
  }
  if (at < 0 || most <= withinM) return [a, b];
  return [...simplified(line.slice(0, at + 1), withinM).slice(0, -1), ...simplified(line.slice(at), withinM)];
}
