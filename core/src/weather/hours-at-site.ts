import { offsetAt, RAD } from '../civil';
import { InputError } from '../errors';
import type { Project } from '../project';
import { weatherOf } from './stored-weather';
import { sunOfHours, type WeatherHours } from './sun-of-hours';
import type { WeatherYear } from './weather-year';

/** Beyond this a weather file may be of another climate, kilometres. */
export const FAR_KM = 100;

/** The hours of a weather year at a site. */
export interface SiteHours extends WeatherHours {
  weather: WeatherYear;
  /** Hours that its standard time is ahead of UTC. */
  standardTimeH: number;
}

/** The hours of the project's weather year, or of another, and what is to be known of them. Throws InputError `weather` where there is none. */
export function hoursAtSite({ site }: Project, given: WeatherYear | null = null): SiteHours {
  const weather = given ?? (site.weather && weatherOf(site.weather));
  if (!weather)
    throw new InputError(
      'weather',
      'The project has no weather year; bring one in on the Climate stage, or give one on the command line: --weather FILE.epw.',
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
  return { ...found, weather, standardTimeH: standard, notes };
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
export function distanceKm(a: Coordinates, b: Coordinates): number {
  const half = (one: number, other: number) => Math.sin(((other - one) * RAD) / 2) ** 2;
  const h =
    half(a.latitudeDeg, b.latitudeDeg) +
    Math.cos(a.latitudeDeg * RAD) * Math.cos(b.latitudeDeg * RAD) * half(a.longitudeDeg, b.longitudeDeg);
  return 2 * 6371 * Math.asin(Math.min(1, Math.sqrt(h)));
}

/** Hours that a zone is ahead of UTC without daylight saving: the least of a year. */
export function standardTimeH(zone: string, year: number): number {
  const months = Array.from({ length: 12 }, (_, month) => offsetAt(Date.UTC(year, month, 1), zone));
  return Math.min(...months) / 60;
}
