export { ROOM_PRESETS, type RoomAssumptions } from './assumptions';
export { MASS_CLASSES, type MassClass } from './hourly-room';
export { openingsYear, openingTargetId } from './openings-year';
export { ROOM_METHOD, type RoomYear, roomYear } from './room-year';
export { type HourlyPrecision, windowGains } from './window-gains';
export { typicalRooms } from './typical-room';
