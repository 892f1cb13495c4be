export * from './faces';
export * from './figures';
export * from './levels';
export * from './plates';
export * from './roof-shape';
export * from './rooms';
export * from './reshape';
export * from './transform';
