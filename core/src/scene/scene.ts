import { RAD } from '../civil/angle';
import { InputError } from '../errors';
import type { Ground, Mass, MeshNeighbour, Neighbour, Project } from '../project/schema';
import { TODAY } from '../project/schema';
import { groundLevel, groundNormal } from './ground';
import { massSolid } from './mass-solid';
import { type Piece, PieceBuilder, type Surface, triangleNormal } from './piece';

export type Layer = 'ground' | 'neighbours' | 'today' | 'option';

/** What blocks the sun, as one thing that can be named: a neighbour, a mass, the ground. */
export interface Owner {
  id: string;
  name: string;
  layer: Layer;
  /** The option that holds the mass; null for neighbours and ground. */
  optionId: string | null;
}

/** Triangles of an indexed mesh: 3 coordinates a vertex, metres; 3 vertex numbers a triangle. */
export interface Mesh {
  positions: Float64Array;
  triangles: Uint32Array;
}

/** The meshes of a project by content hash. */
export type MeshStore = ReadonlyMap<string, Mesh>;

/** Everything the sun meets in one option, as triangles. */
export interface Scene {
  owners: Owner[];
  surfaces: Surface[];
  /** Nine numbers a triangle, metres, project frame. */
  positions: Float64Array;
  /** Surface of each triangle. */
  surfaceOf: Uint32Array;
  /** Owner of each surface. */
  ownerOf: Uint32Array;
}

/** Pieces by the document part they were made of; parts are never changed in place, so identity is enough. */
const pieces = new WeakMap<object, { ground: Ground; piece: Piece }>();

function cached(part: Mass | Neighbour, ground: Ground, make: () => Piece): Piece {
  const known = pieces.get(part);
  if (known && known.ground === ground) return known.piece;
  const piece = make();
  pieces.set(part, { ground, piece });
  return piece;
}

/**
 * The scene of an option: ground, neighbours, what stays of Today, and the option's masses.
 * Throws InputError `option` when the option does not exist and `mesh` when a mesh is not in the store.
 */
export function assembleScene(project: Project, optionId: string, meshes: MeshStore): Scene {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const parts: { owner: Owner; piece: Piece }[] = [];
  for (const neighbour of project.neighbours) {
    const piece = cached(neighbour, ground, () =>
      neighbour.kind === 'building' ? massSolid(neighbour, ground) : meshPiece(neighbour, meshes),
    );
    parts.push({
      owner: { id: neighbour.id, name: neighbour.name, layer: 'neighbours', optionId: null },
      piece,
    });
  }
  const addMass = (mass: Mass, layer: Layer, owningOption: string) =>
    parts.push({
      owner: { id: mass.id, name: mass.name, layer, optionId: owningOption },
      piece: cached(mass, ground, () => massSolid(mass, ground)),
    });
  for (const mass of standingMasses(project, optionId)) addMass(mass, 'today', TODAY);
  if (optionId !== TODAY) for (const mass of option.masses) addMass(mass, 'option', optionId);
  parts.unshift({
    owner: { id: 'ground', name: 'Ground', layer: 'ground', optionId: null },
    piece: groundPiece(
      project,
      parts.map((part) => part.piece),
    ),
  });
  return join(parts);
}

/** The option with this id. Throws InputError `option`, naming those that exist. */
export function requireOption(project: Project, optionId: string) {
  const option = project.options.find((item) => item.id === optionId);
  if (option) return option;
  const known = project.options.map((item) => `“${item.id}” (${item.letter} ${item.name})`).join(', ');
  throw new InputError('option', `The option “${optionId}” does not exist; there are ${known}.`);
}

/** The masses of Today that stand in an option: all in Today itself, else those not demolished. */
export function standingMasses(project: Project, optionId: string): Mass[] {
  const today = project.options.find((item) => item.id === TODAY)?.masses ?? [];
  return optionId === TODAY ? today : today.filter((mass) => !mass.demolished);
}

function join(parts: { owner: Owner; piece: Piece }[]): Scene {
  const triangles = parts.reduce((sum, { piece }) => sum + piece.surfaceOf.length, 0);
  const scene: Scene = {
    owners: parts.map(({ owner }) => owner),
    surfaces: [],
    positions: new Float64Array(triangles * 9),
    surfaceOf: new Uint32Array(triangles),
    ownerOf: new Uint32Array(parts.reduce((sum, { piece }) => sum + piece.surfaces.length, 0)),
  };
  let at = 0;
  parts.forEach(({ piece }, owner) => {
    const first = scene.surfaces.length;
    for (const surface of piece.surfaces) scene.surfaces.push(surface);
    scene.ownerOf.fill(owner, first, scene.surfaces.length);
    scene.positions.set(piece.positions, at * 9);
    for (let i = 0; i < piece.surfaceOf.length; i++) scene.surfaceOf[at + i] = piece.surfaceOf[i]! + first;
    at += piece.surfaceOf.length;
  });
  return scene;
}

/** Half the side of the square of ground that is drawn and blocks, metres, at the least. */
const GROUND_REACH_M = 300;

function groundPiece(project: Project, others: Piece[]): Piece {
  let reach = GROUND_REACH_M;
  const corners = [...(project.site.boundary ?? []), ...project.targets.flatMap((target) => target.outline)];
  for (const [x, y] of corners) reach = Math.max(reach, Math.abs(x) * 2, Math.abs(y) * 2);
  for (const { positions } of others)
    for (let i = 0; i < positions.length; i += 3)
      reach = Math.max(reach, Math.abs(positions[i]!) * 2, Math.abs(positions[i + 1]!) * 2);
  const { ground } = project.site;
  const builder = new PieceBuilder();
  const at = (x: number, y: number): [number, number, number] => [x, y, groundLevel(ground, [x, y])];
  builder.surface('ground', groundNormal(ground));
  builder.quad(at(-reach, -reach), at(reach, -reach), at(reach, reach), at(-reach, reach));
  return builder.build();
}

function meshPiece(neighbour: MeshNeighbour, meshes: MeshStore): Piece {
  const mesh = meshes.get(neighbour.mesh);
  if (!mesh)
    throw new InputError(
      'mesh',
      `The mesh of the neighbour “${neighbour.name}” is missing; bring its file in again.`,
    );
  const { triangles } = mesh;
  const vertices = placedMesh(mesh, neighbour.move, neighbour.turnDeg);
  const positions = new Float64Array(triangles.length * 3);
  for (let i = 0; i < triangles.length; i++)
    positions.set(vertices.subarray(triangles[i]! * 3, triangles[i]! * 3 + 3), i * 3);
  const point = (i: number): [number, number, number] => [
    positions[i]!,
    positions[i + 1]!,
    positions[i + 2]!,
  ];
  return {
    positions,
    surfaceOf: new Uint32Array(triangles.length / 3),
    surfaces: [{ kind: 'mesh', normal: triangleNormal(point(0), point(3), point(6)), storey: null }],
  };
}

/** Vertices of a mesh turned about z and moved; 3 numbers a vertex. */
export function placedMesh(
  mesh: Mesh,
  move: readonly [number, number, number],
  turnDeg: number,
): Float64Array {
  const c = Math.cos(turnDeg * RAD);
  const s = Math.sin(turnDeg * RAD);
  const out = new Float64Array(mesh.positions.length);
  for (let i = 0; i < out.length; i += 3) {
    const x = mesh.positions[i]!;
    const y = mesh.positions[i + 1]!;
    out[i] = c * x - s * y + move[0];
    out[i + 1] = s * x + c * y + move[1];
    out[i + 2] = mesh.positions[i + 2]! + move[2];
  }
  return out;
}
