import { clockAt, MONTH_NAMES } from '../../civil';
import type { Project, Study } from '../../project';
import { hourSky, skyVault } from '../../sky';
import { sunVector } from '../../sun';
import { hoursAtSite, shareInWindow, sunsOfHour, type WeatherYear } from '../../weather';
import { type Directions, type Measure, windowsOf } from './kind';
import { middleOf, orderOfSuns } from './weather-samples';

/** Patches a side of each of the 145. */
const SUBDIVISION = 2;
export const MONTHS = 12;
export const HOURS = 24;

/** Suns of all hours of the year, then the patches of the vault, with what they have in a window of time. */
export interface RadiationSamples extends Directions {
  suns: number;
  patches: number;
  /**
   * Of each sun: Wh/m² on a plane that faces it, its month from 0, its hour of local standard time from 0. Suns go by
   * month, hour and day: what is side by side is open or blocked together, and is then summed a word of 32 at a time.
   */
  energy: Float64Array;
  month: Uint8Array;
  hour: Uint8Array;
  /** Of each patch: Wh/m² on a plane that faces it; months × patches, and hours of the day × patches. */
  skyByMonth: Float64Array;
  skyByHour: Float64Array;
  /** What the ground throws back with nothing in its way, on a plane that faces it: Wh/m² by month, by hour. */
  reflectedByMonth: Float64Array;
  reflectedByHour: Float64Array;
  /** Days in the window. */
  days: number;
  /** The hours of the window one by one, for the strongest of them; null where it is not asked for. */
  hourly: HourlyRadiation | null;
  notes: string[];
}

/** The hours of a window of time, one by one. */
export interface HourlyRadiation {
  count: number;
  /** Month × 10,000 + day × 100 + hour of local standard time from 0, at which it begins. */
  stamp: Uint32Array;
  /** Suns that each is taken with, and which they are: those of hour k are `sunOf` from `sunEnds[k − 1]` to `sunEnds[k]`. */
  sunOf: Uint32Array;
  sunEnds: Uint32Array;
  /** W/m² on a plane that faces the sun, for each of its suns alike. */
  beam: Float64Array;
  /** W/m² on a plane that faces the patch: hours × patches. */
  sky: Float32Array;
  /** W/m² off the ground on a plane that faces it. */
  reflected: Float64Array;
}

type StudiedTime = Pick<Study, 'window' | 'also' | 'sunsPerHour' | 'peakHour'>;

/** What was asked for last: rooms and options of one project ask for the same. */
let latest: {
  site: Project['site'];
  weather: WeatherYear | null;
  time: string;
  samples: RadiationSamples;
} | null = null;

/** Beam, sky and reflected radiation of a weather year over the windows of a study. Throws InputError `weather`. */
export function radiationSamples(
  project: Project,
  study: StudiedTime,
  weather: WeatherYear | null,
): RadiationSamples {
  const { site } = project;
  const { window, also = [], sunsPerHour = 1, peakHour = false } = study;
  const time = JSON.stringify([window, also, sunsPerHour, peakHour]);
  if (latest?.site === site && latest.weather === weather && latest.time === time) return latest.samples;
  const samples = sampled(project, study, weather);
  latest = { site, weather, time, samples };
  return samples;
}

function sampled(project: Project, study: StudiedTime, weather: WeatherYear | null): RadiationSamples {
  const { site } = project;
  const { hours, standardTimeH, notes, weather: year } = hoursAtSite(project, weather);
  const { shareOf, days } = shareInWindow(windowsOf(study), site);
  const vault = skyVault(SUBDIVISION, site.north.trueNorthDeg);
  const patches = vault.count;
  const one = new Float64Array(patches);
  const [skyByMonth, skyByHour] = [new Float64Array(patches * MONTHS), new Float64Array(patches * HOURS)];
  const [reflectedByMonth, reflectedByHour] = [new Float64Array(MONTHS), new Float64Array(HOURS)];
  const sunsOf = sunsOfHour(site.place, study.sunsPerHour ?? 1);
  const [vectors, energy, date, months, hoursOf, minutes, beams]: number[][] = [[], [], [], [], [], [], []];
  const hourly = study.peakHour ? new HourList() : null;
  for (const hour of hours) {
    const share = shareOf(hour);
    const local = new Date(hour.startMs + standardTimeH * 3_600_000);
    const [month, h] = [local.getUTCMonth(), local.getUTCHours()];
    // Every sun of the year is a direction, whatever the window and the weather: so they are traced once for all.
    const first = energy!.length;
    const suns = sunsOf(hour);
    for (const { atMs, altitudeDeg, azimuthDeg } of suns) {
      vectors!.push(...sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg));
      energy!.push((hour.beamNormal * share) / suns.length);
      date!.push(year.month[hour.record]! * 100 + year.day[hour.record]!);
      months!.push(month);
      hoursOf!.push(h);
      minutes!.push(clockAt(atMs, site.place.zone).minutes);
      beams!.push(hour.beamNormal);
    }
    if (share <= 0) continue;
    const reflected = site.albedo * hour.globalHorizontal;
    reflectedByMonth[month]! += reflected * share;
    reflectedByHour[h]! += reflected * share;
    hourSky(vault, hour, one);
    hourly?.push(
      (month + 1) * 10_000 + local.getUTCDate() * 100 + h,
      first,
      suns.length,
      hour.beamNormal,
      one,
      reflected,
    );
    if (!(hour.diffuseHorizontal > 0)) continue;
    const [m0, h0] = [month * patches, h * patches];
    for (let p = 0; p < patches; p++) {
      const part = one[p]! * share;
      skyByMonth[m0 + p]! += part;
      skyByHour[h0 + p]! += part;
    }
  }
  const suns = energy!.length;
  const order = orderOfSuns(months!, hoursOf!);
  const all = new Float64Array((suns + patches) * 3);
  order.forEach((from, d) => {
    for (let k = 0; k < 3; k++) all[d * 3 + k] = vectors![from * 3 + k]!;
  });
  all.set(vault.vectors, suns * 3);
  const dates = new Uint16Array(suns + patches).fill(middleOf(study.window));
  order.forEach((from, d) => (dates[d] = date![from]!));
  const ofSuns = (values: number[]) =>
    Float32Array.from({ length: suns + patches }, (_, d) => (d < suns ? values[order[d]!]! : NaN));
  return {
    count: suns + patches,
    vectors: all,
    date: dates,
    moments: { minutes: ofSuns(minutes!), beamWm2: ofSuns(beams!) },
    suns,
    patches,
    energy: Float64Array.from(order, (from) => energy![from]!),
    month: Uint8Array.from(order, (from) => months![from]!),
    hour: Uint8Array.from(order, (from) => hoursOf![from]!),
    skyByMonth,
    skyByHour,
    reflectedByMonth,
    reflectedByHour,
    days,
    hourly: hourly && hourly.packed(order),
    notes,
  };
}

/** Hours as they are gathered. */
class HourList {
  private readonly list: {
    stamp: number;
    first: number;
    suns: number;
    beam: number;
    sky: Float32Array;
    reflected: number;
  }[] = [];

  /** Keeps an hour that has any radiation. @param first of its suns, as they are gathered */
  push(stamp: number, first: number, suns: number, beam: number, sky: Float64Array, reflected: number): void {
    if (beam > 0 || reflected > 0 || sky.some((part) => part > 0))
      this.list.push({ stamp, first, suns, beam, sky: Float32Array.from(sky), reflected });
  }

  /** @param order for each direction, the sun as it was gathered */
  packed(order: Uint32Array): HourlyRadiation {
    const placeOf = new Uint32Array(order.length);
    order.forEach((sun, d) => (placeOf[sun] = d));
    const { list } = this;
    const patches = list[0]?.sky.length ?? 0;
    const sky = new Float32Array(list.length * patches);
    list.forEach((hour, k) => sky.set(hour.sky, k * patches));
    let end = 0;
    return {
      count: list.length,
      stamp: Uint32Array.from(list, ({ stamp }) => stamp),
      sunOf: Uint32Array.from(
        list.flatMap(({ first, suns }) => Array.from({ length: suns }, (_, i) => placeOf[first + i]!)),
      ),
      sunEnds: Uint32Array.from(list, ({ suns }) => (end += suns)),
      beam: Float64Array.from(list, ({ beam, suns }) => beam / Math.max(1, suns)),
      sky,
      reflected: Float64Array.from(list, ({ reflected }) => reflected),
    };
  }
}

const wholeSky = new WeakMap<RadiationSamples, Float64Array>();

/** Of each patch: Wh/m² on a plane that faces it, over all months. */
export function skyOfPatches(samples: RadiationSamples): Float64Array {
  let sky = wholeSky.get(samples);
  if (!sky) {
    const { patches, skyByMonth } = samples;
    sky = new Float64Array(patches);
    for (let i = 0; i < skyByMonth.length; i++) sky[i % patches]! += skyByMonth[i]!;
    wholeSky.set(samples, sky);
  }
  return sky;
}

/** Of each month: the first of its suns, and the one after its last. */
export function sunRanges({ suns, month }: RadiationSamples): { from: number; to: number }[] {
  const ranges = Array.from({ length: MONTHS }, () => ({ from: suns, to: 0 }));
  for (let d = 0; d < suns; d++) {
    const range = ranges[month[d]!]!;
    range.from = Math.min(range.from, d);
    range.to = d + 1;
  }
  return ranges;
}

/** Values by the key of their measure: a letter and two digits, counted from `first`. */
export function byNumber(
  letter: string,
  all: readonly Float32Array[],
  first: number,
): Record<string, Float32Array> {
  return Object.fromEntries(all.map((values, i) => [`${letter}${two(i + first)}`, values]));
}

const two = (n: number) => String(n).padStart(2, '0');

/** A measure for each month: `01 (kWh/m2)` to `12 (kWh/m2)`. @param of what it is, as a noun */
export function monthMeasures(of: string): Measure[] {
  return MONTH_NAMES.map((name, m) => ({
    key: `m${two(m + 1)}`,
    label: name,
    unit: 'kWh/m²',
    heading: `${two(m + 1)} (kWh/m2)`,
    digits: 1,
    series: 'month',
    definition: `${of} of the hours of ${name}, in local standard time.`,
  }));
}

/** A measure for each hour of the day: `00h (kWh/m2)` to `23h (kWh/m2)`. */
export function hourMeasures(of: string): Measure[] {
  return Array.from({ length: HOURS }, (_, h) => ({
    key: `h${two(h)}`,
    label: `${two(h)} to ${two(h + 1)} h`,
    unit: 'kWh/m²',
    heading: `${two(h)}h (kWh/m2)`,
    digits: 1,
    series: 'hour',
    definition: `${of} between ${two(h)}:00 and ${two(h + 1)}:00 local standard time, over all days.`,
  }));
}
