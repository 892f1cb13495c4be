import { addDays, daysInYear, instantOf } from '../civil';
import { SunTrack } from './ephemeris';
import { sunDay } from './sun-day';
import type { EarthPlace, SunPosition } from './sun-position';

/** A sun position with its instant. */
export interface SunAt extends SunPosition {
  atMs: number;
}

/** The sun's arc above the horizon on a date, sunrise and sunset included, at even steps between. Empty in polar night. */
export function dayArc(date: string, place: EarthPlace, zone: string, stepMinutes = 10): SunAt[] {
  const day = sunDay(date, place, zone);
  if (day.polar === 'night') return [];
  const from = day.sunriseMs ?? day.transitMs - 12 * 3_600_000;
  const to = day.sunsetMs ?? day.transitMs + 12 * 3_600_000;
  const track = new SunTrack(place);
  const count = Math.max(2, Math.ceil((to - from) / (stepMinutes * 60_000)));
  return Array.from({ length: count + 1 }, (_, i) => {
    const atMs = from + ((to - from) * i) / count;
    return { atMs, ...track.at(atMs) };
  });
}

/** Where the sun stands at one clock hour of standard time through the year: the figure of eight, closed. */
export function analemma(
  minutes: number,
  year: number,
  place: EarthPlace,
  zone: string,
  everyDays = 5,
): SunAt[] {
  const track = new SunTrack(place);
  const first = instantOf(`${year}-01-01`, minutes, zone);
  const points: SunAt[] = [];
  for (let day = 0; day <= daysInYear(year); day += everyDays) {
    const atMs = first + day * 86_400_000;
    points.push({ atMs, ...track.at(atMs) });
  }
  return points;
}

/** Table of sun altitudes over a year: one row a day, `steps` columns a day of site clock time. */
export interface AltitudeTable {
  days: number;
  steps: number;
  /** days × steps altitudes in degrees, without refraction, at the middle of each cell. */
  altitudeDeg: Float32Array;
}

/** Altitudes of the year for drawing the almanac; cell (d, s) is clock minute (s + ½)·1440/steps of day d. */
export function altitudeTable(year: number, place: EarthPlace, zone: string, steps = 96): AltitudeTable {
  const days = daysInYear(year);
  const altitudeDeg = new Float32Array(days * steps);
  const track = new SunTrack(place);
  const cell = 1440 / steps;
  for (let d = 0; d < days; d++) {
    const date = addDays(`${year}-01-01`, d);
    const start = instantOf(date, 0, zone);
    const end = instantOf(addDays(date, 1), 0, zone);
    const even = end - start === 86_400_000;
    for (let s = 0; s < steps; s++) {
      const minutes = (s + 0.5) * cell;
      const at = even ? start + minutes * 60_000 : instantOf(date, minutes, zone);
      altitudeDeg[d * steps + s] = track.at(at).altitudeDeg;
    }
  }
  return { days, steps, altitudeDeg };
}
