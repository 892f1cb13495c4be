import { containsWithHoles, type Point2, type Ring, ringProblem, segmentDistance } from '../geometry';
import type { MassShape } from '../project';
import { storeyPlate } from './plates';
import { innerPoint } from './rooms';

/** A room as another program outlines it: the inner faces of its walls. */
export interface RoomOutline {
  name: string;
  storey: number;
  outline: readonly Point2[];
  /** Columns and courts within it, whose faces become walls. */
  holes?: readonly (readonly Point2[])[];
}

/** How far an outer wall, and a wall between two rooms, may reach from the outline of a room, metres. */
const OUTER_WALL_M = 0.6;
const INNER_WALL_M = 0.35;

/**
 * Puts outlined rooms into a body: walls become partitions without thickness, those of neighbouring rooms the same one,
 * and outer walls the body's own. `freshId` gives ids that are not in use. Also gives those that lie outside of their
 * storey or have no sound outline.
 */
export function roomsFromOutlines<T extends MassShape, R extends RoomOutline>(
  body: T,
  rooms: readonly R[],
  freshId: (stem: string) => string,
): { body: T; left: R[] } {
  const left: R[] = [];
  const made: RoomOutline[] = [];
  const partitions = [...body.partitions];
  const named = [...body.rooms];
  for (const room of rooms) {
    const plate = storeyPlate(body, room.storey);
    const walls = plate ? [plate.outer, ...plate.holes] : [];
    const others = made.filter(({ storey }) => storey === room.storey).map(({ outline }) => outline);
    const outline = cleaned(room.outline.map((p) => snapped(p, walls, others)));
    const holes = (room.holes ?? []).map(cleaned).filter((hole) => !ringProblem(hole));
    const isSound = plate && !ringProblem(outline);
    const inside = isSound ? innerPoint({ outer: outline, holes }) : null;
    if (!inside || !plate || !containsWithHoles(plate, inside)) {
      left.push(room);
      continue;
    }
    const around = [...walls, ...others];
    for (const path of [outline, ...holes].flatMap((ring) => pathsOff(ring, around)))
      partitions.push({
        id: freshId('partition'),
        storey: room.storey,
        path: path.map(([x, y]): [number, number] => [x, y]),
      });
    const [x, y] = inside;
    named.push({
      id: freshId('room'),
      name: room.name,
      storey: room.storey,
      at: [x, y],
      doubleHeight: false,
    });
    made.push({ ...room, outline });
  }
  return { body: { ...body, partitions, rooms: named }, left };
}

/** A corner drawn to the wall that it stands by: to a corner of it where one is near, else to its line. */
function snapped(p: Point2, walls: readonly Ring[], others: readonly Ring[]): Point2 {
  for (const find of [nearestCorner, nearestOnEdge])
    for (const [rings, reach] of [
      [walls, OUTER_WALL_M],
      [others, INNER_WALL_M],
    ] as const) {
      const to = find(p, rings);
      if (to && Math.hypot(to[0] - p[0], to[1] - p[1]) <= reach) return to;
    }
  return p;
}

function nearest(p: Point2, candidates: readonly Point2[]): Point2 | null {
  let best: Point2 | null = null;
  let least = Infinity;
  for (const q of candidates) {
    const distance = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (distance < least) [best, least] = [q, distance];
  }
  return best;
}

function nearestCorner(p: Point2, rings: readonly Ring[]): Point2 | null {
  return nearest(p, rings.flat());
}

function nearestOnEdge(p: Point2, rings: readonly Ring[]): Point2 | null {
  return nearest(
    p,
    rings.flatMap((ring) =>
      ring.map((a, i): Point2 => {
        const b = ring[(i + 1) % ring.length]!;
        const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
        const t = ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1);
        const along = Math.min(1, Math.max(0, t));
        return [a[0] + dx * along, a[1] + dy * along];
      }),
    ),
  );
}

function cleaned(ring: readonly Point2[]): Point2[] {
  return ring.filter((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return Math.hypot(p[0] - q[0], p[1] - q[1]) > 0.01;
  });
}

/** The edges of a ring that do not run along other rings, joined to paths. */
function pathsOff(ring: Ring, others: readonly Ring[]): Point2[][] {
  const edges = others.flatMap((other) =>
    other.map((a, i): [Point2, Point2] => [a, other[(i + 1) % other.length]!]),
  );
  const isOn = (a: Point2, b: Point2) =>
    edges.some(([p, q]) => segmentDistance(a, p, q) < 1e-6 && segmentDistance(b, p, q) < 1e-6);
  const free = ring.map((a, i) => !isOn(a, ring[(i + 1) % ring.length]!));
  if (free.every(Boolean)) return [[...ring, ring[0]!]];
  const paths: Point2[][] = [];
  // Begins behind an edge that is not free, so that no path is cut in two.
  const start = free.indexOf(false) + 1;
  let path: Point2[] = [];
  for (let k = 0; k < ring.length; k++) {
    const i = (start + k) % ring.length;
    if (free[i]) {
      if (path.length === 0) path = [ring[i]!];
      path.push(ring[(i + 1) % ring.length]!);
    } else if (path.length) {
      paths.push(path);
      path = [];
    }
  }
  if (path.length) paths.push(path);
  return paths;
}
