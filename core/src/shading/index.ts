export { AT_REST, type GlassAsked, type GlassPrecision, GlassYear, IN_MOTION, IN_SWEEP } from './glass-year';
export {
  type GlassReading,
  GlassReader,
  READING_METHOD,
  SWEEP_METHOD,
  type SetReading,
  shadeOfSuns,
  type WindowGain,
} from './glass-reading';
export { windowYears } from './window-years';
export {
  type Candidate,
  DeviceSweep,
  frontOf,
  MAX_CANDIDATES,
  type SweepAgainst,
  type SweepKind,
  sweepMakes,
  type SweepRange,
  withoutDevice,
} from './device-sweep';
export { plateOn, shadeWorth, type WorthMap, type WorthPlane } from './shade-worth';
export { planeDrawn, planeUnder } from './worth-planes';
export { netWorth, type OutlineManner, worthOutline } from './worth-outline';
export { MASK_ALTITUDES, MASK_AZIMUTHS, type ShadingMask, shadingMask } from './shading-mask';
export { type RoomLight, roomLight } from './room-light';
export { hourlyMonths, isHourly } from './hourly-months';
