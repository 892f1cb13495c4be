import { RAD, wrap360 } from '../civil';
import { edgeOf, type Point2, type Ring, signedArea } from '../geometry';
import type { Footprint, Furniture, MassShape, Opening } from '../project';
import { mirrorOutline } from './outline';
import { edgeIndex, edgeNumbers, normalFootprint } from './plates';

type Pair = [number, number];

/** A motion over the plan: x′ = a·x + c·y + e, y′ = b·x + d·y + f. Lengths and angles are kept. */
export interface Motion {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

export function shiftBy(dx: number, dy: number): Motion {
  return { a: 1, b: 0, c: 0, d: 1, e: dx, f: dy };
}

/** A turn anticlockwise about a point. */
export function turnAbout([x, y]: Point2, deg: number): Motion {
  const right = deg % 90 === 0;
  const c = right ? Math.round(Math.cos(deg * RAD)) : Math.cos(deg * RAD);
  const s = right ? Math.round(Math.sin(deg * RAD)) : Math.sin(deg * RAD);
  return { a: c, b: s, c: -s, d: c, e: x - c * x + s * y, f: y - s * x - c * y };
}

/** A reflection in the line through two points. */
export function mirrorIn(p: Point2, q: Point2): Motion {
  const length2 = (q[0] - p[0]) ** 2 + (q[1] - p[1]) ** 2;
  const ux = q[0] - p[0];
  const uy = q[1] - p[1];
  const a = (ux * ux - uy * uy) / length2;
  const b = (2 * ux * uy) / length2;
  return { a, b, c: b, d: -a, e: p[0] - a * p[0] - b * p[1], f: p[1] - b * p[0] + a * p[1] };
}

/** One motion after another. */
export function followedBy(first: Motion, second: Motion): Motion {
  const [a, b] = [second.a * first.a + second.c * first.b, second.b * first.a + second.d * first.b];
  const [c, d] = [second.a * first.c + second.c * first.d, second.b * first.c + second.d * first.d];
  const [e, f] = movePoint(second, [first.e, first.f]);
  return { a, b, c, d, e, f };
}

export function isMirror({ a, b, c, d }: Motion): boolean {
  return a * d - b * c < 0;
}

export function movePoint({ a, b, c, d, e, f }: Motion, [x, y]: Point2): Pair {
  return [a * x + c * y + e, b * x + d * y + f];
}

/** Angle by which a motion turns directions, degrees anticlockwise; of a mirror, what it makes of the x axis. */
function turnOf({ a, b }: Motion): number {
  return Math.atan2(b, a) / RAD;
}

/** A bearing (clockwise from drawing north) after a motion. */
export function moveBearing(motion: Motion, deg: number): number {
  const [x, y] = [Math.sin(deg * RAD), Math.cos(deg * RAD)];
  const moved = wrap360(Math.atan2(motion.a * x + motion.c * y, motion.b * x + motion.d * y) / RAD);
  return Math.abs(moved - Math.round(moved)) < 1e-9 ? Math.round(moved) % 360 : moved;
}

/** A mass with everything in it after a motion over the plan. Openings stay on their walls. */
export function moveShape<T extends MassShape>(shape: T, motion: Motion): T {
  const point = (p: Point2) => movePoint(motion, p);
  const mirrored = isMirror(motion);
  // Edges are counted on the ring run anticlockwise; in a mirror that ring is read backwards.
  const ring = (points: Ring): Pair[] => (mirrored ? [...points].reverse() : [...points]).map(point);
  const normal = mirrored ? normalFootprint(shape.footprint) : shape.footprint;
  const { roof, base } = shape;
  return {
    ...shape,
    base,
    footprint: footprintOf(
      ring(normal.outer),
      normal.holes.map(ring),
      // In a mirror edge i becomes edge n − 2 − i, and keeps its number.
      mirrored ? edgeNumbers(shape.footprint).map(mirrorEdges) : edgeNumbers(shape.footprint),
    ),
    storeys: mirrored
      ? shape.storeys.map((storey) =>
          storey.setbacksM ? { ...storey, setbacksM: mirrorEdges(storey.setbacksM) } : storey,
        )
      : shape.storeys,
    roof:
      roof.kind === 'mono'
        ? { ...roof, fallsTowardsDeg: moveBearing(motion, roof.fallsTowardsDeg) }
        : roof.kind === 'sawtooth'
          ? { ...roof, facesDeg: moveBearing(motion, roof.facesDeg) }
          : roof,
    openings: mirrored ? shape.openings.map((opening) => mirrorOpening(shape, opening)) : shape.openings,
    partitions: shape.partitions.map((p) => ({ ...p, path: p.path.map(point) })),
    rooms: shape.rooms.map((room) => ({ ...room, at: point(room.at) })),
    furniture: shape.furniture.map((piece) => moveFurniture(piece, motion)),
  };
}

export function moveFurniture(piece: Furniture, motion: Motion): Furniture {
  const turn = isMirror(motion) ? turnOf(motion) - piece.turnDeg : turnOf(motion) + piece.turnDeg;
  return { ...piece, at: movePoint(motion, piece.at), turnDeg: Number((turn % 360).toFixed(6)) };
}

/** Values by edge after the ring has been read backwards: edge i becomes edge n − 2 − i. */
function mirrorEdges<T>(values: readonly T[]): T[] {
  const n = values.length;
  return values.map((_, i) => values[(2 * n - 2 - i) % n]!);
}

function mirrorOpening(shape: MassShape, opening: Opening): Opening {
  const { host } = opening;
  if (host.on !== 'wall') return opening;
  const footprint = normalFootprint(shape.footprint);
  const ring = [footprint.outer, ...footprint.holes][host.ring];
  const i = edgeIndex(footprint, host.ring, host.edge);
  if (!ring || i < 0) return opening;
  return { ...opening, outline: mirrorOutline(opening.outline, edgeOf(ring, i).lengthM) };
}

/** A footprint for the document; numbers of edges are left out where they are as the edges run. */
export function footprintOf(
  outer: Pair[],
  holes: Pair[][],
  edges: readonly (readonly number[])[],
): Footprint {
  const asTheyRun = edges.every((numbers) => numbers.every((number, i) => number === i));
  return asTheyRun ? { outer, holes } : { outer, holes, edges: edges.map((numbers) => [...numbers]) };
}

/** Where a footprint is measured from when numbers are typed: the corner drawn first. */
export function firstCorner(shape: Pick<MassShape, 'footprint'>): Point2 {
  return shape.footprint.outer[0]!;
}

/** A ring that runs anticlockwise, as plain pairs. */
export function plainRing(ring: Ring): Pair[] {
  return (signedArea(ring) < 0 ? [...ring].reverse() : [...ring]).map(([x, y]): Pair => [x, y]);
}
