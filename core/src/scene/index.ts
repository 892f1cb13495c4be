export * from './ground';
export * from './mass-solid';
export * from './mesh';
export * from './neighbour-solid';
export * from './piece';
export * from './scene';
export * from './standing';
export * from './model-problems';
