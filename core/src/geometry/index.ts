export * from './ring';
