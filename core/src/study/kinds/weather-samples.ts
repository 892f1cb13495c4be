import { addDays, daysBetween, instantOf, offsetAt, RAD } from '../../civil';
import { InputError } from '../../errors';
import type { Project, Study, WindowOfTime } from '../../project';
import { dayNumber } from '../../scene';
import { sunOfHours, weatherOf, type WeatherHour, type WeatherHours, type WeatherYear } from '../../weather';

/** Beyond this a weather file may be of another climate, kilometres. */
const FAR_KM = 100;
const HOUR_MS = 3_600_000;

/** The hours of a weather year at a site, and what is to be known of them. Throws InputError `weather` without one. */
export function hoursAtSite(
  { site }: Project,
  study: Study,
  given: WeatherYear | null,
): WeatherHours & { standardTimeH: number } {
  const weather = given ?? (site.weather && weatherOf(site.weather));
  if (!weather)
    throw new InputError(
      'weather',
      `The study “${study.name}” needs a weather year; bring one in on the Site stage, or give one on the command line: run … --weather FILE.epw.`,
    );
  const standard = weather.place?.standardTimeH ?? standardTimeH(site.place.zone, site.year);
  const found = hoursOnce(weather, site, standard);
  const notes = [...weather.notes, ...found.notes];
  if (weather.place) {
    const km = distanceKm(weather.place, site.place);
    if (km > FAR_KM)
      notes.push(
        `The weather was taken ${Math.round(km)} km from the site, at ${weather.place.name || 'its station'}.`,
      );
  }
  return { ...found, standardTimeH: standard, notes };
}

/** The suns of a weather year where it was asked for last: studies of one project ask for the same. */
const lastHours = new WeakMap<WeatherYear, { key: string; hours: WeatherHours }>();

function hoursOnce(
  weather: WeatherYear,
  { place, year }: Project['site'],
  standardTimeH: number,
): WeatherHours {
  const key = [place.latitudeDeg, place.longitudeDeg, place.elevationM, standardTimeH, year].join();
  const last = lastHours.get(weather);
  if (last?.key === key) return last.hours;
  const hours = sunOfHours(weather, place, standardTimeH, year);
  lastHours.set(weather, { key, hours });
  return hours;
}

interface Coordinates {
  latitudeDeg: number;
  longitudeDeg: number;
}

/** Distance on the sphere, kilometres. */
function distanceKm(a: Coordinates, b: Coordinates): number {
  const half = (one: number, other: number) => Math.sin(((other - one) * RAD) / 2) ** 2;
  const h =
    half(a.latitudeDeg, b.latitudeDeg) +
    Math.cos(a.latitudeDeg * RAD) * Math.cos(b.latitudeDeg * RAD) * half(a.longitudeDeg, b.longitudeDeg);
  return 2 * 6371 * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Hours that a zone is ahead of UTC without daylight saving: the least of a year. */
function standardTimeH(zone: string, year: number): number {
  const months = Array.from({ length: 12 }, (_, month) => offsetAt(Date.UTC(year, month, 1), zone));
  return Math.min(...months) / 60;
}

/** The share of each hour that lies in any of some windows of time on site, by their days of the year; and their days. */
export function shareInWindow(
  windows: readonly WindowOfTime[],
  { site }: Project,
): { shareOf: (hour: WeatherHour) => number; days: number } {
  const { zone } = site.place;
  const all: { from: number; to: number }[] = [];
  const dates = new Set<string>();
  for (const window of windows) {
    const days = daysBetween(window.from, window.to) + 1;
    for (let i = 0; i < days; i++) {
      const monthDay = addDays(window.from, i).slice(5);
      if (monthDay === '02-29' && new Date(Date.UTC(site.year, 1, 29)).getUTCMonth() !== 1) continue;
      const date = `${site.year}-${monthDay}`;
      dates.add(date);
      all.push({
        from: instantOf(date, window.startMinutes, zone),
        to: instantOf(date, window.endMinutes, zone, true),
      });
    }
  }
  const parts = joined(all);
  const shareOf = ({ startMs }: WeatherHour) => {
    let share = 0;
    for (let i = firstThatEndsAfter(parts, startMs); i < parts.length; i++) {
      const { from, to } = parts[i]!;
      if (from >= startMs + HOUR_MS) break;
      share += (Math.min(to, startMs + HOUR_MS) - Math.max(from, startMs)) / HOUR_MS;
    }
    return Math.min(1, share);
  };
  return { shareOf, days: dates.size };
}

/** Stretches of time one after the other, those that overlap made one. */
function joined(parts: { from: number; to: number }[]): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  for (const part of [...parts].sort((a, b) => a.from - b.from)) {
    const last = found.at(-1);
    if (last && part.from <= last.to) last.to = Math.max(last.to, part.to);
    else found.push({ ...part });
  }
  return found;
}

function firstThatEndsAfter(parts: readonly { to: number }[], at: number): number {
  let [low, high] = [0, parts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (parts[middle]!.to > at) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Day of the year of the middle of a window as month × 100 + day. */
export function middleOf(window: WindowOfTime): number {
  return dayNumber(addDays(window.from, Math.floor(daysBetween(window.from, window.to) / 2)));
}
