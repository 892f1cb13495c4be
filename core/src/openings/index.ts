export * from './fit';
export * from './fitted';
export * from './outline';
export * from './party';
export * from './rule';
export * from './facades';
