export { parseCoordinates } from './coordinates';
export { type CleanPlane, cleanPlane } from './clean-plane';
export { groundAlong, groundLevel, groundNormal, type GroundPlane, groundPlane } from './ground';
export { localFrame } from './local-frame';
export { isGeographic, mapSystem, type MapSystem } from './map-system';
export { terrainSurface } from './terrain';
export {
  movedUnderlay,
  scaledUnderlay,
  turnedUnderlay,
  underlayCorners,
  underlayPixel,
  underlayPoint,
} from './underlay';
export { readWeatherPlace, type WeatherPlace } from './weather-header';
