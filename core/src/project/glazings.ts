import type { Glazing } from './schema/opening-schema';

/** Glazing types that a new project begins with: round figures of common panes, to be changed to the maker's. */
export const DEFAULT_GLAZINGS: Glazing[] = [
  {
    id: 'double',
    name: 'Double, clear',
    visibleTransmittance: 0.8,
    gValue: 0.72,
    frameShare: 0.25,
    panes: 2,
    categoryQ: 4,
  },
  {
    id: 'double-coated',
    name: 'Double, coated',
    visibleTransmittance: 0.7,
    gValue: 0.4,
    frameShare: 0.25,
    panes: 2,
    categoryQ: 4,
  },
  {
    id: 'triple',
    name: 'Triple',
    visibleTransmittance: 0.68,
    gValue: 0.5,
    frameShare: 0.28,
    panes: 3,
    categoryQ: 4,
  },
  {
    id: 'single',
    name: 'Single, clear',
    visibleTransmittance: 0.88,
    gValue: 0.82,
    frameShare: 0.2,
    panes: 1,
    categoryQ: 4,
  },
];
