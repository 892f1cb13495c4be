const UNITS = ['B', 'kB', 'MB', 'GB', 'TB'];

/** A number of bytes with its unit, as `1.4 MB`: three digits at most, units of 1,024. */
export function bytesInWords(bytes: number): string {
  let value = bytes;
  let unit = 0;
  while (value >= 999.5 && unit < UNITS.length - 1) {
    value /= 1024;
    unit++;
  }
  return `${value.toFixed(unit > 0 && value < 9.95 ? 1 : 0)} ${UNITS[unit]}`;
}
