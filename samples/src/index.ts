import type { Project } from '@dial-shade/core';
import { kelpLane } from './kelp-lane';
import { mesaBaja } from './mesa-baja';

export { kelpLane, mesaBaja };

/** The sample projects, by the id that they are loaded under; the first one is opened on the first start. */
export const SAMPLES: Record<string, () => Project> = { 'kelp-lane': kelpLane, 'mesa-baja': mesaBaja };
