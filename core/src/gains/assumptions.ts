import type { MassClass } from './hourly-room';

/** What is assumed of a room that a model does not say. */
export interface RoomAssumptions {
  /** U-values, W/m²K. */
  windowU: number;
  wallU: number;
  roofU: number;
  floorU: number;
  /** Air that is changed, 1/h. */
  airChange: number;
  /** From people and things, W/m² of floor, day and night. */
  internalWm2: number;
  /** Set-points, °C, and the power there is, W/m² of floor. */
  heatC: number;
  coolC: number;
  heatWm2: number;
  coolWm2: number;
  mass: MassClass;
  /** Blinds outside come down in hours in which more than this comes in through the windows, W/m² of them; */
  blindsWm2: number;
  /** and let so much of it pass, 0 to 1: 1 is none. */
  blindsPass: number;
}

const NEW: RoomAssumptions = {
  windowU: 1.1,
  wallU: 0.2,
  roofU: 0.15,
  floorU: 0.2,
  airChange: 0.6,
  internalWm2: 4,
  heatC: 20,
  coolC: 26,
  heatWm2: 100,
  coolWm2: 100,
  mass: 'medium',
  blindsWm2: 150,
  blindsPass: 1,
};

/** Three sets to begin with. */
export const ROOM_PRESETS: Readonly<Record<'new' | 'old' | 'light', RoomAssumptions>> = {
  new: NEW,
  old: {
    ...NEW,
    windowU: 2.7,
    wallU: 1.4,
    roofU: 0.8,
    floorU: 0.8,
    airChange: 1,
    heatWm2: 150,
    mass: 'heavy',
  },
  light: { ...NEW, wallU: 0.18, mass: 'light' },
};
