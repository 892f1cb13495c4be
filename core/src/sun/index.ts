export { SunTrack } from './ephemeris';
export {
  MAX_MOMENTS,
  momentsOf,
  readMoments,
  readTimes,
  type SetMoment,
  solarInstant,
  type TypedMoments,
  daylightMinutes,
} from './moment-sets';
export { SEASON_NAMES, seasons } from './seasons';
export { onSkyChart, SKY_PROJECTIONS, type SkyProjection } from './sky-projection';
export { shadowAngles } from './shadow-angles';
export { solarMinutes, sunDay, type SunDay } from './sun-day';
export { type AltitudeTable, altitudeTable, analemma, dayArc } from './sun-paths';
export { type EarthPlace, requirePlace, sunPosition, type SunPosition, sunVector } from './sun-position';
