export { allBlocks } from './all-blocks';
export { DirectionSet, directionSetOf } from './direction-set';
export { firstBlock } from './first-block';
export { KeptLayer } from './kept-layer';
export {
  blankMask,
  type KeptMask,
  type KeptShares,
  type Known,
  type KnownMask,
  type MaskOf,
  type MaskStore,
  MAX_MASK_BYTES,
  MemoryMasks,
  type ShareRow,
  TRACING_VERSION,
} from './kept-masks';
export { type DirectionRun, findDirections } from './known-directions';
export {
  type LayerBuffers,
  layerBuffers,
  type LayeredObstacles,
  type MovingObstacle,
  layersFrom,
  LayerTracer,
  type ObstacleLayer,
  pieceLayers,
  sceneLayers,
  withStanding,
} from './layers';
export { nearestLeaves } from './nearest-leaves';
export { cosineAt, meetTriangle } from './ray-triangle';
export { isOpen, type Kernel, MaskKernel, maskWords } from './mask-kernel';
export {
  firstObstruction,
  groundReach,
  type ObstacleBuffers,
  obstacleBuffers,
  type Obstacles,
  obstaclesFrom,
  sceneObstacles,
} from './obstacles';
export { kernelFor, SimdKernel } from './simd-kernel';
export { Transmission } from './transmission';
export { TriangleTree } from './tree';
