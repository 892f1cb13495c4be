import { InputError } from '../errors';
import type { HourSet, Project } from '../project';
import { skySpiral } from '../sky';
import { type RadiationSamples, radiationSamples } from '../study';
import { hoursAtSite, hoursInSet, hoursWithoutWeather, type SiteHours, type WeatherYear } from '../weather';

const HOUR_MS = 3_600_000;

/** The suns of a year, one an hour, and the sky, as what shading is held against. */
export interface GlassSky {
  /** Without a weather year there is no radiation: suns count by the time they stand above the horizon. */
  hasWeather: boolean;
  samples: RadiationSamples;
  hours: SiteHours['hours'];
  /** Of each sun: its hour among `hours`. */
  hourOf: Uint32Array;
  /** Of each sun: kWh/m² on a plane that faces it; without weather hours. */
  weight: Float64Array;
  /** Of each part of the sky: its share of the light of the overcast sky on open level ground, for a plane that faces it. */
  overcast: Float64Array;
  notes: string[];
}

let latest: { site: Project['site']; given: WeatherYear | null; sky: GlassSky } | null = null;

/** The suns and the sky of a project's year, by its weather, another, or none. */
export function glassSky(project: Project, given: WeatherYear | null = null): GlassSky {
  if (latest && latest.site === project.site && latest.given === given) return latest.sky;
  const { site } = project;
  const hasWeather = given !== null || site.weather !== null;
  const found = hasWeather ? hoursAtSite(project, given) : hoursWithoutWeather(project);
  const { hours, weather } = found;
  const year = radiationSamples(project, wholeYear(site.year), weather);
  const { minutes, beamWm2 } = year.moments!;
  // Without weather it is not known how strong a sun is.
  const samples = hasWeather ? year : { ...year, moments: { minutes, beamWm2: beamWm2.map(() => NaN) } };
  const stampOf = (date: number, hour: number) => date * 100 + hour;
  const at = new Map(
    hours.map(({ record }, i) => [
      stampOf(weather.month[record]! * 100 + weather.day[record]!, weather.hour[record]! - 1),
      i,
    ]),
  );
  const hourOf = Uint32Array.from({ length: samples.suns }, (_, d) => {
    return at.get(stampOf(samples.date[d]!, samples.hour[d]!))!;
  });
  const weight = Float64Array.from(hourOf, (h, d) =>
    hasWeather ? samples.energy[d]! / 1000 : hoursUp(hours[h]!),
  );
  const { solidAngle, luminance } = skySpiral(samples.parts);
  const horizontal = (7 * Math.PI) / 9;
  const sky: GlassSky = {
    hasWeather,
    samples,
    hours,
    hourOf,
    weight,
    overcast: solidAngle.map((angle, p) => (luminance[p]! * angle) / horizontal),
    notes: hasWeather
      ? found.notes
      : ['The project has no weather year: sun counts by the hour, not by its energy.'],
  };
  latest = { site, given, sky };
  return sky;
}

/** How much of its hour a sun is above the horizon: it is taken at the middle of that part, which begins or ends with the hour. */
function hoursUp({ startMs, sun }: SiteHours['hours'][number]): number {
  const middle = sun!.atMs - startMs;
  return (2 * Math.min(middle, HOUR_MS - middle)) / HOUR_MS;
}

function wholeYear(year: number) {
  return {
    window: { from: `${year}-01-01`, to: `${year}-12-31`, startMinutes: 0, endMinutes: 1440 },
    also: [],
    sunsPerHour: 1,
    peakHour: false,
  };
}

/** Refuses a set of hours that goes by the temperature where there is no weather year. Throws InputError `weather`. */
export function refuseWithoutWeather({ hasWeather }: GlassSky, { source }: Pick<HourSet, 'source'>): void {
  if (!hasWeather && source.by === 'temperature')
    throw new InputError(
      'weather',
      'These hours go by the temperature outside, and the project has no weather year; bring one in on the Climate stage, or choose hours by windows of time.',
    );
}

/** Of each sun, how much of its hour belongs to a set, 0 to 1. By a temperature without weather: nothing does. */
export function sunsInSet(
  project: Project,
  sky: GlassSky,
  given: WeatherYear | null,
  set: Pick<HourSet, 'source'>,
): Float64Array {
  const { weather } = sky.hasWeather ? hoursAtSite(project, given) : hoursWithoutWeather(project);
  const shares = hoursInSet(project.site, weather, sky.hours, set);
  return Float64Array.from(sky.hourOf, (h) => shares[h]!);
}

/** Cosines of the angles at which the directions of a sky meet a facing surface; 0 behind it. */
export function cosinesBefore(
  { vectors: v, count }: Pick<RadiationSamples, 'vectors' | 'count'>,
  n: readonly number[],
): Float64Array {
  const cosines = new Float64Array(count);
  for (let d = 0; d < count; d++)
    cosines[d] = Math.max(0, n[0]! * v[d * 3]! + n[1]! * v[d * 3 + 1]! + n[2]! * v[d * 3 + 2]!);
  return cosines;
}
