export * from './local-frame';
export * from './terrain';
