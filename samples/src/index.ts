import type { Project } from '@dial-shade/core';
import { kelpLane } from './kelp-lane';

export { kelpLane };

/** The sample projects, by the id that they are loaded under. */
export const SAMPLES: Record<string, () => Project> = { 'kelp-lane': kelpLane };
