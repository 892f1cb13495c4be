export { DirectionSet } from './direction-set';
export { firstBlock } from './first-block';
export { isOpen, MaskKernel, maskWords } from './mask-kernel';
export { type Obstacles, sceneObstacles } from './obstacles';
export { dayNumber, Transmission, type TransmissionBuffers } from './transmission';
export { type TreeBuffers, TriangleTree } from './tree';
