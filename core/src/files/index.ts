export * from './mesh-bytes';
export * from './model-units';
export * from './obj';
