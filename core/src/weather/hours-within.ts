import type { WeatherHour } from './sun-of-hours';

/** Dates × hours of the clock in local standard time; dates may run over the turn of the year. */
export interface StandardWindow {
  /** Month × 100 + day, both included. */
  fromDay: number;
  toDay: number;
  /** Minutes since midnight. */
  startMinutes: number;
  endMinutes: number;
}

const HOUR_MS = 3_600_000;

/** The share of an hour that lies in a window. @param standardTimeH hours of local standard time ahead of UTC */
export function shareWithin(window: StandardWindow, standardTimeH: number): (hour: WeatherHour) => number {
  const { fromDay, toDay, startMinutes, endMinutes } = window;
  return ({ startMs }) => {
    const local = new Date(startMs + standardTimeH * HOUR_MS);
    const day = (local.getUTCMonth() + 1) * 100 + local.getUTCDate();
    const isIn = fromDay <= toDay ? day >= fromDay && day <= toDay : day >= fromDay || day <= toDay;
    if (!isIn) return 0;
    const begins = local.getUTCHours() * 60;
    return Math.max(0, Math.min(endMinutes, begins + 60) - Math.max(startMinutes, begins)) / 60;
  };
}
