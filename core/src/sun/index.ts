export * from './delta-t';
export * from './ephemeris';
export * from './seasons';
export * from './shadow-angles';
export * from './sun-day';
export * from './sun-paths';
export * from './sun-position';
