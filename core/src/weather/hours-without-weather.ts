import { daysInYear } from '../civil';
import type { Project } from '../project';
import { hoursAtSite, type SiteHours, standardTimeH } from './hours-at-site';
import { blankWeather, monthDays, type WeatherYear } from './weather-year';

const years = new Map<number, WeatherYear>();

/** The hours of the project's year with their suns and nothing else: no radiation, no temperatures. For a site without a weather year. */
export function hoursWithoutWeather({ site }: Project): SiteHours & { weather: WeatherYear } {
  const { year, place } = site;
  let weather = years.get(year);
  if (!weather) {
    const isLeap = daysInYear(year) === 366;
    weather = blankWeather(daysInYear(year) * 24, null);
    let at = 0;
    for (let month = 1; month <= 12; month++)
      for (let day = 1; day <= monthDays(month, isLeap); day++)
        for (let hour = 1; hour <= 24; hour++, at++) {
          weather.month[at] = month;
          weather.day[at] = day;
          weather.hour[at] = hour;
        }
    for (const field of ['global', 'beam', 'diffuse'] as const) weather.values[field].fill(0);
    years.set(year, weather);
  }
  const found = hoursAtSite({ site } as Project, weather);
  return { ...found, standardTimeH: standardTimeH(place.zone, year) };
}
