export * from './terrain';
