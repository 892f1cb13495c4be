import { RAD } from '../civil/angle';
import { InputError } from '../errors';
import { type FittedBody, fitOpenings } from '../openings/fitted';
import type {
  BuildingNeighbour,
  Glazing,
  Ground,
  Mass,
  MassShape,
  MeshNeighbour,
  Model,
  Neighbour,
  OpeningRule,
  Project,
  Terrain,
} from '../project/schema';
import { TODAY } from '../project/schema';
import { terrainSurface } from '../site/terrain';
import { groundLevel, groundNormal } from './ground';
import { massSolid } from './mass-solid';
import { fenceSolid, treeSolid, wallSolid } from './neighbour-solid';
import { type Piece, PieceBuilder, pieceOf, type Surface, triangleNormal } from './piece';

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
  /** The triangles of each owner, the same objects as before where nothing changed. */
  pieces: Piece[];
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

/** Openings of every body that has any, in one option. */
export interface OpeningsOf {
  /** Every building that stands in the option, with the option that holds it (null: a neighbour). */
  bodies: { body: Mass | BuildingNeighbour; optionId: string | null }[];
  /** By the body itself; null when it has no openings and no rules. */
  of(body: MassShape): FittedBody | null;
  /** The same, also for a body without any. */
  fitted(body: MassShape): FittedBody;
}

const NO_RULES: readonly OpeningRule[] = [];

/** The openings of an option: fitted on first use, remembered with the bodies. */
export function openingsIn(project: Project, optionId: string): OpeningsOf {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const standing = standingNeighbours(project, optionId).filter((n) => n.kind === 'building');
  const today = standingMasses(project, optionId);
  const own = optionId === TODAY ? [] : option.masses;
  const bodies: MassShape[] = [...standing, ...today, ...own];
  const rulesOf = new Map<MassShape, readonly OpeningRule[]>();
  for (const body of standing) rulesOf.set(body, project.neighbourRules);
  const todayRules = project.options.find((item) => item.id === TODAY)?.rules ?? [];
  for (const body of today) rulesOf.set(body, todayRules);
  for (const body of own) rulesOf.set(body, option.rules);
  /** Rules that may be for a body; whether for one of its walls is seen when they are fitted. */
  const rulesFor = (body: MassShape) => {
    const rules = rulesOf.get(body) ?? NO_RULES;
    return rules.length === 0
      ? NO_RULES
      : rules.filter(({ scope }) => scope.owners?.includes(body.id) ?? true);
  };
  const fitted = (body: MassShape) =>
    fitOpenings(body, body.id, {
      ground,
      trueNorthDeg: project.site.north.trueNorthDeg,
      rules: rulesFor(body),
      others: bodies,
    });
  return {
    bodies: [
      ...standing.map((body) => ({ body, optionId: null })),
      ...today.map((body) => ({ body, optionId: TODAY })),
      ...own.map((body) => ({ body, optionId })),
    ],
    of(body) {
      return rulesFor(body).length === 0 && body.openings.length === 0 ? null : fitted(body);
    },
    fitted,
  };
}

/**
 * The scene of an option: ground, neighbours, what stays of Today, and the option's masses and models.
 * Throws InputError `option` when the option does not exist and `mesh` when a mesh is not in the store.
 */
export function assembleScene(project: Project, optionId: string, meshes: MeshStore): Scene {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const { glazings } = project;
  const openings = openingsIn(project, optionId);
  const parts: { owner: Owner; piece: Piece }[] = [];
  const put = (part: { id: string; name: string }, layer: Layer, owningOption: string | null, piece: Piece) =>
    parts.push({ owner: { id: part.id, name: part.name, layer, optionId: owningOption }, piece });
  const massPiece = (mass: MassShape) => {
    const fitted = openings.of(mass);
    if (!fitted) return cached(mass, ground, () => massSolid(mass, ground));
    return cached(
      mass,
      ground,
      () => massSolid(mass, ground, { byFace: fitted.byFace, glazings }),
      fitted,
      glazings,
    );
  };
  const modelPiece = (model: Model | MeshNeighbour) => cached(model, ground, () => meshPiece(model, meshes));
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
    for (const mass of option.masses) put(mass, 'option', optionId, massPiece(mass));
    for (const model of option.models) put(model, 'option', optionId, modelPiece(model));
  }
  const piece = groundPiece(
    project,
    parts.map((part) => part.piece),
  );
  parts.unshift({ owner: { id: 'ground', name: 'Ground', layer: 'ground', optionId: null }, piece });
  return join(parts);
}

function plainNeighbour(
  neighbour: Extract<Neighbour, { kind: 'wall' | 'fence' | 'tree' }>,
  ground: Ground,
): Piece {
  if (neighbour.kind === 'wall') return wallSolid(neighbour, ground);
  if (neighbour.kind === 'fence') return fenceSolid(neighbour, ground);
  return treeSolid(neighbour, ground);
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

/** The models of Today that stand in an option. */
export function standingModels(project: Project, optionId: string): Model[] {
  const today = project.options.find((item) => item.id === TODAY)?.models ?? [];
  return optionId === TODAY ? today : today.filter((model) => !model.demolished);
}

/** The neighbours that stand in an option: all in Today, else those that are not taken down with the proposal. */
export function standingNeighbours(project: Project, optionId: string): Neighbour[] {
  return optionId === TODAY
    ? project.neighbours
    : project.neighbours.filter((neighbour) => !neighbour.demolished);
}

function join(parts: { owner: Owner; piece: Piece }[]): Scene {
  let triangles = 0;
  let opaque = 0;
  let surfaces = 0;
  for (const { piece } of parts) {
    triangles += piece.surfaceOf.length;
    opaque += piece.opaque;
    surfaces += piece.surfaces.length;
  }
  const scene: Scene = {
    owners: parts.map(({ owner }) => owner),
    surfaces: new Array<Surface>(surfaces),
    positions: new Float64Array(triangles * 9),
    surfaceOf: new Uint32Array(triangles),
    ownerOf: new Uint32Array(surfaces),
    opaque,
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
  const corners = [...(project.site.boundary ?? []), ...project.targets.flatMap((target) => target.outline)];
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

function meshPiece(model: Model | MeshNeighbour, meshes: MeshStore): Piece {
  const mesh = meshes.get(model.mesh);
  if (!mesh) throw new InputError('mesh', `The mesh of “${model.name}” is missing; bring its file in again.`);
  const { triangles } = mesh;
  const vertices = placedMesh(mesh, model.move, model.turnDeg);
  const positions = new Float64Array(triangles.length * 3);
  for (let i = 0; i < triangles.length; i++)
    positions.set(vertices.subarray(triangles[i]! * 3, triangles[i]! * 3 + 3), i * 3);
  const point = (i: number): [number, number, number] => [
    positions[i]!,
    positions[i + 1]!,
    positions[i + 2]!,
  ];
  const surface: Surface = {
    kind: 'mesh',
    normal: triangleNormal(point(0), point(3), point(6)),
    storey: null,
    face: null,
    opening: null,
    passing: model.openness > 0 ? { through: 'glass', share: model.openness } : null,
  };
  const count = triangles.length / 3;
  return pieceOf(positions, new Uint32Array(count), [surface], model.openness > 0 ? 0 : count);
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
