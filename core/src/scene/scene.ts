import { InputError } from '../errors';
import {
  canMove,
  type DeviceStation,
  deviceStations,
  glazedPlaces,
  type MovedBy,
  placesOfDevice,
  standingScheme,
  tooManyBoxes,
} from '../devices';
import type { MeshStore } from '../geometry';
import { type FittedBody, openingsIn } from '../openings';
import {
  type Device,
  type DeviceMake,
  type Glazing,
  type Ground,
  type MassShape,
  type Model,
  type Neighbour,
  type Project,
  requireOption,
  standingMasses,
  standingModels,
  standingNeighbours,
  type Terrain,
  TODAY,
} from '../project';
import { groundLevel, groundNormal, type GroundPlane, groundPlane, terrainSurface } from '../site';
import { positionNow, solidAt } from './device-solid';
import { massSolid } from './mass-solid';
import { meshSolid } from './mesh-solid';
import { fenceSolid, treeSolid, wallSolid } from './neighbour-solid';
import { type Piece, PieceBuilder, type Surface } from './piece';

export type Layer = 'ground' | 'neighbours' | 'today' | 'option' | 'devices';

/** Whether a layer is of what an option proposes. */
export const isProposed = (layer: Layer): boolean => layer === 'option' || layer === 'devices';

/** What blocks the sun, as one thing that can be named: a neighbour, a mass, the ground. */
export interface Owner {
  id: string;
  name: string;
  layer: Layer;
  /** The option that holds the mass; null for neighbours and ground. */
  optionId: string | null;
}

/** Everything the sun meets in one option, as triangles: first those that block, then those that let light pass. */
export interface Scene {
  owners: Owner[];
  surfaces: Surface[];
  /** Nine numbers a triangle, metres, project frame. */
  positions: Float64Array;
  /** Surface of each triangle. */
  surfaceOf: Uint32Array;
  /** Owner of each surface. */
  ownerOf: Uint32Array;
  /** So many triangles, the first ones, block the light. */
  opaque: number;
  /** So many triangles, the very first, only show ground that is a plane; `ground` blocks in their place. */
  shown: number;
  /** What blocks every direction that points below it; its owner is the first. */
  ground: GroundPlane;
  /** The triangles of each owner, the same objects as before where nothing changed. */
  pieces: Piece[];
  /** Devices that move, which stand in it at rest; none where it is of a moment. */
  moving: MovingDevice[];
}

/** A device that moves: all that it takes to build it in any position. */
export interface MovingDevice {
  id: string;
  make: DeviceMake;
  stations: DeviceStation[];
  /** As it is among the pieces of the scene. */
  resting: Piece;
}

/** What a piece was made of besides the part itself. */
interface Made {
  ground: Ground;
  fitted: FittedBody | null;
  glazings: readonly Glazing[] | null;
  piece: Piece;
}

/** Pieces by the document part they were made of; parts are never changed in place, so identity is enough. */
const pieces = new WeakMap<object, Made>();

function cached(
  part: object,
  ground: Ground,
  make: () => Piece,
  fitted: FittedBody | null = null,
  glazings: readonly Glazing[] | null = null,
): Piece {
  const known = pieces.get(part);
  if (known && known.ground === ground && known.fitted === fitted && known.glazings === glazings)
    return known.piece;
  const piece = make();
  pieces.set(part, { ground, fitted, glazings, piece });
  return piece;
}

/**
 * The scene of an option: ground, neighbours, what stays of Today, and the option's masses, models and devices.
 * Throws InputError `option` when the option does not exist and `mesh` when a mesh is not in the store.
 * @param by the moment that devices which move stand as they do at; null: at rest
 */
export function assembleScene(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  by: MovedBy | null = null,
): Scene {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const { glazings } = project;
  const openings = openingsIn(project, optionId, meshes);
  const parts: { owner: Owner; piece: Piece }[] = [];
  const hung = optionId === TODAY ? [] : devicePieces(project, optionId, meshes, by);
  const put = (part: { id: string; name: string }, layer: Layer, owningOption: string | null, piece: Piece) =>
    parts.push({ owner: { id: part.id, name: part.name, layer, optionId: owningOption }, piece });
  const massPiece = (mass: MassShape) => {
    const fitted = openings.of(mass);
    const withOpenings = fitted && { byFace: fitted.byFace, glazings };
    return cached(mass, ground, () => massSolid(mass, ground, withOpenings), fitted, fitted && glazings);
  };
  const modelPiece = (model: Model) => {
    const mesh = meshes.get(model.mesh);
    if (!mesh)
      throw new InputError('mesh', `The mesh of “${model.name}” is missing; bring its file in again.`);
    const fitted = openings.of(model);
    return cached(model, ground, () => meshSolid(model, mesh, fitted, glazings), fitted, fitted && glazings);
  };
  for (const neighbour of standingNeighbours(project, optionId)) {
    const piece =
      neighbour.kind === 'building'
        ? massPiece(neighbour)
        : neighbour.kind === 'mesh'
          ? modelPiece(neighbour)
          : cached(neighbour, ground, () => plainNeighbour(neighbour, ground));
    put(neighbour, 'neighbours', null, piece);
  }
  for (const mass of standingMasses(project, optionId)) put(mass, 'today', TODAY, massPiece(mass));
  for (const model of standingModels(project, optionId)) put(model, 'today', TODAY, modelPiece(model));
  if (optionId !== TODAY) {
    const layer = ({ device }: { device?: boolean }) => (device ? 'devices' : 'option');
    for (const mass of option.masses) put(mass, layer(mass), optionId, massPiece(mass));
    for (const model of option.models) put(model, layer(model), optionId, modelPiece(model));
    for (const { device, piece } of hung)
      // What moves is there even while nothing of it stands before its openings, so that owners stay the same.
      if (piece.surfaceOf.length > 0 || canMove(device.make)) put(device, 'devices', optionId, piece);
  }
  const piece = groundPiece(
    project,
    parts.map((part) => part.piece),
  );
  parts.unshift({ owner: { id: 'ground', name: 'Ground', layer: 'ground', optionId: null }, piece });
  const moving = by
    ? []
    : hung
        .filter(({ device }) => canMove(device.make))
        .map(({ device: { id, make }, stations, piece: resting }) => ({ id, make, stations, resting }));
  return { ...join(parts, groundPlane(ground), ground.kind === 'terrain' ? 0 : piece.opaque), moving };
}

/** A device of the standing scheme as it is built. */
interface HungDevice {
  device: Device;
  stations: DeviceStation[];
  piece: Piece;
}

/** Devices as they were built last; they stay while their openings do, and what moves while its positions do. */
const ofDevices = new WeakMap<
  Device,
  { fitted: FittedBody[]; trueNorthDeg: number; stations: DeviceStation[]; pieces: Map<string, Piece> }
>();

/** Positions of one device that are kept. */
const KEPT_POSITIONS = 40;

/** The devices of the scheme that stands in an option, each as one owner. */
function devicePieces(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  by: MovedBy | null,
): HungDevice[] {
  const scheme = standingScheme(project, optionId);
  if (!scheme || scheme.devices.length === 0) return [];
  const { trueNorthDeg } = project.site.north;
  const bodies = glazedPlaces(project, optionId, meshes);
  if (tooManyBoxes(scheme, bodies, trueNorthDeg) !== null) return [];
  const fitted = bodies.map((body) => body.fitted);
  return scheme.devices.map((device) => {
    let known = ofDevices.get(device);
    const isSame =
      known?.trueNorthDeg === trueNorthDeg &&
      known.fitted.length === fitted.length &&
      known.fitted.every((one, i) => one === fitted[i]);
    if (!known || !isSame) {
      const stations = deviceStations(device, placesOfDevice(device, bodies, trueNorthDeg));
      known = { fitted, trueNorthDeg, stations, pieces: new Map() };
      ofDevices.set(device, known);
    }
    const { stations, pieces: built } = known;
    const positions = stations.map(({ face }) => positionNow(device.make, face, by));
    const key = canMove(device.make) ? positions.join() : '';
    let piece = built.get(key);
    if (!piece) {
      piece = solidAt(device.make, stations, positions);
      if (built.size >= KEPT_POSITIONS) built.clear();
      built.set(key, piece);
    }
    return { device, stations, piece };
  });
}

function plainNeighbour(
  neighbour: Extract<Neighbour, { kind: 'wall' | 'fence' | 'tree' }>,
  ground: Ground,
): Piece {
  if (neighbour.kind === 'wall') return wallSolid(neighbour, ground);
  if (neighbour.kind === 'fence') return fenceSolid(neighbour, ground);
  return treeSolid(neighbour, ground);
}

function join(
  parts: { owner: Owner; piece: Piece }[],
  ground: GroundPlane,
  shown: number,
): Omit<Scene, 'moving'> {
  let triangles = 0;
  let opaque = 0;
  let surfaces = 0;
  for (const { piece } of parts) {
    triangles += piece.surfaceOf.length;
    opaque += piece.opaque;
    surfaces += piece.surfaces.length;
  }
  const scene: Omit<Scene, 'moving'> = {
    owners: parts.map(({ owner }) => owner),
    surfaces: new Array<Surface>(surfaces),
    positions: new Float64Array(triangles * 9),
    surfaceOf: new Uint32Array(triangles),
    ownerOf: new Uint32Array(surfaces),
    opaque,
    shown,
    ground,
    pieces: parts.map(({ piece }) => piece),
  };
  let first = 0;
  let blocking = 0;
  let passing = opaque;
  parts.forEach(({ piece }, owner) => {
    const count = piece.surfaceOf.length;
    for (let i = 0; i < piece.surfaces.length; i++) scene.surfaces[first + i] = piece.surfaces[i]!;
    scene.ownerOf.fill(owner, first, first + piece.surfaces.length);
    scene.positions.set(piece.positions.subarray(0, piece.opaque * 9), blocking * 9);
    scene.positions.set(piece.positions.subarray(piece.opaque * 9), passing * 9);
    for (let i = 0; i < piece.opaque; i++) scene.surfaceOf[blocking + i] = piece.surfaceOf[i]! + first;
    for (let i = piece.opaque; i < count; i++)
      scene.surfaceOf[passing + i - piece.opaque] = piece.surfaceOf[i]! + first;
    blocking += piece.opaque;
    passing += count - piece.opaque;
    first += piece.surfaces.length;
  });
  return scene;
}

/** Half the side of the square of ground that is drawn and blocks, metres, at the least. */
const GROUND_REACH_M = 300;

const grounds = new WeakMap<Ground, { reach: number; piece: Piece }>();

/** The ground under everything. Its reach grows in steps, so that it stays the same while things move a little. */
function groundPiece(project: Project, others: Piece[]): Piece {
  const { ground } = project.site;
  let wanted = GROUND_REACH_M;
  const corners = [
    ...(project.site.boundary ?? []),
    ...project.targets.flatMap((t) => (t.kind === 'ground' ? t.outline : [])),
  ];
  for (const [x, y] of corners) wanted = Math.max(wanted, Math.abs(x) * 2, Math.abs(y) * 2);
  for (const { reachM } of others) wanted = Math.max(wanted, reachM * 2);
  const reach = GROUND_REACH_M * 1.5 ** Math.ceil(Math.log(wanted / GROUND_REACH_M) / Math.log(1.5) - 1e-9);
  const known = grounds.get(ground);
  if (known && known.reach === reach) return known.piece;
  const piece = ground.kind === 'terrain' ? terrainPiece(ground) : planePiece(ground, reach);
  grounds.set(ground, { reach, piece });
  return piece;
}

function planePiece(ground: Ground, reach: number): Piece {
  const builder = new PieceBuilder();
  const at = (x: number, y: number): [number, number, number] => [x, y, groundLevel(ground, [x, y])];
  builder.surface('ground', groundNormal(ground));
  builder.quad(at(-reach, -reach), at(reach, -reach), at(reach, reach), at(-reach, reach));
  return builder.build();
}

/** A terrain as a closed body, so that it casts: its surface, sides at the end of the apron, and an underside. */
function terrainPiece(ground: Terrain): Piece {
  const { vertices: v, triangles, lowM } = terrainSurface(ground);
  const builder = new PieceBuilder();
  const at = (i: number): [number, number, number] => [v[i * 3]!, v[i * 3 + 1]!, v[i * 3 + 2]!];
  builder.surface('ground', [0, 0, 1]);
  for (let t = 0; t < triangles.length; t += 3)
    builder.triangle(at(triangles[t]!), at(triangles[t + 1]!), at(triangles[t + 2]!));
  const rim: number[] = [];
  for (let i = ground.points.length; i < v.length / 3; i++) rim.push(i);
  const low = (i: number): [number, number, number] => [v[i * 3]!, v[i * 3 + 1]!, lowM - 5];
  builder.surface('ground', [0, 0, -1]);
  rim.forEach((a, i) => {
    const b = rim[(i + 1) % rim.length]!;
    builder.quad(low(a), low(b), at(b), at(a));
    if (i > 0 && i < rim.length - 1) builder.triangle(low(rim[0]!), low(b), low(a));
  });
  return builder.build();
}
