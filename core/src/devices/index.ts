export { type CutOff, cutOffOf, endlessDepth } from './cut-off';
export { type DeviceBox, deviceBoxes, type OpeningBox } from './device-boxes';
export {
  type DevicePlace,
  type GlazedBody,
  glazedPlaces,
  placesOfDevice,
  standingScheme,
} from './device-places';
