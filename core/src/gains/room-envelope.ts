import { outlineArea } from '../form';
import { areaWithHoles, dot, type MeshStore, type Point3, type Ring, signedArea } from '../geometry';
import { type FittedBody, type FittedOpening, openingsIn } from '../openings';
import type { Face } from '../form';
import type { Project } from '../project';
import type { Room } from '../shade';
import type { RoomAssumptions } from './assumptions';
import type { ZoneModel } from './hourly-room';

/** What a room has towards the outside, m², and its volume. */
export interface RoomEnvelope {
  floorM2: number;
  volumeM3: number;
  /** Glazed openings, whole; walls less them and less what other bodies cover; roof and lowest floor where there is one. */
  windowsM2: number;
  wallsM2: number;
  roofM2: number;
  groundM2: number;
  /** The glazed openings of the room. */
  glazed: { owner: { id: string; name: string }; face: Face; opening: FittedOpening }[];
}

/** Nearer than this a wall of a room lies in a face of its body, metres. */
const SAME_M = 0.005;

/** What a room has towards the outside. */
export function roomEnvelope(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  room: Room,
): RoomEnvelope {
  const openings = openingsIn(project, optionId, meshes);
  const { body } = openings.bodies.find(
    (item) => item.body.id === room.mass && item.optionId === room.optionId,
  )!;
  const fitted = openings.fitted(body);
  const floorM2 = areaWithHoles({ outer: room.shape.outer, holes: room.shape.holes });
  const heightM = room.ceilingM - room.floorM;
  const top = room.shape.storey + (room.shape.doubleHeight ? 2 : 1);
  const ids = new Set(room.openings.map(({ id, face }) => `${face.key}/${id}`));
  const glazed = [...fitted.byFace].flatMap(([key, made]) =>
    made
      .filter(({ id, glazing }) => glazing !== null && ids.has(`${key}/${id}`))
      .map((opening) => ({
        owner: { id: body.id, name: body.name },
        face: fitted.faces.find((face) => face.key === key)!,
        opening,
      })),
  );
  const windowsM2 = glazed.reduce((sum, { opening }) => sum + outlineArea(opening.outline), 0);
  const inWalls = glazed
    .filter(({ face }) => face.host.on === 'wall')
    .reduce((sum, { opening }) => sum + outlineArea(opening.outline), 0);
  return {
    floorM2,
    volumeM3: floorM2 * heightM,
    windowsM2,
    wallsM2: Math.max(0, outerWalls(room, fitted, top) - inWalls),
    roofM2: top >= body.storeys.length ? Math.max(0, floorM2 - (windowsM2 - inWalls)) : 0,
    groundM2: room.shape.storey === 0 ? floorM2 : 0,
    glazed,
  };
}

/** Walls of a room that lie in outer faces of its body, less what other bodies cover of them. */
function outerWalls({ shape }: Room, fitted: FittedBody, top: number): number {
  const faces = fitted.faces.filter(
    ({ host }) => host.on === 'wall' && host.storey >= shape.storey && host.storey < top,
  );
  const rings: Ring[] = [
    signedArea(shape.outer) < 0 ? [...shape.outer].reverse() : shape.outer,
    ...shape.holes.map((hole) => (signedArea(hole) > 0 ? [...hole].reverse() : hole)),
  ];
  let sum = 0;
  for (const ring of rings)
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length]!;
      const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
      if (length < SAME_M) return;
      const inwards: Point3 = [(p[1] - q[1]) / length, (q[0] - p[0]) / length, 0];
      const offset = dot([p[0], p[1], 0], inwards);
      for (const face of faces) {
        if (dot(face.normal, inwards) > -0.9999) continue;
        if (Math.abs(dot(face.origin, inwards) - offset) > SAME_M) continue;
        const along = (x: number, y: number) => dot([x - face.origin[0], y - face.origin[1], 0], face.u);
        const [a, b] = [along(p[0], p[1]), along(q[0], q[1])].sort((m, n) => m - n) as [number, number];
        const [from, to] = [Math.max(0, a), Math.min(face.lengthM, b)];
        if (to <= from) continue;
        const covered = (fitted.parties.get(face.key) ?? []).reduce(
          (all, { u0, u1, v0, v1 }) =>
            all +
            Math.max(0, Math.min(to, u1) - Math.max(from, u0)) *
              Math.max(0, Math.min(face.heightM, v1) - Math.max(0, v0)),
          0,
        );
        sum += Math.max(0, (to - from) * face.heightM - covered);
      }
    });
  return sum;
}

/** The zone that a room is under assumptions. */
export function zoneOf(envelope: RoomEnvelope, assumed: RoomAssumptions): ZoneModel {
  const { floorM2, volumeM3, windowsM2, wallsM2, roofM2, groundM2 } = envelope;
  return {
    floorAreaM2: floorM2,
    mass: assumed.mass,
    hWindows: windowsM2 * assumed.windowU,
    hOpaque: wallsM2 * assumed.wallU + roofM2 * assumed.roofU + groundM2 * assumed.floorU,
    hVentilation: 0.33 * assumed.airChange * volumeM3,
  };
}
