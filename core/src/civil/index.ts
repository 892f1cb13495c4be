export { CSV_FORMS, csvAs, type CsvForm, csvText, tabsOf } from './csv';
export { DEG, RAD, wrap180, wrap360 } from './angle';
export { cutText, decodedText, escapeXml } from './text';
export { formatArea, formatLength, parseLength, roundLength, type Units } from './length';
export {
  addDays,
  clockAt,
  dayOfYear,
  daysBetween,
  daysInYear,
  formatClock,
  MONTH_NAMES,
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
