export { type Variant, variantOf, variantsOf, inVariant } from './variants';
export { type CutOff, cutOffOf, endlessDepth } from './cut-off';
export { type CutOffLine, cutOffLines } from './cut-off-lines';
export { boxCount, type DeviceBox, deviceBoxes, type FramePoint, type OpeningBox } from './device-boxes';
export {
  atRest,
  canMove,
  coveredBySlat,
  type DevicePosition,
  type FaceAxes,
  inPosition,
  type MovedBy,
  positionAt,
} from './device-moves';
export type { DevicePlace } from './device-place';
export { INSIDE_G_FACTOR, insideFactor, isInsideSheet } from './inside-sheets';
export { type DevicePrism, type DeviceSheet, deviceSheets, platePrisms } from './device-sheets';
export { type DeviceStation, deviceStations } from './device-stations';
export {
  type GlazedBody,
  glazedPlaces,
  placesBeside,
  placesOfDevice,
  standingScheme,
  tooManyBoxes,
  tooManyDevices,
  withoutDevices,
} from './device-places';
export { type DeviceHandle, deviceHandles, withHandle } from './device-handles';
export { DEVICE_KINDS, type FreeNumber } from './plain-devices';
export { withOpeningsKept } from './openings-kept';
