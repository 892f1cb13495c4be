export * from './check';
export * from './defaults';
export * from './edits';
export * from './option-edits';
export * from './merge';
export * from './schema';
export * from './versions';
