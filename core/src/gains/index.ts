export { ROOM_PRESETS, type RoomAssumptions } from './assumptions';
export { MASS_CLASSES, type MassClass } from './hourly-room';
export { type RoomYear, roomYear } from './room-year';
