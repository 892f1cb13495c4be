import { part } from './part';

export type Checks = typeof import('./document-checks');

/** What checks edits and merges documents. */
export const checks = part<Checks>(() => import('./document-checks'));
