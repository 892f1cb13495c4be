import type { Site } from './schema';

/** Of what no reflectance is known (design: what ground and outside surfaces reflect). */
export const DEFAULT_REFLECTANCES: Site['reflectances'] = {
  facades: 0.3,
  glass: 0.1,
  devices: 0.3,
  crowns: 0.1,
};
