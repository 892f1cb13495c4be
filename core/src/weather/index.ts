export { shareWithin, type StandardWindow } from './hours-within';
export { type Climate, climateAt, makeUpYear } from './made-up-year';
export { airMass, diffuseShare, extraterrestrial, SOLAR_CONSTANT } from './radiation';
export { readWeather } from './read-weather';
export { sunOfHours, type WeatherHour, type WeatherHours } from './sun-of-hours';
export { storedWeather, weatherOf } from './stored-weather';
export { weatherSummary, type WeatherSummary } from './weather-summary';
export { WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';
export { writeEpw } from './write-epw';
