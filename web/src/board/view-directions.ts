/** A way of looking at everything: from an angle, from above, or square from one side of the drawing. */
export type ViewDirection = 'fit' | 'above' | 'north' | 'east' | 'south' | 'west';

/** Where the eye stands, as a direction from what is looked at. */
export const VIEW_FROM: Record<ViewDirection, [number, number, number]> = {
  fit: [-0.42, -0.78, 0.62],
  above: [0, -0.0001, 1],
  north: [0, 1, 0.00001],
  east: [1, 0, 0.00001],
  south: [0, -1, 0.00001],
  west: [-1, 0, 0.00001],
};
