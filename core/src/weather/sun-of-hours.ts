import { daysInYear, RAD } from '../civil';
import { type EarthPlace, SunTrack } from '../sun';
import { diffuseShare, extraterrestrial } from './radiation';
import type { WeatherYear } from './weather-year';

/** An hour of a weather year with its sun. */
export interface WeatherHour {
  /** Place in the weather year. */
  record: number;
  /** When the hour begins, epoch ms. */
  startMs: number;
  /** Where the sun is taken: the middle of the part of the hour in which it is above the horizon; null without. */
  sun: { atMs: number; altitudeDeg: number; azimuthDeg: number; extraterrestrial: number } | null;
  /** W/m² over the hour. Without sun above the horizon there is no beam. */
  beamNormal: number;
  diffuseHorizontal: number;
  globalHorizontal: number;
}

/** The hours of a weather year in a year of the project, with what had to be made up. */
export interface WeatherHours {
  hours: WeatherHour[];
  /** Hours in which beam and diffuse were split from the global. */
  split: number;
  /** Beam in hours in which the sun is not above the horizon, Wh/m²: not counted. */
  lostBeam: number;
  notes: string[];
}

const HOUR_MS = 3_600_000;

/**
 * The sun of every hour, taken in `year` at the file's month, day and hour of local standard time (`standardTimeH` ahead
 * of UTC). 29 February is left out in a year without one. Where beam or diffuse is missing they are split from the global
 * (Erbs et al. 1982), or the third made of the other two.
 */
export function sunOfHours(
  weather: WeatherYear,
  place: EarthPlace,
  standardTimeH: number,
  year: number,
): WeatherHours {
  const track = new SunTrack(place);
  const isLeap = daysInYear(year) === 366;
  const { global, beam, diffuse } = weather.values;
  const hours: WeatherHour[] = [];
  let [split, lostBeam, blank] = [0, 0, 0];
  for (let i = 0; i < weather.hours; i++) {
    const [month, day, hour] = [weather.month[i]!, weather.day[i]!, weather.hour[i]!];
    if (month === 2 && day === 29 && !isLeap) continue;
    const startMs = Date.UTC(year, month - 1, day, hour - 1) - standardTimeH * HOUR_MS;
    const sun = sunWithin(track, startMs);
    const sine = sun ? Math.sin(sun.altitudeDeg * RAD) : 0;
    let [g, b, d] = [global[i]!, beam[i]!, diffuse[i]!];
    if (Number.isNaN(b) || Number.isNaN(d)) {
      if (!Number.isNaN(b) && !Number.isNaN(g)) d = Math.max(0, g - b * sine);
      else if (!Number.isNaN(d) && !Number.isNaN(g)) b = sun ? Math.max(0, g - d) / sine : 0;
      else if (!Number.isNaN(g)) {
        if (g > 0) split++;
        d = sun ? g * diffuseShare(g / (sun.extraterrestrial * sine)) : g;
        b = sun ? (g - d) / sine : 0;
      } else {
        if (sun) blank++;
        [g, b, d] = [0, Number.isNaN(b) ? 0 : b, Number.isNaN(d) ? 0 : d];
      }
      // A low sun makes much of little: no more than there is outside the air.
      if (sun && b > sun.extraterrestrial) {
        b = sun.extraterrestrial;
        d = Math.max(0, g - b * sine);
      }
    }
    if (!sun) {
      lostBeam += b;
      b = 0;
    }
    hours.push({
      record: i,
      startMs,
      sun,
      beamNormal: b,
      diffuseHorizontal: d,
      globalHorizontal: Number.isNaN(g) ? b * sine + d : g,
    });
  }
  return { hours, split, lostBeam, notes: notesOf(split, blank, lostBeam) };
}

function notesOf(split: number, blank: number, lostBeam: number): string[] {
  const count = (n: number) => n.toLocaleString('en');
  const notes: string[] = [];
  if (split)
    notes.push(
      `In ${count(split)} hours the file has no beam and diffuse radiation; they are split from the global (Erbs et al. 1982).`,
    );
  if (blank)
    notes.push(`In ${count(blank)} hours of day the file has no radiation at all; they count as dark.`);
  if (lostBeam >= 1)
    notes.push(
      `${count(Math.round(lostBeam))} Wh/m² of beam fall in hours in which the sun is not above the horizon here; they are not counted.`,
    );
  return notes;
}

/** The sun in the middle of the part of an hour in which its centre is above the horizon, without refraction. */
function sunWithin(track: SunTrack, startMs: number): WeatherHour['sun'] {
  const part = sunlitPart(track, startMs);
  if (!part) return null;
  const atMs = (part.from + part.to) / 2;
  const { altitudeDeg, azimuthDeg, distanceAu } = track.at(atMs);
  if (altitudeDeg <= 0) return null;
  return { atMs, altitudeDeg, azimuthDeg, extraterrestrial: extraterrestrial(distanceAu) };
}

/** The part of an hour in which the sun's centre is above the horizon. */
function sunlitPart(track: SunTrack, startMs: number): { from: number; to: number } | null {
  const up = (at: number) => track.at(at).altitudeDeg > 0;
  const endMs = startMs + HOUR_MS;
  const [first, last] = [up(startMs), up(endMs)];
  if (first === last) {
    // Neither end: the sun may look over the horizon in between, close to polar night.
    return first || up(startMs + HOUR_MS / 2) ? { from: startMs, to: endMs } : null;
  }
  let [low, high] = [startMs, endMs];
  while (high - low > 500) {
    const middle = (low + high) / 2;
    if (up(middle) === first) low = middle;
    else high = middle;
  }
  return first ? { from: startMs, to: low } : { from: high, to: endMs };
}

/** Most suns that an hour is taken with. */
export const MAX_SUNS_PER_HOUR = 6;

/**
 * The suns of an hour that has one: in the middle of so many equal parts of the time in which the sun is above the
 * horizon. Those below it are left out, as at the edge of polar night.
 */
export function sunsOfHour(
  place: EarthPlace,
  count: number,
): (hour: WeatherHour) => { atMs: number; altitudeDeg: number; azimuthDeg: number }[] {
  if (count === 1) return ({ sun }) => (sun ? [sun] : []);
  const track = new SunTrack(place);
  return ({ sun, startMs }) => {
    const part = sun && sunlitPart(track, startMs);
    if (!part) return [];
    const each = (part.to - part.from) / count;
    const suns = Array.from({ length: count }, (_, i) => {
      const atMs = part.from + (i + 0.5) * each;
      return { ...track.at(atMs), atMs };
    });
    const above = suns.filter(({ altitudeDeg }) => altitudeDeg > 0);
    return above.length > 0 ? above : [sun];
  };
}
