export * from './inset';
export * from './ring';
export * from './straight-skeleton';
export * from './subdivide';
