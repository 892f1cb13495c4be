export { DirectionSet } from './direction-set';
export { firstBlock } from './first-block';
export { isOpen, MaskKernel, maskWords } from './mask-kernel';
export { type Obstacles, sceneObstacles } from './obstacles';
export { dayNumber, Passage, type PassageBuffers } from './transmission';
export { type TreeBuffers, TriangleTree } from './tree';
