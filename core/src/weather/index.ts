export { type Carpet, carpetDate, carpetOf } from './carpet';
export { degreeHours, hoursInSet } from './hour-sets';
export { distanceKm, FAR_KM, hoursAtSite, type SiteHours, standardTimeH } from './hours-at-site';
export { hoursWithoutWeather } from './hours-without-weather';
export { shareWithin, type StandardWindow } from './hours-within';
export { madeUpComment, madeUpWeather } from './made-up-weather';
export { type Climate, climateAt, makeUpYear } from './made-up-year';
export { airMass, diffuseShare, extraterrestrial, SOLAR_CONSTANT } from './radiation';
export { readWeather } from './read-weather';
export { storedWeather, weatherOf } from './stored-weather';
export {
  MAX_SUNS_PER_HOUR,
  sunOfHours,
  sunsOfHour,
  type WeatherHour,
  type WeatherHours,
} from './sun-of-hours';
export { weatherSummary, type WeatherSummary } from './weather-summary';
export { WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';
export { ROSE_DIRECTIONS, ROSE_SPEEDS, type WindRose, windRose } from './wind-rose';
export { shareInWindow } from './windows-of-time';
export { writeEpw } from './write-epw';
