import type { Scene } from '../scene';
import { Transmission } from './transmission';
import { TriangleTree } from './tree';

/** Everything a ray can meet: what blocks it, and what lets a share of it pass. */
export interface Obstacles {
  /** Triangle numbers are those of the scene. */
  tree: TriangleTree;
  transmission: Transmission | null;
}

/** The obstacles of a scene, ready for tracing. */
export function sceneObstacles(scene: Scene): Obstacles {
  return {
    tree: TriangleTree.build(scene.positions.subarray(0, scene.opaque * 9)),
    transmission: Transmission.of(scene),
  };
}
