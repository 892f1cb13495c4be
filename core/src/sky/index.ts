export { brightness, clearness, type PerezHour, perezSky } from './perez-sky';
export { overcast, STANDARD_SKIES, type StandardSky, standardSky } from './sky-models';
export {
  BAND_DEG,
  BANDS,
  patchAt,
  type SkyVault,
  skyVault,
  type Subdivision,
  SUBDIVISIONS,
} from './sky-vault';
export { hourSky, type SkyRadiation, skyRadiation } from './weather-sky';
export { type SkyHours, skyHours, SkyRadiance } from './sky-hours';
export { NEAREST, skyNeighbours, type SkySpiral, skySpiral } from './sky-spiral';
