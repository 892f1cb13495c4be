export * from './direction-set';
export * from './first-block';
export * from './mask-kernel';
export * from './obstacles';
export * from './passage';
export * from './tree';
