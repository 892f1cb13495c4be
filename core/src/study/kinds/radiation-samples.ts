import { MONTH_NAMES } from '../../civil';
import type { Project, Study } from '../../project';
import { hourSky, skyVault } from '../../sky';
import { sunVector } from '../../sun';
import { hoursAtSite, shareInWindow, type WeatherYear } from '../../weather';
import { type Directions, type Measure, windowsOf } from './kind';
import { middleOf } from './weather-samples';

/** Patches a side of each of the 145. */
const SUBDIVISION = 2;
export const MONTHS = 12;
export const HOURS = 24;

/** Suns of all hours of the year, then the patches of the vault, with what they have in a window of time. */
export interface RadiationSamples extends Directions {
  suns: number;
  patches: number;
  /** Of each sun: Wh/m² on a plane that faces it, its month from 0, its hour of local standard time from 0. */
  energy: Float64Array;
  month: Uint8Array;
  hour: Uint8Array;
  /** Of each patch: Wh/m² on a plane that faces it; patches × months, and patches × hours of the day. */
  skyByMonth: Float64Array;
  skyByHour: Float64Array;
  /** What the ground throws back with nothing in its way, on a plane that faces it: Wh/m² by month, by hour. */
  reflectedByMonth: Float64Array;
  reflectedByHour: Float64Array;
  /** Days in the window. */
  days: number;
  notes: string[];
}

/** Beam, sky and reflected radiation of a weather year over the windows of a study. Throws InputError `weather`. */
export function radiationSamples(
  project: Project,
  study: Study,
  weather: WeatherYear | null,
): RadiationSamples {
  const { site } = project;
  const { hours, standardTimeH, notes, weather: year } = hoursAtSite(project, weather);
  const { shareOf, days } = shareInWindow(windowsOf(study), site);
  const vault = skyVault(SUBDIVISION, site.north.trueNorthDeg);
  const one = new Float64Array(vault.count);
  const [skyByMonth, skyByHour] = [
    new Float64Array(vault.count * MONTHS),
    new Float64Array(vault.count * HOURS),
  ];
  const [reflectedByMonth, reflectedByHour] = [new Float64Array(MONTHS), new Float64Array(HOURS)];
  const [vectors, energy, date, months, hoursOf]: number[][] = [[], [], [], [], []];
  for (const hour of hours) {
    const share = shareOf(hour);
    // Every sun of the year is a direction, whatever the window and the weather: so they are traced once for all.
    if (hour.sun) {
      vectors!.push(...sunVector(hour.sun.altitudeDeg, hour.sun.azimuthDeg, site.north.trueNorthDeg));
      energy!.push(hour.beamNormal * share);
      date!.push(year.month[hour.record]! * 100 + year.day[hour.record]!);
      const local = new Date(hour.startMs + standardTimeH * 3_600_000);
      months!.push(local.getUTCMonth());
      hoursOf!.push(local.getUTCHours());
    }
    if (share <= 0) continue;
    const local = new Date(hour.startMs + standardTimeH * 3_600_000);
    const [m, h] = [local.getUTCMonth(), local.getUTCHours()];
    const reflected = site.albedo * hour.globalHorizontal * share;
    reflectedByMonth[m]! += reflected;
    reflectedByHour[h]! += reflected;
    if (hour.diffuseHorizontal > 0) {
      hourSky(vault, hour, one);
      for (let p = 0; p < vault.count; p++) {
        const part = one[p]! * share;
        skyByMonth[p * MONTHS + m]! += part;
        skyByHour[p * HOURS + h]! += part;
      }
    }
  }
  const suns = energy!.length;
  return {
    count: suns + vault.count,
    vectors: Float64Array.from([...vectors!, ...vault.vectors]),
    date: Uint16Array.from([...date!, ...new Array<number>(vault.count).fill(middleOf(study.window))]),
    suns,
    patches: vault.count,
    energy: Float64Array.from(energy!),
    month: Uint8Array.from(months!),
    hour: Uint8Array.from(hoursOf!),
    skyByMonth,
    skyByHour,
    reflectedByMonth,
    reflectedByHour,
    days,
    notes,
  };
}

const wholeSky = new WeakMap<RadiationSamples, Float64Array>();

/** Of each patch: Wh/m² on a plane that faces it, over all months. */
export function skyOfPatches(samples: RadiationSamples): Float64Array {
  let sky = wholeSky.get(samples);
  if (!sky) {
    const { patches, skyByMonth } = samples;
    sky = Float64Array.from({ length: patches }, (_, p) =>
      skyByMonth.subarray(p * MONTHS, (p + 1) * MONTHS).reduce((sum, part) => sum + part, 0),
    );
    wholeSky.set(samples, sky);
  }
  return sky;
}

/** Of each month: the first of its suns, and the one after its last; a month may lie anywhere in a weather year. */
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
