export * from './ground';
export * from './mass-solid';
export * from './neighbour-solid';
export * from './piece';
export * from './scene';
export * from './model-problems';
