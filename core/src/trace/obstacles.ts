import type { Scene } from '../scene';
import type { GroundPlane } from '../site';
import { firstBlock } from './first-block';
import { Transmission, type TransmissionBuffers } from './transmission';
import { type TreeBuffers, TriangleTree } from './tree';

/** Everything a ray can meet: what blocks it, and what lets a share of it pass. */
export interface Obstacles {
  /** What blocks, but for ground that is a plane. */
  tree: TriangleTree;
  /** Number in the scene of the first triangle in the tree. */
  firstTriangle: number;
  ground: GroundPlane;
  transmission: Transmission | null;
}

/** The same, for crossing a thread boundary. */
export interface ObstacleBuffers {
  tree: TreeBuffers;
  firstTriangle: number;
  ground: GroundPlane;
  transmission: TransmissionBuffers | null;
}

/** The obstacles of a scene, ready for tracing. */
export function sceneObstacles(scene: Scene): Obstacles {
  return {
    tree: TriangleTree.build(scene.positions.subarray(scene.shown * 9, scene.opaque * 9)),
    firstTriangle: scene.shown,
    ground: scene.ground,
    transmission: Transmission.of(scene),
  };
}

export function obstacleBuffers({ tree, firstTriangle, ground, transmission }: Obstacles): ObstacleBuffers {
  const { bounds, links, vertices, order } = tree;
  return {
    tree: { bounds, links, vertices, order },
    firstTriangle,
    ground,
    transmission: transmission && transmission.buffers,
  };
}

export function obstaclesFrom({ tree, transmission, ...rest }: ObstacleBuffers): Obstacles {
  return {
    ...rest,
    tree: TriangleTree.from(tree),
    transmission: transmission && Transmission.from(transmission),
  };
}

/**
 * The way along a ray to ground that is a plane, in lengths of the direction; from below, its underside is met by what
 * rises. Infinity where it is never met.
 */
export function groundReach(
  { normal: [nx, ny, nz], offset }: GroundPlane,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
): number {
  const falls = nx * dx + ny * dy + nz * dz;
  const above = nx * ox + ny * oy + nz * oz - offset;
  return falls !== 0 && -above / falls >= 0 ? -above / falls : Infinity;
}

/**
 * The first thing along a ray that blocks it, as the number of a triangle in the scene (0, of the ground, for ground
 * that is a plane), or −1 when the ray is open. The direction need not be of unit length.
 */
export function firstObstruction(
  { tree, firstTriangle, ground }: Obstacles,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
): number {
  const reach = groundReach(ground, ox, oy, oz, dx, dy, dz);
  const triangle = firstBlock(tree, ox, oy, oz, dx, dy, dz, reach);
  if (triangle >= 0) return triangle + firstTriangle;
  return reach < Infinity ? 0 : -1;
}
