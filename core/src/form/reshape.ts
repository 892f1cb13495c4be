import { InputError } from '../errors';
import {
  anticlockwise,
  edgeOf,
  insetRing,
  type Point2,
  type Ring,
  ringProblem,
  signedArea,
  unitePolygons,
} from '../geometry';
import type { Footprint, Ground, Mass, MassShape, Opening } from '../project';
import { massLevels, storeyFloorM } from './levels';
import { outlineBox } from './outline';
import { edgeNumbers, freshEdgeNumber, normalFootprint, type Plate } from './plates';
import { footprintOf, plainRing } from './transform';

type Pair = [number, number];

/** The rings of a footprint as edges are counted, the outer one first. */
function rings(shape: Pick<MassShape, 'footprint'>): Ring[] {
  const { outer, holes } = normalFootprint(shape.footprint);
  return [outer, ...holes];
}

function withRing<T extends MassShape>(shape: T, ring: number, points: Ring, numbers?: number[]): T {
  const all = rings(shape).map((r, i) => (i === ring ? points : r).map(([x, y]): Pair => [x, y]));
  const edges = edgeNumbers(shape.footprint);
  if (numbers) edges[ring] = numbers;
  return { ...shape, footprint: footprintOf(all[0]!, all.slice(1), edges) };
}

/** The mass with one corner of a ring elsewhere. */
export function moveCorner<T extends MassShape>(shape: T, ring: number, corner: number, to: Point2): T {
  const points = rings(shape)[ring]!.map((p, i): Point2 => (i === corner ? to : p));
  return withRing(shape, ring, points);
}

/**
 * The mass with a new corner on an edge, in its middle unless told. The first half keeps the number of the edge, the
 * second gets a new one; openings go to the half that their middle is on.
 * @param edge where the edge runs in its ring
 */
export function splitEdge<T extends MassShape>(
  shape: T,
  ring: number,
  edge: number,
  at?: Point2,
  number = freshEdgeNumber(edgeNumbers(shape.footprint)[ring]!),
): T {
  const points = rings(shape)[ring]!;
  const numbers = edgeNumbers(shape.footprint)[ring]!;
  const { p, q } = edgeOf(points, edge);
  const middle: Point2 = at ?? [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
  const firstM = Math.hypot(middle[0] - p[0], middle[1] - p[1]);
  const after = <T>(list: readonly T[], item: T) => [
    ...list.slice(0, edge + 1),
    item,
    ...list.slice(edge + 1),
  ];
  return {
    ...withRing(shape, ring, after(points, middle), after(numbers, number)),
    storeys: shape.storeys.map((storey) =>
      storey.setbacksM && ring === 0
        ? { ...storey, setbacksM: after(storey.setbacksM, storey.setbacksM[edge]!) }
        : storey,
    ),
    openings: shape.openings.map((opening) => {
      const { host } = opening;
      if (host.on !== 'wall' || host.ring !== ring || host.edge !== numbers[edge]) return opening;
      const { u0, u1 } = outlineBox(opening.outline);
      if ((u0 + u1) / 2 <= firstM) return opening;
      return { ...slideOpening(opening, -firstM), host: { ...host, edge: number } };
    }),
  };
}

/** The mass without a corner; the edge before it takes the place of both, openings on the two go with it. */
export function removeCorner<T extends MassShape>(shape: T, ring: number, corner: number): T {
  const points = rings(shape)[ring]!;
  if (points.length <= 3)
    throw new InputError('footprint', 'A footprint needs at least three corners; this one stays.');
  const numbers = edgeNumbers(shape.footprint)[ring]!;
  const n = points.length;
  const gone = [numbers[corner]!, numbers[(corner + n - 1) % n]!];
  const drop = <T>(list: readonly T[]) => list.filter((_, i) => i !== corner);
  return {
    ...withRing(shape, ring, drop(points), drop(numbers)),
    storeys: shape.storeys.map((storey) =>
      storey.setbacksM && ring === 0 ? { ...storey, setbacksM: drop(storey.setbacksM) } : storey,
    ),
    openings: shape.openings.filter(
      ({ host }) => host.on !== 'wall' || host.ring !== ring || !gone.includes(host.edge),
    ),
  };
}

/**
 * The mass with one wall pushed out (or pulled in, where negative) through all storeys. Openings on the walls beside it
 * stay where they are in space. Throws InputError `push` when that leaves no sound footprint.
 */
export function pushWall<T extends MassShape>(shape: T, ring: number, edge: number, outM: number): T {
  const points = rings(shape)[ring]!;
  const shifts = points.map((_, i) => (i === edge ? -outM : 0));
  // A ring round a court runs clockwise: its inside, in the sense of the inset, is the building's side as well.
  const moved = insetRing(points, shifts);
  if (!moved || ringProblem(moved))
    throw new InputError('push', 'The wall cannot go that far: the footprint would fold over.');
  const slipped = edgeOf(moved, edge);
  const was = edgeOf(points, edge);
  const slide = (slipped.p[0] - was.p[0]) * was.along[0] + (slipped.p[1] - was.p[1]) * was.along[1];
  const numbers = edgeNumbers(shape.footprint)[ring]!;
  const next = (edge + 1) % points.length;
  const grown = edgeOf(points, next);
  const shrunk =
    (edgeOf(moved, next).p[0] - grown.p[0]) * grown.along[0] +
    (edgeOf(moved, next).p[1] - grown.p[1]) * grown.along[1];
  return {
    ...withRing(shape, ring, moved),
    openings: shape.openings.map((opening) => {
      const { host } = opening;
      if (host.on !== 'wall' || host.ring !== ring) return opening;
      if (host.edge === numbers[edge]) return slide === 0 ? opening : slideOpening(opening, -slide);
      return host.edge === numbers[next] ? slideOpening(opening, -shrunk) : opening;
    }),
  };
}

function slideOpening(opening: Opening, du: number): Opening {
  const { outline } = opening;
  return {
    ...opening,
    outline:
      outline.kind === 'polygon'
        ? { ...outline, points: outline.points.map(([u, v]): Pair => [u + du, v]) }
        : { ...outline, u: outline.u + du },
  };
}

/** The mass with one wall of one storey (and of those above, when asked) set back by so much more. */
export function setBack<T extends MassShape>(
  shape: T,
  edge: number,
  storeys: readonly number[],
  byM: number,
): T {
  const n = shape.footprint.outer.length;
  return {
    ...shape,
    storeys: shape.storeys.map((storey, i) => {
      if (!storeys.includes(i)) return storey;
      const now = storey.setbacksM ?? new Array<number>(n).fill(0);
      const setbacksM = now.map((d, k) => (k === edge ? tidy(d + byM) : d));
      const { setbacksM: _, ...plain } = storey;
      return setbacksM.every((d) => d === 0) ? plain : { ...plain, setbacksM };
    }),
  };
}

/** A length without the dust of binary fractions, to the tenth of a millimetre. */
function tidy(metres: number): number {
  return Math.round(metres * 1e4) / 1e4;
}

/** The mass with its uppermost storey so much higher. Throws InputError `push` when nothing would be left of it. */
export function pushTop<T extends MassShape>(shape: T, byM: number): T {
  const last = shape.storeys.length - 1;
  const heightM = tidy(shape.storeys[last]!.heightM + byM);
  if (heightM < 0.1)
    throw new InputError('push', 'The top storey cannot be lower than 0.1 m; remove the storey instead.');
  return { ...shape, storeys: shape.storeys.map((s, i) => (i === last ? { ...s, heightM } : s)) };
}

/** The mass with its underside so much lower (higher where negative), its top staying where it is. */
export function pushBottom<T extends MassShape>(shape: T, ground: Ground, downM: number): T {
  const heightM = tidy(shape.storeys[0]!.heightM + downM);
  if (heightM < 0.1)
    throw new InputError('push', 'The lowest storey cannot be lower than 0.1 m; remove the storey instead.');
  const storeys = shape.storeys.map((s, i) => (i === 0 ? { ...s, heightM } : s));
  const { base } = shape;
  const lowered =
    base.on === 'ground'
      ? { ...base, offsetM: tidy(base.offsetM - downM) }
      : { ...base, levelM: tidy(massLevels(shape, ground).floorM - downM) };
  return { ...shape, storeys, base: lowered };
}

/** Storeys from `storey` on as a mass of their own that stands where they stood. Both keep what is theirs. */
export function splitStoreys(
  mass: Mass,
  ground: Ground,
  storey: number,
  upper: { id: string; name: string },
): [Mass, Mass] {
  if (storey < 1 || storey >= mass.storeys.length)
    throw new InputError('split', 'A mass can be split above its first storey and below its last.');
  const below = <T extends { storey: number }>(list: readonly T[]) => list.filter((x) => x.storey < storey);
  const above = <T extends { storey: number }>(list: readonly T[]) =>
    list.filter((x) => x.storey >= storey).map((x) => ({ ...x, storey: x.storey - storey }));
  const openings = {
    low: mass.openings.filter(({ host }) => host.on === 'wall' && host.storey < storey),
    high: mass.openings.flatMap((opening) =>
      opening.host.on !== 'wall'
        ? [opening]
        : opening.host.storey >= storey
          ? [{ ...opening, host: { ...opening.host, storey: opening.host.storey - storey } }]
          : [],
    ),
  };
  return [
    {
      ...mass,
      storeys: mass.storeys.slice(0, storey),
      roof: { kind: 'flat', parapetM: 0 },
      openings: openings.low,
      partitions: below(mass.partitions),
      rooms: below(mass.rooms),
      furniture: below(mass.furniture),
    },
    {
      ...mass,
      ...upper,
      base: { on: 'level', levelM: tidy(storeyFloorM(mass, ground, storey)) },
      storeys: mass.storeys.slice(storey),
      openings: openings.high,
      partitions: above(mass.partitions),
      rooms: above(mass.rooms),
      furniture: above(mass.furniture),
    },
  ];
}

/**
 * Two masses of the same levels and storeys as one. Openings go: their walls are new.
 * Throws InputError `unite` when they do not match or would not become one piece.
 */
export function uniteMasses(one: Mass, other: Mass, ground: Ground): Mass {
  const a = massLevels(one, ground);
  const b = massLevels(other, ground);
  const heights = (mass: Mass) => mass.storeys.map(({ heightM }) => heightM.toFixed(3)).join();
  if (heights(one) !== heights(other))
    throw new InputError(
      'unite',
      `“${one.name}” and “${other.name}” have different storeys; give them the same heights first.`,
    );
  if (Math.abs(a.floorM - b.floorM) > 0.005 && one.base.on === 'level')
    throw new InputError(
      'unite',
      `The floors of “${one.name}” and “${other.name}” lie ${Math.abs(a.floorM - b.floorM).toFixed(2)} m apart; set them level first.`,
    );
  if ([one, other].some(({ storeys }) => storeys.some(({ setbacksM }) => setbacksM)))
    throw new InputError('unite', 'Masses with setbacks cannot be united; take the setbacks out first.');
  const footprint = uniteFootprints(one.footprint, other.footprint);
  if (!footprint)
    throw new InputError(
      'unite',
      `“${one.name}” and “${other.name}” do not touch along a wall; move them together first.`,
    );
  return {
    ...one,
    footprint,
    roof: one.roof.kind === 'flat' ? one.roof : { kind: 'flat', parapetM: 0 },
    openings: [],
    partitions: [...one.partitions, ...renamed(other.partitions, one.partitions)],
    rooms: [...one.rooms, ...renamed(other.rooms, one.rooms)],
    furniture: [...one.furniture, ...renamed(other.furniture, one.furniture)],
  };
}

function renamed<T extends { id: string }>(list: readonly T[], beside: readonly T[]): T[] {
  return list.map((item) => {
    let id = item.id;
    for (let n = 2; beside.some((other) => other.id === id); n++) id = `${item.id}-${n}`;
    return { ...item, id };
  });
}

/**
 * The outline round two footprints, or null when they do not become one piece. Edges that lie on an edge of the first
 * keep its number.
 */
export function uniteFootprints(one: Footprint, other: Footprint): Footprint | null {
  const joined = unitePolygons([one, other]);
  if (joined.length !== 1) return null;
  const outer = plainRing(withoutStraightCorners(plainRing(joined[0]!.outer)));
  const holes = joined[0]!.holes
    .map((hole) => withoutStraightCorners(hole.map(([x, y]): Pair => [x, y])))
    .filter((hole) => hole.length > 2);
  const normal = normalFootprint({ outer, holes });
  const old = normalFootprint(one);
  const edges = [normal.outer, ...normal.holes].map((ring, r) => keptNumbers(ring, old, r));
  return footprintOf(outer, holes, edges);
}

/** Numbers for the edges of a ring: those of old edges of the same ring that they lie on, new ones for the others. */
function keptNumbers(ring: Ring, old: Plate, r: number): number[] {
  const before = [old.outer, ...old.holes][r] ?? [];
  const taken = [...(old.edges[r] ?? [])];
  const free = new Set(before.keys());
  return ring.map((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    for (const k of free) {
      const edge = edgeOf(before, k);
      const off = (x: Point2) =>
        Math.abs(edge.along[0] * (x[1] - edge.p[1]) - edge.along[1] * (x[0] - edge.p[0]));
      const along = (x: Point2) => edge.along[0] * (x[0] - edge.p[0]) + edge.along[1] * (x[1] - edge.p[1]);
      const shared = Math.min(edge.lengthM, along(q)) - Math.max(0, along(p));
      if (off(p) > 1e-3 || off(q) > 1e-3 || shared < 1e-3) continue;
      free.delete(k);
      return old.edges[r]![k]!;
    }
    const number = freshEdgeNumber(taken);
    taken.push(number);
    return number;
  });
}

function withoutStraightCorners(ring: Pair[]): Pair[] {
  return ring.filter((p, i) => {
    const a = ring[(i + ring.length - 1) % ring.length]!;
    const b = ring[(i + 1) % ring.length]!;
    const cross = (p[0] - a[0]) * (b[1] - p[1]) - (p[1] - a[1]) * (b[0] - p[0]);
    return Math.abs(cross) > 1e-6 * Math.hypot(b[0] - a[0], b[1] - a[1]);
  });
}

/** A rectangle outside of an edge, as deep as asked: a footprint that stands against it. */
export function footprintFromEdge(ring: Ring, edge: number, depthM: number): Pair[] {
  const { p, q, along } = edgeOf(anticlockwise(ring), edge);
  const out: Point2 = [along[1] * depthM, -along[0] * depthM];
  return plainRing([p, q, [q[0] + out[0], q[1] + out[1]], [p[0] + out[0], p[1] + out[1]]]);
}

/** A ring grown outwards everywhere (shrunk where negative). Throws InputError `offset` when nothing is left. */
export function offsetRing(ring: Ring, outM: number): Pair[] {
  const around = anticlockwise(ring);
  const grown = insetRing(
    around,
    around.map(() => -outM),
  );
  if (!grown || ringProblem(grown) || signedArea(grown) <= 0)
    throw new InputError('offset', `An offset of ${outM.toFixed(2)} m leaves no sound outline.`);
  return grown.map(([x, y]): Pair => [x, y]);
}
