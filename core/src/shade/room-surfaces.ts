import { DEG, RAD, wrap360 } from '../civil';
import { type Face, massLevels, onFace, outlinePolygon, type RoomShape, roomsOf } from '../form';
import {
  containsWithHoles,
  cross,
  dot,
  type MeshStore,
  type Point2,
  type Point3,
  type Polygon,
  type Ring,
  signedArea,
  subtractPolygons,
  triangleNormal,
  unitePolygons,
} from '../geometry';
import { type FittedOpening, openingsIn, type OpeningsOf } from '../openings';
import type { Furniture, MassShape, Project } from '../project';
import type { FlatReceiver } from './cast';
import { alongWall, levelPart } from './receivers';

/** A surface of a room that the sun can reach. */
export interface RoomSurface {
  kind: 'floor' | 'wall' | 'furniture' | 'reveal';
  name: string;
  parts: FlatReceiver[];
}

/** An opening through which the sun comes into a room. */
export interface RoomOpening {
  id: string;
  face: Face;
  /** Its outline in space where light passes it: the pane, or the opening itself where there is none. */
  pane: Point3[];
}

/** A room of a body, with what the sun can reach in it and the openings by which it comes. */
export interface Room {
  /** `mass/storey/number`, counted from 0 within the storey. */
  key: string;
  name: string;
  mass: string;
  massName: string;
  /** Option that holds the body; null: a neighbour. */
  optionId: string | null;
  shape: RoomShape;
  floorM: number;
  ceilingM: number;
  surfaces: RoomSurface[];
  openings: RoomOpening[];
  /** Openings that are another room's by their middle, and of which a part gives onto this one. */
  shared: RoomOpening[];
}

/** Nearer than this, two things are in one place, metres. */
const SAME_M = 1e-4;

/**
 * The rooms of everything hollow that stands in an option: bodies with openings, partitions or furniture. Of a room: its
 * floor, its walls up to the height of the storey, the furniture in it, and the reveals of its openings. A room that is
 * open to the storey above has walls two storeys high; where nothing is left of a floor above it, no
 * room stands there. Throws InputError `option`.
 */
export function roomsIn(project: Project, optionId: string, meshes: MeshStore): Room[] {
  const openings = openingsIn(project, optionId, meshes);
  let rooms = known.get(openings);
  if (!rooms) {
    rooms = makeRooms(project, openings);
    known.set(openings, rooms);
  }
  return rooms;
}

/** By the openings of an option, which are the same object while document and meshes are. */
const known = new WeakMap<OpeningsOf, Room[]>();

function makeRooms(project: Project, openings: OpeningsOf): Room[] {
  return openings.bodies.flatMap(({ body, optionId: of }) => {
    const fitted = openings.fitted(body);
    const isHollow = fitted.byFace.size > 0 || body.partitions.length > 0 || body.furniture.length > 0;
    if (!isHollow) return [];
    const levels = massLevels(body, project.site.ground);
    const floors = floorLevels(body, levels.floorM);
    const shapes = roomsOf(body);
    const counts = new Map<number, number>();
    return shapes.flatMap((shape): Room[] => {
      const number = counts.get(shape.storey) ?? 0;
      counts.set(shape.storey, number + 1);
      const { storey } = shape;
      const floorM = floors[storey]!;
      const top = Math.min(storey + (shape.doubleHeight ? 2 : 1), body.storeys.length);
      const room = {
        key: `${body.id}/${storey}/${number}`,
        name: shape.name,
        mass: body.id,
        massName: body.name,
        optionId: of,
        shape,
        floorM,
        ceilingM: floors[top]!,
      };
      const isHere = (face: Face) =>
        face.host.on === 'wall'
          ? face.host.storey >= storey && face.host.storey < top
          : top === body.storeys.length;
      const faces = fitted.faces.filter(isHere);
      const all = faces.flatMap((face) =>
        (fitted.byFace.get(face.key) ?? []).map((opening) => ({ opening, face })),
      );
      const own = all.filter(({ opening, face }) => isOf(shape, face, opening));
      const shared = all.filter((one) => !own.includes(one) && isPartlyOf(shape, one.face, one.opening));
      const below = shapes.filter((other) => other.doubleHeight && other.storey === storey - 1);
      const floor = floorOf(shape, floorM, below);
      // What has no floor is the upper part of a room below.
      if (floor.length === 0) return [];
      const whole: Room = {
        ...room,
        surfaces: [
          ...floor,
          ...wallsOf(room, faces, fitted.byFace, project.site.north.trueNorthDeg),
          ...furnitureOf(body, shape, floorM),
          ...revealsOf(own),
        ],
        openings: lightOf(own),
        shared: lightOf(shared),
      };
      return [whole];
    });
  });
}

/** Levels of the floors of a body, and of its top. */
function floorLevels({ storeys }: MassShape, floorM: number): number[] {
  const floors = [floorM];
  for (const { heightM } of storeys) floors.push(floors.at(-1)! + heightM);
  return floors;
}

/** Whether an opening gives onto a room: the middle of its outline, a little inside. */
function isOf(shape: RoomShape, face: Face, { outline }: FittedOpening): boolean {
  const points = outlinePolygon(outline);
  const middle: Point2 = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length) as [
    number,
    number,
  ];
  const [x, y] = onFace(face, middle, 0.02);
  return containsWithHoles(shape, [x, y]);
}

/** Whether some of an opening gives onto a room: a place a little inside, along the sides of its outline. */
function isPartlyOf(shape: RoomShape, face: Face, { outline }: FittedOpening): boolean {
  const points = outlinePolygon(outline);
  return points.some(([u, v], i) => {
    const [u1, v1] = points[(i + 1) % points.length]!;
    return ALONG.some((t) => {
      const [x, y] = onFace(face, [u + (u1 - u) * t, v + (v1 - v) * t], 0.02);
      return containsWithHoles(shape, [x, y]);
    });
  });
}

/** Where on a side of an outline it is asked which room lies behind. */
const ALONG = [0.02, 0.25, 0.5, 0.75, 0.98];

/** Openings that the sun comes in by. */
function lightOf(openings: readonly { opening: FittedOpening; face: Face }[]): RoomOpening[] {
  return openings
    .filter(({ opening }) => opening.kind !== 'door')
    .map(({ opening, face }) => ({
      id: opening.id,
      face,
      pane: outlinePolygon(opening.outline).map((p) =>
        onFace(face, p, opening.kind === 'void' ? 0 : opening.revealM),
      ),
    }));
}

function floorOf(shape: RoomShape, floorM: number, below: readonly RoomShape[]): RoomSurface[] {
  const whole: Polygon[] = [{ outer: shape.outer, holes: shape.holes }];
  const regions = below.length ? subtractPolygons(whole, below) : unitePolygons(whole);
  return regions.length ? [{ kind: 'floor', name: 'Floor', parts: [levelPart(floorM, regions)] }] : [];
}

/** The inner sides of walls and partitions, those that lie in one plane as one, without their openings. */
function wallsOf(
  { shape, floorM, ceilingM }: Pick<Room, 'shape' | 'floorM' | 'ceilingM'>,
  faces: readonly Face[],
  byFace: ReadonlyMap<string, readonly FittedOpening[]>,
  trueNorthDeg: number,
): RoomSurface[] {
  const walls = new Map<string, RoomSurface>();
  const rings: Ring[] = [
    signedArea(shape.outer) < 0 ? [...shape.outer].reverse() : shape.outer,
    ...shape.holes.map((hole) => (signedArea(hole) > 0 ? [...hole].reverse() : hole)),
  ];
  for (const ring of rings)
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      if (length < SAME_M) return;
      // The room is on the left of every edge.
      const normal: Point3 = [(p[1] - q[1]) / length, (q[0] - p[0]) / length, 0];
      const offset = dot([p[0], p[1], 0], normal);
      const { flat, lift } = alongWall(normal, offset);
      const [a, b] = [flat([p[0], p[1], 0])[0], flat([q[0], q[1], 0])[0]].sort((m, n) => m - n) as [
        number,
        number,
      ];
      const whole: Polygon = {
        outer: [
          [a, floorM],
          [b, floorM],
          [b, ceilingM],
          [a, ceilingM],
        ],
        holes: [],
      };
      const cuts = faces
        .filter(
          (face) => dot(face.normal, normal) < -0.9999 && Math.abs(dot(face.origin, normal) - offset) < 0.005,
        )
        .flatMap((face) =>
          (byFace.get(face.key) ?? []).map(({ outline }): Polygon => ({
            outer: outlinePolygon(outline)
              .map((point) => flat(onFace(face, point)))
              .reverse(),
            holes: [],
          })),
        );
      const regions = cuts.length ? subtractPolygons([whole], cuts) : [whole];
      if (regions.length === 0) return;
      const part: FlatReceiver = { normal, offset, flat, lift, regions, stretch: 1 };
      const bearing = Math.round(wrap360(Math.atan2(-normal[0], -normal[1]) * DEG - trueNorthDeg)) % 360;
      const key = `${bearing}/${offset.toFixed(3)}`;
      const there = walls.get(key);
      if (there) there.parts.push(part);
      else walls.set(key, { kind: 'wall', name: `Wall towards ${bearing}°`, parts: [part] });
    });
  return [...walls.values()];
}

/** Tops and sides of the furniture that stands in a room. */
function furnitureOf({ furniture }: MassShape, shape: RoomShape, floorM: number): RoomSurface[] {
  return furniture
    .filter(({ storey, at }) => storey === shape.storey && containsWithHoles(shape, at))
    .map((piece) => ({ kind: 'furniture', name: piece.name, parts: boxParts(piece, floorM) }));
}

function boxParts({ at, widthM, depthM, heightM, turnDeg }: Furniture, floorM: number): FlatReceiver[] {
  const turn = turnDeg * RAD;
  const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
  const corner = (u: number, v: number): Point2 => [
    at[0] + ux * u * widthM - uy * v * depthM,
    at[1] + uy * u * widthM + ux * v * depthM,
  ];
  const foot = [corner(-0.5, -0.5), corner(0.5, -0.5), corner(0.5, 0.5), corner(-0.5, 0.5)];
  const top = floorM + heightM;
  const sides = foot.map((p, i): FlatReceiver => {
    const q = foot[(i + 1) % 4]!;
    return quadPart([...p, floorM], [...q, floorM], [...q, top], [...p, top]);
  });
  return [levelPart(top, [{ outer: foot, holes: [] }]), ...sides];
}

/** A flat quadrangle, corners anticlockwise seen from the side that receives. */
function quadPart(a: Point3, b: Point3, c: Point3, d: Point3): FlatReceiver {
  const normal = triangleNormal(a, b, c);
  const length = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
  const u: Point3 = [(b[0] - a[0]) / length, (b[1] - a[1]) / length, (b[2] - a[2]) / length];
  const v = cross(normal, u);
  const flat = ([x, y, z]: Point3): Point2 => {
    const p: Point3 = [x - a[0], y - a[1], z - a[2]];
    return [dot(p, u), dot(p, v)];
  };
  const lift = ([s, t]: Point2): Point3 => [
    a[0] + u[0] * s + v[0] * t,
    a[1] + u[1] * s + v[1] * t,
    a[2] + u[2] * s + v[2] * t,
  ];
  const outer = [a, b, c, d].map(flat);
  return { normal, offset: dot(a, normal), flat, lift, regions: [{ outer, holes: [] }], stretch: 1 };
}

/** Sills, jambs and heads of openings whose panes stand back. */
function revealsOf(own: readonly { opening: FittedOpening; face: Face }[]): RoomSurface[] {
  const parts = own.flatMap(({ opening, face }) => {
    const depth = opening.kind === 'void' ? 0 : opening.revealM;
    if (depth < SAME_M) return [];
    const polygon = outlinePolygon(opening.outline);
    return polygon.flatMap((p, i) => {
      const q = polygon[(i + 1) % polygon.length]!;
      if (Math.hypot(q[0] - p[0], q[1] - p[1]) < SAME_M) return [];
      return [quadPart(onFace(face, p), onFace(face, q), onFace(face, q, depth), onFace(face, p, depth))];
    });
  });
  return parts.length ? [{ kind: 'reveal', name: 'Sills and reveals', parts }] : [];
}
