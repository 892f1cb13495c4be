import { edgeNumbers, freshEdgeNumber, normalFootprint } from '../../../form';
import type { Point2, Ring } from '../../../geometry';
import type { Footprint, MassShape, OpeningHost } from '../../../project';

/** Lines nearer than this are one, metres. */
const NEAR_M = 0.02;
/** Walls turned by less than this keep their openings when they are pushed. */
const TURNED = Math.cos((2 * Math.PI) / 180);

interface Edge {
  from: Point2;
  along: Point2;
  lengthM: number;
}

const edgesOf = (ring: Ring): Edge[] =>
  ring.map((from, i) => {
    const to = ring[(i + 1) % ring.length]!;
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    const lengthM = Math.hypot(dx, dy);
    return { from, along: [dx / lengthM, dy / lengthM], lengthM };
  });

/** How far two edges run along one line in one direction, metres; 0 where they do not. */
function overlap(a: Edge, b: Edge): number {
  const facing = a.along[0] * b.along[0] + a.along[1] * b.along[1];
  if (facing < TURNED) return 0;
  const off = (p: Point2) => Math.abs((p[0] - a.from[0]) * a.along[1] - (p[1] - a.from[1]) * a.along[0]);
  const end: Point2 = [b.from[0] + b.along[0] * b.lengthM, b.from[1] + b.along[1] * b.lengthM];
  if (off(b.from) > NEAR_M || off(end) > NEAR_M) return 0;
  const start = startAlong(a, b);
  return Math.max(0, Math.min(a.lengthM, start + b.lengthM) - Math.max(0, start));
}

/** Where an edge begins, along another. */
const startAlong = (a: Edge, b: Edge) =>
  (b.from[0] - a.from[0]) * a.along[0] + (b.from[1] - a.from[1]) * a.along[1];

/** Which edge of the ring before each edge of the new one is: on the same line, or pushed between the same neighbours. */
function matched(before: readonly Edge[], now: readonly Edge[]): (number | null)[] {
  const pairs = now
    .flatMap((edge, i) => before.map((old, k) => ({ i, k, lengthM: overlap(old, edge) })))
    .filter(({ lengthM }) => lengthM > NEAR_M)
    .sort((a, b) => b.lengthM - a.lengthM);
  const of: (number | null)[] = now.map(() => null);
  const taken = new Set<number>();
  const take = (i: number, k: number) => {
    if (of[i] !== null || taken.has(k)) return;
    of[i] = k;
    taken.add(k);
  };
  for (const { i, k } of pairs) take(i, k);
  // A wall that was pushed lies between those that it lay between.
  const n = now.length;
  now.forEach((edge, i) => {
    if (of[i] !== null) return;
    const [left, right] = [of[(i + n - 1) % n], of[(i + 1) % n]];
    if (left === null || left === undefined) return;
    const k = (left + 1) % before.length;
    const isBetween = right === (k + 1) % before.length;
    const old = before[k]!;
    const turned = old.along[0] * edge.along[0] + old.along[1] * edge.along[1];
    if (isBetween && turned > TURNED) take(i, k);
  });
  return of;
}

/** A footprint that was read again, and how the walls of the one before go on in it. */
export interface KeptWalls {
  footprint: Footprint;
  /** Walls that are gone, as ring/edge. */
  gone: Set<string>;
  /** By how much walls begin further back along themselves than they did, metres; by ring/edge. */
  shiftM: Map<string, number>;
}

/** Gives the edges of a new footprint the numbers of those that they are, and new ones to the others. */
export function keptWalls(before: Footprint, fresh: Footprint): KeptWalls {
  const [was, is] = [normalFootprint(before), normalFootprint(fresh)];
  const numbers = edgeNumbers(before);
  const gone = new Set(numbers.flatMap((ring, r) => ring.map((edge) => `${r}/${edge}`)));
  const shiftM = new Map<string, number>();
  const edges = [is.outer, ...is.holes].map((ring, r) => {
    const old = [was.outer, ...was.holes][r];
    const [a, b] = [old ? edgesOf(old) : [], edgesOf(ring)];
    const taken = [...(numbers[r] ?? [])];
    return matched(a, b).map((k, i) => {
      if (k === null) {
        const number = freshEdgeNumber(taken);
        taken.push(number);
        return number;
      }
      const number = numbers[r]![k]!;
      gone.delete(`${r}/${number}`);
      const by = -startAlong(a[k]!, b[i]!);
      if (Math.abs(by) > 1e-4) shiftM.set(`${r}/${number}`, by);
      return number;
    });
  });
  const rings = (list: readonly Ring[]) => list.map((ring) => ring.map(([x, y]): [number, number] => [x, y]));
  return { footprint: { outer: rings([is.outer])[0]!, holes: rings(is.holes), edges }, gone, shiftM };
}

type Opening = MassShape['openings'][number];

/** Openings moved in their faces. */
export function shiftedOpening(
  opening: Opening,
  u: number,
  v: number,
  host: OpeningHost = opening.host,
): Opening {
  const { outline } = opening;
  return {
    ...opening,
    host,
    outline:
      outline.kind === 'polygon'
        ? { ...outline, points: outline.points.map(([pu, pv]): [number, number] => [pu + u, pv + v]) }
        : { ...outline, u: outline.u + u, v: outline.v + v },
  };
}
