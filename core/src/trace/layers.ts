import { contentHash } from '../content-hash';
import { quickHashOf } from '../quick-hash';
import { type MovingDevice, type Piece, reflectingOf, type Scene } from '../scene';
import type { GroundPlane } from '../site';
import { DirectionSet } from './direction-set';
import { GroundShade } from './ground-shade';
import type { Kernel } from './mask-kernel';
import { kernelFor } from './simd-kernel';
import { Transmission, type TransmissionBuffers } from './transmission';
import { type TreeBuffers, TriangleTree } from './tree';

/** What blocks the light in one layer: what stands round about with the ground, what stays of Today, the option's own. */
export interface ObstacleLayer {
  /** Hash of everything in it that blocks. */
  key: string;
  tree: TriangleTree;
  /** Of each triangle as it was given: what it throws light back as, a number in `REFLECTING`. */
  reflects: Uint8Array;
  /** Ground that is a plane, in the layer that holds it. */
  ground: GroundPlane | null;
}

/** Everything a ray can meet, layer by layer: a ray is open where it is open in all. */
export interface LayeredObstacles {
  layers: ObstacleLayer[];
  /** What lets light pass, in all layers together, and the hash of all of it. */
  transmission: Transmission | null;
  passingKey: string;
  /** Devices that move, which are in no layer. */
  moving: readonly MovingObstacle[];
}

/** A device that moves, as it is built for each of its positions. */
export type MovingObstacle = Pick<MovingDevice, 'make' | 'stations'>;

/** The same, for crossing a thread boundary. */
export interface LayerBuffers {
  layers: { key: string; tree: TreeBuffers; reflects: Uint8Array; ground: GroundPlane | null }[];
  transmission: TransmissionBuffers | null;
  passingKey: string;
  moving: readonly MovingObstacle[];
}

const hashes = new WeakMap<Piece, string>();

/** Hash of what blocks in a piece; pieces are the same objects while nothing of them changes. */
function blockingHash(piece: Piece): string {
  let hash = hashes.get(piece);
  if (!hash) {
    const { positions, opaque } = piece;
    hash = quickHashOf(positions.subarray(0, opaque * 9));
    hashes.set(piece, hash);
  }
  return hash;
}

/** The obstacles of a scene in layers, ready for tracing. What is empty is left out. */
export function sceneLayers(scene: Scene): LayeredObstacles {
  const around: Piece[] = [];
  const today: Piece[] = [];
  const own: Piece[] = [];
  const devices: Piece[] = [];
  scene.pieces.forEach((piece, i) => {
    // Ground that is a plane blocks without its triangles.
    if (i === 0 && scene.shown > 0) return;
    if (scene.moving.some(({ resting }) => resting === piece)) return;
    const { layer } = scene.owners[i]!;
    const into = { option: own, today, devices, neighbours: around, ground: around }[layer];
    into.push(piece);
  });
  const layers = [
    layerOf(around, scene.ground, false),
    layerOf(today, null, false),
    layerOf(own, null, false),
    layerOf(devices, null, true),
  ];
  const transmission = Transmission.of(scene);
  return {
    layers: layers.filter((layer) => layer !== null),
    transmission,
    passingKey: transmission ? passingHash(transmission.buffers) : '',
    moving: scene.moving.map(({ make, stations }) => ({ make, stations })),
  };
}

/** Some devices alone as obstacles, in one layer, and what moves. Not for keeping: they have no hashes. */
export function pieceLayers(
  pieces: readonly Piece[],
  moving: readonly MovingObstacle[] = [],
): LayeredObstacles {
  // One layer even where nothing blocks: then everything before the sensors is open.
  const bare = {
    key: '',
    tree: TriangleTree.build(new Float64Array(0)),
    reflects: new Uint8Array(0),
    ground: null,
  };
  return {
    layers: [layerOf(pieces, null, true, '') ?? bare],
    transmission: Transmission.of(passingParts(pieces)),
    passingKey: '',
    moving,
  };
}

/** Obstacles with what moves as pieces among them, each where it stands. */
export function withStanding(obstacles: LayeredObstacles, pieces: readonly Piece[]): LayeredObstacles {
  const layer = layerOf(pieces, null, true);
  const transmission = Transmission.together([obstacles.transmission, Transmission.of(passingParts(pieces))]);
  return {
    layers: layer ? [...obstacles.layers, layer] : obstacles.layers,
    transmission,
    passingKey: transmission ? passingHash(transmission.buffers) : '',
    moving: [],
  };
}

/** What lets light pass in some pieces. */
function passingParts(
  pieces: readonly Piece[],
): Pick<Scene, 'positions' | 'surfaceOf' | 'surfaces' | 'opaque'> {
  const surfaces: Scene['surfaces'] = [];
  const [positions, surfaceOf]: number[][] = [[], []];
  for (const piece of pieces) {
    for (let t = piece.opaque; t < piece.surfaceOf.length; t++) {
      positions!.push(...piece.positions.subarray(t * 9, t * 9 + 9));
      surfaceOf!.push(surfaces.length + piece.surfaceOf[t]!);
    }
    surfaces.push(...piece.surfaces);
  }
  return {
    positions: Float64Array.from(positions!),
    surfaceOf: Uint32Array.from(surfaceOf!),
    surfaces,
    opaque: 0,
  };
}

/** Hash of everything that lets light pass, and how much. */
function passingHash({
  vertices,
  order,
  kind,
  share,
  bare,
  leafFrom,
  leafUntil,
  surface,
}: TransmissionBuffers): string {
  const parts = [vertices, order, kind, share, bare, leafFrom, leafUntil, surface];
  return contentHash(parts.map(quickHashOf));
}

function layerOf(
  pieces: readonly Piece[],
  ground: GroundPlane | null,
  areDevices: boolean,
  key = contentHash([pieces.map(blockingHash), ground]),
): ObstacleLayer | null {
  const triangles = pieces.reduce((sum, { opaque }) => sum + opaque, 0);
  if (triangles === 0 && !ground) return null;
  const positions = new Float64Array(triangles * 9);
  const reflects = new Uint8Array(triangles);
  let at = 0;
  for (const { positions: own, opaque, surfaces, surfaceOf } of pieces) {
    positions.set(own.subarray(0, opaque * 9), at * 9);
    const each = surfaces.map((surface) => reflectingOf(surface, areDevices));
    for (let t = 0; t < opaque; t++) reflects[at + t] = each[surfaceOf[t]!]!;
    at += opaque;
  }
  return {
    key,
    tree: TriangleTree.build(positions),
    reflects,
    ground,
  };
}

export function layerBuffers({ layers, transmission, passingKey, moving }: LayeredObstacles): LayerBuffers {
  return {
    passingKey,
    moving,
    layers: layers.map(({ key, tree: { bounds, links, vertices, order }, reflects, ground }) => ({
      key,
      tree: { bounds, links, vertices, order },
      reflects,
      ground,
    })),
    transmission: transmission && transmission.buffers,
  };
}

export function layersFrom({ layers, transmission, passingKey, moving }: LayerBuffers): LayeredObstacles {
  return {
    passingKey,
    moving,
    layers: layers.map((layer) => ({ ...layer, tree: TriangleTree.from(layer.tree) })),
    transmission: transmission && Transmission.from(transmission),
  };
}

/** Traces sensors to directions against everything that blocks in one layer. */
export class LayerTracer {
  private readonly kernel: Kernel;
  private readonly ground: GroundShade | null;

  /** @param vectors 3 numbers a direction, unit length, pointing away from the sensor */
  constructor(
    { tree, ground }: Pick<ObstacleLayer, 'tree' | 'ground'>,
    vectors: Float64Array,
    private readonly directions: DirectionSet,
  ) {
    this.kernel = kernelFor(tree);
    this.ground = ground && new GroundShade(ground, vectors);
  }

  /** Sets the bits of open directions for the sensors from `from` up to `to`; see `Kernel.trace`. */
  trace(
    positions: Float64Array,
    normals: Float64Array | null,
    from: number,
    to: number,
    mask: Uint32Array,
  ): void {
    this.kernel.trace(positions, normals, from, to, this.directions, mask);
    this.ground?.shade(positions, from, to, mask);
  }
}
