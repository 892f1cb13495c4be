export { csvText } from './csv';
export { DEG, RAD, wrap180, wrap360 } from './angle';
export { cutText } from './text';
export { formatArea, formatLength, parseLength, type Units } from './length';
export {
  addDays,
  clockAt,
  dayOfYear,
  daysBetween,
  daysInYear,
  formatClock,
  momentName,
  formatOffset,
  instantOf,
  isDate,
  isZone,
  offsetAt,
  requireDate,
  requireZone,
  zoneSteps,
} from './zone';
