import Flatbush from 'flatbush';
import { bounds, contains, type Point2, type Point3, signedArea } from '../../../geometry';
import { isPlotLine } from './plot-lines';

/** A closed line in plan, with the level of it where it is level, and how high it is drawn. */
export interface DrawnRing {
  ring: Point2[];
  /** Of its corners; null where they differ. */
  level: number | null;
  thickness: number;
  layer: string;
  colour: number;
  /** Drawn as a filled patch: what lies within it was left open. */
  isFilled?: boolean;
}

/** An open line. */
export interface OpenPath {
  points: Point3[];
  layer: string;
  colour: number;
}

/** What is drawn, by its layer, in the order of the drawing. */
export function perLayer<T extends { layer: string }>(all: readonly T[]): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const one of all) {
    const list = found.get(one.layer);
    if (list) list.push(one);
    else found.set(one.layer, [one]);
  }
  return found;
}

/**
 * Open lines of each layer joined into closed ones, ends within a distance being one. Gives the rings, how many lines are
 * left, and how many were drawn twice.
 */
export function joinPaths(
  paths: readonly OpenPath[],
  within: number,
): { rings: DrawnRing[]; open: number; twice: number } {
  const rings: DrawnRing[] = [];
  let open = 0;
  let twice = 0;
  for (const drawn of perLayer(paths).values()) {
    const own = drawnOnce(drawn, within);
    twice += drawn.length - own.length;
    const nodeOf = clusters(
      own.flatMap(({ points }) => [points[0]!, points.at(-1)!]),
      within,
    );
    const ends = new Map<number, { path: number; isLast: boolean }[]>();
    own.forEach((_, path) => {
      for (const isLast of [false, true]) {
        const node = nodeOf[path * 2 + Number(isLast)]!;
        ends.set(node, [...(ends.get(node) ?? []), { path, isLast }]);
      }
    });
    const used = new Uint8Array(own.length);
    own.forEach((first, start) => {
      if (used[start]) return;
      const walked = walk(own, ends, nodeOf, used, start);
      if (!walked) {
        open++;
        used[start] = 1;
        return;
      }
      for (const { path } of walked) used[path] = 1;
      const points = walked.flatMap(({ path, isLast }) => {
        const along = isLast ? own[path]!.points : [...own[path]!.points].reverse();
        return along.slice(0, -1);
      });
      rings.push({ ...ringIn(points), thickness: 0, layer: first.layer, colour: first.colour });
    });
  }
  return { rings, open, twice };
}

/** Lines without those that lie on another of them, corner on corner, either way round. */
function drawnOnce(paths: readonly OpenPath[], within: number): OpenPath[] {
  const nodeOf = clusters(
    paths.flatMap(({ points }) => points),
    within,
  );
  const seen = new Set<string>();
  let at = 0;
  return paths.filter(({ points }) => {
    const nodes = [...nodeOf.subarray(at, at + points.length)];
    at += points.length;
    const [first, last] = [nodes[0]!, nodes.at(-1)!];
    const key = (first < last ? nodes : nodes.reverse()).join(' ');
    return seen.has(key) ? false : (seen.add(key), true);
  });
}

/** A closed line in plan, and its level. */
export function ringIn(points: readonly Point3[]): Pick<DrawnRing, 'ring' | 'level'> {
  const levels = points.map((p) => p[2]);
  const level = levels[0] ?? 0;
  const isLevel = levels.every((z) => Math.abs(z - level) <= 1e-6 * Math.max(1, Math.abs(level)));
  return { ring: points.map(([x, y]): Point2 => [x, y]), level: isLevel ? level : null };
}

type Ends = ReadonlyMap<number, readonly { path: number; isLast: boolean }[]>;

/** From a line on to the next, at forks as far to the left as goes, back to where it began; null where it leads nowhere. */
function walk(
  own: readonly OpenPath[],
  ends: Ends,
  nodeOf: Int32Array,
  used: Uint8Array,
  start: number,
): { path: number; isLast: boolean }[] | null {
  const begin = nodeOf[start * 2]!;
  const walked = [{ path: start, isLast: true }];
  const on = new Set([start]);
  let node = nodeOf[start * 2 + 1]!;
  while (node !== begin) {
    const last = walked.at(-1)!;
    const came = direction(own[last.path]!.points, !last.isLast);
    const next = (ends.get(node) ?? [])
      .filter(({ path }) => !used[path] && !on.has(path))
      .map((end) => {
        const goes = direction(own[end.path]!.points, end.isLast);
        // The turn from where it came from, anticlockwise.
        const turn = Math.atan2(came[0] * goes[1] - came[1] * goes[0], came[0] * goes[0] + came[1] * goes[1]);
        return { ...end, turn: turn <= 1e-9 ? turn + 2 * Math.PI : turn };
      })
      .sort((a, b) => a.turn - b.turn)
      .at(-1);
    if (!next) return null;
    // Entered at its first end it is left at its last.
    walked.push({ path: next.path, isLast: !next.isLast });
    on.add(next.path);
    node = nodeOf[next.path * 2 + Number(!next.isLast)]!;
  }
  return walked;
}

/** The way along which a line leaves one of its ends. */
function direction(points: readonly Point3[], fromLast: boolean): Point2 {
  const [a, b] = fromLast ? [points.at(-1)!, points.at(-2)!] : [points[0]!, points[1]!];
  return [b[0] - a[0], b[1] - a[1]];
}

/** The number of each place, the same for places that lie within a distance of one another. */
function clusters(places: readonly Point3[], within: number): Int32Array {
  const cell = Math.max(within, 1e-9);
  const cells = new Map<string, number[]>();
  const numbers = new Int32Array(places.length);
  const firsts: Point3[] = [];
  places.forEach((p, i) => {
    const [cx, cy] = [Math.floor(p[0] / cell), Math.floor(p[1] / cell)];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (const known of cells.get(`${cx + dx},${cy + dy}`) ?? []) {
          const q = firsts[known]!;
          if (Math.hypot(p[0] - q[0], p[1] - q[1]) <= within) {
            numbers[i] = known;
            return;
          }
        }
    numbers[i] = firsts.length;
    const key = `${cx},${cy}`;
    cells.set(key, [...(cells.get(key) ?? []), firsts.length]);
    firsts.push(p);
  });
  return numbers;
}

/** A ring with its courts; or a plot line, round others that stand for themselves. */
export interface NestedRing {
  outer: DrawnRing;
  courts: Point2[][];
  isRound: boolean;
}

/**
 * Rings of one layer that lie in one another without touching: each with those that are its courts; what lies in a court
 * stands for itself, and so does what lies in the line of a plot. A ring that is drawn twice is one. In the order of the
 * drawing.
 * @param metres of the unit of the drawing; null: whatever lies in a ring is a court of it
 */
export function nestRings(rings: readonly DrawnRing[], metres: number | null): NestedRing[] {
  const sized = rings.map((one, order): Sized => ({
    ...{ one, order, layer: one.layer, within: [] },
    ...{ area: Math.abs(signedArea(one.ring)), box: bounds(one.ring) },
  }));
  const found: (NestedRing & { order: number })[] = [];
  /** Takes rings as outer ones. */
  const take = (outer: readonly Sized[]): void => {
    for (const { one, order, within } of outer) {
      const isRound = metres !== null && isRoundOthers(one, within, metres);
      found.push({
        outer: one,
        order,
        courts: isRound ? [] : within.map((court) => court.one.ring),
        isRound,
      });
      take(isRound ? within : within.flatMap((court) => court.within));
    }
  };
  for (const all of perLayer(sized).values()) take(nestLayer(all.sort((a, b) => b.area - a.area)));
  return found.sort((a, b) => a.order - b.order).map(({ order: _, ...one }) => one);
}

function isRoundOthers(one: DrawnRing, within: readonly Sized[], metres: number): boolean {
  if (one.isFilled || one.thickness !== 0) return false;
  const inMetres = (ring: readonly Point2[]) => ring.map(([x, y]): Point2 => [x * metres, y * metres]);
  return isPlotLine({
    ring: inMetres(one.ring),
    within: within.map((other) => inMetres(other.one.ring)),
    layer: one.layer,
  });
}

interface Sized {
  one: DrawnRing;
  layer: string;
  /** In the drawing. */
  order: number;
  area: number;
  box: ReturnType<typeof bounds>;
  /** Those that lie directly within it. */
  within: Sized[];
}

/** Rings of one layer, the largest first, put into those that they lie in; gives those that lie in none. */
function nestLayer(all: readonly Sized[]): Sized[] {
  const boxes = new Flatbush(all.length);
  for (const { box } of all) boxes.add(box.minX, box.minY, box.maxX, box.maxY);
  boxes.finish();
  /** By their place in `all`, with how deep they lie; those that are drawn twice stay empty. */
  const found: ({ item: Sized; depth: number } | null)[] = [];
  all.forEach((item, i) => {
    const { one, area, box } = item;
    const near = boxes
      .search(box.minX, box.minY, box.maxX, box.maxY, (k) => k < i)
      .flatMap((k) => found[k] ?? [])
      .filter(
        ({ item: { box: around } }) =>
          around.minX <= box.minX &&
          around.minY <= box.minY &&
          around.maxX >= box.maxX &&
          around.maxY >= box.maxY,
      );
    const isTwice = near.some(
      ({ item: other }) =>
        Math.abs(other.area - area) <= 1e-9 * area && one.ring.every((p) => onRing(other.one.ring, p)),
    );
    if (isTwice) {
      found.push(null);
      return;
    }
    const parent = near
      .filter(({ item: { one: other } }) =>
        one.ring.every((p) => contains(other.ring, p) && !onRing(other.ring, p)),
      )
      .reduce<(typeof near)[number] | null>(
        (least, other) => (!least || other.depth > least.depth ? other : least),
        null,
      );
    parent?.item.within.push(item);
    found.push({ item, depth: parent ? parent.depth + 1 : 0 });
  });
  return found.flatMap((one) => (one?.depth === 0 ? one.item : []));
}

function onRing(ring: readonly Point2[], [x, y]: Point2): boolean {
  return ring.some(([ax, ay], i) => {
    const [bx, by] = ring[(i + 1) % ring.length]!;
    const length = Math.hypot(bx - ax, by - ay);
    if (length === 0) return false;
    const off = Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / length;
    const along = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / (length * length);
    return off <= 1e-6 * length && along >= -1e-9 && along <= 1 + 1e-9;
  });
}
