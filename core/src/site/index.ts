export * from './coordinates';
export * from './heights-file';
export * from './local-frame';
export * from './terrain';
export * from './weather-header';
