export * from './point-year';
export * from './result-bytes';
export * from './sensor-grid';
export * from './signature';
export * from './summary';
export * from './sun-hours';
export * from './sun-samples';
export * from './target-surface';
