import {
  addDays,
  formatClock,
  formatOffset,
  MONTH_NAMES,
  type SunDay,
  clockAt,
  zoneSteps,
} from '@dial-shade/core';

/** 21 March 2026 */
export function longDate(date: string): string {
  const [y, m, d] = date.split('-').map(Number) as [number, number, number];
  return `${d} ${MONTH_NAMES[m - 1]} ${y}`;
}

/** 21 Mar */
export function shortDate(date: string): string {
  const [, m, d] = date.split('-').map(Number) as [number, number, number];
  return `${d} ${MONTH_NAMES[m - 1]!.slice(0, 3)}`;
}

/** The date of a column of the almanac. */
export function dateOfColumn(year: number, column: number): string {
  return addDays(`${year}-01-01`, column);
}

/** Sunrise and sunset in words. */
export function dayInWords(day: SunDay, zone: string): string {
  if (day.polar === 'day') return 'The sun does not set.';
  if (day.polar === 'night') return 'The sun does not rise.';
  const clock = (ms: number | null) => (ms === null ? '–' : formatClock(clockAt(ms, zone).minutes));
  const minutes = Math.round(day.dayLengthHours * 60);
  return `${clock(day.sunriseMs)} – ${clock(day.sunsetMs)}, ${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** What the zone's clocks do at an instant, in words. */
export function zoneInWords(atMs: number, zone: string): string {
  const { offsetMinutes, date } = clockAt(atMs, zone);
  const steps = zoneSteps(zone, Number(date.slice(0, 4)));
  if (steps.length === 0) return formatOffset(offsetMinutes);
  const standard = Math.min(...steps.flatMap((step) => [step.beforeMinutes, step.afterMinutes]));
  return `${formatOffset(offsetMinutes)}, ${offsetMinutes > standard ? 'summer time' : 'standard time'}`;
}

/** A time that something takes: 40 s, 3 min. */
export function durationInWords(seconds: number): string {
  return seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;
}
