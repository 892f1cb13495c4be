import {
  areaWithHoles,
  centroid,
  containsWithHoles,
  type Part,
  type Point2,
  segmentDistance,
  subdivide,
} from '../geometry';
import type { MassShape } from '../project';
import { storeyPlate } from './plates';

/** A room of a storey: what its walls and partitions enclose. */
export interface RoomShape extends Part {
  /** Id of the room in the document, null while nobody has named it. */
  id: string | null;
  name: string;
  storey: number;
  areaM2: number;
  doubleHeight: boolean;
  /** A point within, for its name. */
  middle: Point2;
  /** Its lengths of outer wall by ring and edge, metres. */
  facades: { ring: number; edge: number; lengthM: number }[];
}

const known = new WeakMap<object, RoomShape[]>();

/** Every room of a mass, storey by storey. A storey without partitions is one room. */
export function roomsOf(
  mass: Pick<MassShape, 'footprint' | 'storeys' | 'partitions' | 'rooms'>,
): RoomShape[] {
  let rooms = known.get(mass);
  if (!rooms) {
    rooms = mass.storeys.flatMap((_, storey) => storeyRooms(mass, storey));
    known.set(mass, rooms);
  }
  return rooms;
}

function storeyRooms(
  mass: Pick<MassShape, 'footprint' | 'storeys' | 'partitions' | 'rooms'>,
  storey: number,
): RoomShape[] {
  const plate = storeyPlate(mass, storey);
  if (!plate) return [];
  const lines = mass.partitions.filter((p) => p.storey === storey).map(({ path }) => path as Point2[]);
  const parts: Part[] = lines.length
    ? subdivide(plate, lines)
    : [{ outer: [...plate.outer], holes: plate.holes.map((hole) => [...hole]) }];
  const named = mass.rooms.filter((room) => room.storey === storey);
  const rings = [plate.outer, ...plate.holes];
  return parts
    .map((part) => ({ part, middle: innerPoint(part) }))
    .sort((a, b) => a.middle[1] - b.middle[1] || a.middle[0] - b.middle[0])
    .map(({ part, middle }, i) => {
      const room = named.find(({ at }) => containsWithHoles(part, at));
      return {
        ...part,
        id: room?.id ?? null,
        name: room?.name ?? `Room ${storey + 1}.${i + 1}`,
        storey,
        areaM2: areaWithHoles(part),
        doubleHeight: room?.doubleHeight ?? false,
        middle,
        facades: rings.flatMap((ring, r) =>
          ring.flatMap((p, i) => {
            const lengthM = sharedLength(part, p, ring[(i + 1) % ring.length]!);
            return lengthM > 1e-6 ? [{ ring: r, edge: plate.edges[r]![i]!, lengthM }] : [];
          }),
        ),
      };
    });
}

/** The centre of a part, or a point beside an edge where the centre lies outside. */
export function innerPoint(part: {
  outer: readonly Point2[];
  holes: readonly (readonly Point2[])[];
}): Point2 {
  const middle = centroid(part.outer);
  if (containsWithHoles(part, middle)) return middle;
  let best: Point2 = middle;
  let clearance = -1;
  const corners = [part.outer, ...part.holes].flat();
  for (let i = 0; i < corners.length; i++)
    for (let j = i + 1; j < corners.length; j++) {
      const [a, b] = [corners[i]!, corners[j]!];
      const p: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
      if (!containsWithHoles(part, p)) continue;
      const room = Math.min(
        ...[part.outer, ...part.holes].flatMap((ring) =>
          ring.map((a, k) => segmentDistance(p, a, ring[(k + 1) % ring.length]!)),
        ),
      );
      if (room > clearance) [best, clearance] = [p, room];
    }
  return best;
}

/** Length of a wall p–q that edges of the part lie on. */
function sharedLength(part: Part, p: Point2, q: Point2): number {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  const along = (x: Point2) => ((x[0] - p[0]) * (q[0] - p[0]) + (x[1] - p[1]) * (q[1] - p[1])) / length;
  const off = (x: Point2) => Math.abs((q[0] - p[0]) * (x[1] - p[1]) - (q[1] - p[1]) * (x[0] - p[0])) / length;
  let shared = 0;
  for (const ring of [part.outer, ...part.holes])
    ring.forEach((a, i) => {
      const b = ring[(i + 1) % ring.length]!;
      if (off(a) > 1e-4 || off(b) > 1e-4) return;
      const from = Math.max(0, Math.min(along(a), along(b)));
      const to = Math.min(length, Math.max(along(a), along(b)));
      if (to > from) shared += to - from;
    });
  return shared;
}
