import type { Drawing } from './schema/view-schema';

/** How a scene is drawn where nobody has said. */
export const DEFAULT_DRAWING: Drawing = {
  tone: 'paper',
  ink: 0.75,
  shade: 0.5,
  sunPath: true,
  grid: false,
  ghost: false,
};
