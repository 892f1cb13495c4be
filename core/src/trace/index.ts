export { allBlocks } from './all-blocks';
export { DirectionSet } from './direction-set';
export { firstBlock } from './first-block';
export { isOpen, type Kernel, MaskKernel, maskWords } from './mask-kernel';
export {
  firstObstruction,
  MaskTracer,
  type ObstacleBuffers,
  obstacleBuffers,
  type Obstacles,
  obstaclesFrom,
  sceneObstacles,
} from './obstacles';
export { kernelFor, SimdKernel } from './simd-kernel';
export { TriangleTree } from './tree';
