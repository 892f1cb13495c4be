import type { WeatherYear } from './weather-year';

/** Directions of a wind rose. */
export const ROSE_DIRECTIONS = 16;
/** Speeds at which a class of the rose begins, m/s; the first is calm, from no direction. */
export const ROSE_SPEEDS = [0, 0.5, 2, 4, 6, 8] as const;

export interface WindRose {
  /** Hours counted: those with speed and direction. */
  hours: number;
  calmHours: number;
  /** Hours by direction the wind comes from (from north clockwise) and class of speed from the second on: 16 × 5. */
  byDirection: Float64Array;
  meanSpeed: number;
}

/** How long the wind blows from where and how fast, over the hours that are wanted. @param isWanted by month (1 to 12) and hour (0 to 23) */
export function windRose(weather: WeatherYear, isWanted: (month: number, hour: number) => boolean): WindRose {
  const { windSpeed, windDirection } = weather.values;
  const classes = ROSE_SPEEDS.length - 1;
  const rose: WindRose = {
    hours: 0,
    calmHours: 0,
    byDirection: new Float64Array(ROSE_DIRECTIONS * classes),
    meanSpeed: 0,
  };
  for (let i = 0; i < weather.hours; i++) {
    const [speed, direction] = [windSpeed[i]!, windDirection[i]!];
    if (Number.isNaN(speed) || Number.isNaN(direction) || !isWanted(weather.month[i]!, weather.hour[i]! - 1))
      continue;
    rose.hours++;
    rose.meanSpeed += speed;
    if (speed < ROSE_SPEEDS[1]) {
      rose.calmHours++;
      continue;
    }
    const sector = Math.round(direction / (360 / ROSE_DIRECTIONS)) % ROSE_DIRECTIONS;
    let k = classes - 1;
    while (speed < ROSE_SPEEDS[k + 1]!) k--;
    rose.byDirection[sector * classes + k]!++;
  }
  if (rose.hours > 0) rose.meanSpeed /= rose.hours;
  return rose;
}
