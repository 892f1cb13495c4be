export { DirectionSet } from './direction-set';
export { firstBlock } from './first-block';
export { isOpen, MaskKernel, maskWords } from './mask-kernel';
export {
  firstObstruction,
  MaskTracer,
  type ObstacleBuffers,
  obstacleBuffers,
  type Obstacles,
  obstaclesFrom,
  sceneObstacles,
} from './obstacles';
export { TriangleTree } from './tree';
