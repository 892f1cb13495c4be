import type { Comparison } from './schema/comparison-schema';

/** Nothing chosen to compare by yet. */
export const NO_COMPARISON: Comparison = { measures: [], options: null, against: null, rooms: 'new' };
