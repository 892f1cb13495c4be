export { type Casters, castersOf, castShade, type FlatReceiver } from './cast';
export { glassInSun, type GlassSun } from './glass-sun';
export { beamOfSet } from './hours-of-sun';
export { opensWithMore } from './least-size';
export {
  deviceNamed,
  sizeDevice,
  type SecondNumber,
  type SizeAsked,
  type Sized,
  type ShadeReading,
  WindowShade,
  type WeighedMoment,
} from './window-shade';
export { beamAt, hasMoving, movedBy, MovingScene, positionsKey, sceneAt } from './moving-scene';
export { builtOver, type Receiver, receiversOf, type ShadeOn } from './receivers';
export { shadeCounts, type ShadeRow, type ShadowStudy, shadowStudy } from './shadow-study';
export { type Room, type RoomOpening, roomsIn, type RoomSurface } from './room-surfaces';
export {
  deepestSun,
  type DeepestSun,
  type LimitingRay,
  type RoomSun,
  sunInRooms,
  type SunlitSurface,
} from './sun-in-rooms';
export { type DepthReading, depthReading, nameOfRoom, type RoomRow, roomRows } from './room-table';
export { type RoomGoal, type RoomSized, sizeForRoom } from './room-size';
