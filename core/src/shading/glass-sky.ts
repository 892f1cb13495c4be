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

/** What was asked for last, the newest last: coarse and fine in turn. */
const latest: { site: Project['site']; given: WeatherYear | null; parts: number; sky: GlassSky }[] = [];
const MAX_LATEST = 4;

/**
 * The suns and the sky of a project's year, by its weather, another, or none.
 * @param parts directions of the sky
 */
export function glassSky(project: Project, given: WeatherYear | null, parts: number): GlassSky {
  const { site } = project;
  const known = latest.find((one) => one.site === site && one.given === given && one.parts === parts);
  if (known) return known.sky;
  const hasWeather = given !== null || site.weather !== null;
  const found = hasWeather ? hoursAtSite(project, given) : hoursWithoutWeather(project);
  const { hours, weather } = found;
  const year = radiationSamples(project, wholeYear(site.year), weather, parts);
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
  latest.push({ site, given, parts, sky });
  if (latest.length > MAX_LATEST) latest.shift();
  return sky;
}

/** The same with some of its suns only: what is not asked about need not be traced. @param isWanted by sun */
export function withSuns(sky: GlassSky, isWanted: (sun: number) => boolean): GlassSky {
  const { samples, hourOf, weight } = sky;
  const { suns, parts, vectors, date, moments, energy, month, hour } = samples;
  const kept = Array.from({ length: suns }, (_, d) => d).filter(isWanted);
  const count = kept.length + parts;
  const of = <T extends Float64Array | Float32Array | Uint8Array | Uint16Array | Uint32Array>(
    all: T,
    rest: T,
  ): T => {
    const some = new (all.constructor as new (length: number) => T)(kept.length + rest.length);
    kept.forEach((d, i) => (some[i] = all[d]!));
    some.set(rest, kept.length);
    return some;
  };
  const towards = new Float64Array(count * 3);
  kept.forEach((d, i) => towards.set(vectors.subarray(d * 3, d * 3 + 3), i * 3));
  towards.set(vectors.subarray(suns * 3), kept.length * 3);
  return {
    ...sky,
    samples: {
      ...samples,
      count,
      vectors: towards,
      date: of(date, date.subarray(suns)),
      moments: moments && {
        minutes: of(moments.minutes, moments.minutes.subarray(suns)),
        beamWm2: of(moments.beamWm2, moments.beamWm2.subarray(suns)),
      },
      suns: kept.length,
      energy: of(energy, new Float64Array()),
      month: of(month, new Uint8Array()),
      hour: of(hour, new Uint8Array()),
    },
    hourOf: of(hourOf, new Uint32Array()),
    weight: of(weight, new Float64Array()),
  };
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
