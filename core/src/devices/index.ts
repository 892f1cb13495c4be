export { type CutOff, cutOffOf, endlessDepth } from './cut-off';
export { boxCount, type DeviceBox, deviceBoxes, type OpeningBox } from './device-boxes';
export {
  type DevicePlace,
  type GlazedBody,
  glazedPlaces,
  placesBeside,
  placesOfDevice,
  standingScheme,
  tooManyBoxes,
  tooManyDevices,
} from './device-places';
