export * from './angle';
export * from './length';
export * from './zone';
