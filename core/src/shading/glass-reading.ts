import { InputError } from '../errors';
import { methodOf } from '../method';
import type { HourSet, Project } from '../project';
import { type OpenDirections, sunRanges } from '../study';
import { maskWords } from '../trace';
import type { WeatherYear } from '../weather';
import { cosinesBefore, sunsInSet } from './glass-sky';
import { GlassSums, groundSeen, type SampledSums, type SumSet } from './glass-sums';
import type { GlassPast, GlassYear } from './glass-year';
import { backByMonth } from './panes-back';

const MONTHS = 12;

const BY_POINTS =
  'points of the glass in a low-discrepancy order, each figure with its error, and the sky in 1,024 or 4,096 directions; before, a grid of some fifty points and 577 patches.';

/** The method of sweeps of devices: shares of sun and of sky light. */
export const SWEEP_METHOD = methodOf(BY_POINTS);

/** The method of readings of glass through a year. */
export const READING_METHOD = methodOf(
  BY_POINTS,
  'light off the ground and off what stands about is traced past devices, which act on beam, sky and what is thrown back as they hang in each hour, sheets inside by their factor; before, light off open ground passed everything, and the sky was read with blinds up.',
  'glass inside the ground or a solid gets nothing of open ground, and what throws light back is looked for from sixteen parts of each of its squares; before, such glass got what it would in the open, and every place that a ray met was looked from.',
);

/** The sun of a set of hours on some glass: kWh by weather, without it hours of sun, meaned over the glass. */
export interface SetReading {
  id: string;
  name: string;
  use: HourSet['use'];
  /** With nothing before the glass. */
  whole: number;
  /** As it stands without the devices, and with them; and what each may be off by (±). */
  bare: number;
  bareError: number;
  shaded: number;
  error: number;
}

/** kWh of each month, on the glass or through it. */
export interface MonthlyRadiation {
  beam: number[];
  sky: number[];
  ground: number[];
  /** What the sum of each month, and that of the year, may be off by (±). */
  error: number[];
  yearError: number;
}

/** What devices do to some windows through a year. */
export interface GlassReading {
  glassM2: number;
  /** Points of the glass that it is read at. */
  points: number;
  sets: SetReading[];
  /** By month, with the devices and without; null without weather. */
  months: Record<'glass' | 'inside', { shaded: MonthlyRadiation; bare: MonthlyRadiation }> | null;
  /** Light of the overcast sky on the glass, per cent of that on open level ground: with the devices, and without. */
  skyPercent: { shaded: number; bare: number; error: number; bareError: number };
}

/** Solar gain through one window in a year, kWh, and what it and its months may be off by (±). */
export interface WindowGain {
  kWh: number;
  error: number;
  months: number[];
  monthErrors: number[];
}

/** Reads devices at windows; what does not change with the devices is made once. */
export class GlassReader {
  private readonly sums: GlassSums;
  private readonly bare: SampledSums;
  private readonly whole: Float64Array;
  private readonly sets: readonly HourSet[];

  constructor(
    readonly year: GlassYear,
    project: Project,
    weather: WeatherYear | null = null,
  ) {
    const { sky } = year;
    const { samples, weight, hasWeather } = sky;
    const { suns, parts, energy, month, skyByMonth } = samples;
    this.sets = project.hourSets;
    const ranges = sunRanges(samples);
    const sunsOf = (m: number) =>
      Float64Array.from({ length: suns }, (_, d) => (month[d] === m ? energy[d]! : 0));
    const monthly = (reaches: 'glass' | 'inside'): SumSet[] => [
      ...Array.from({ length: MONTHS }, (_, m): SumSet => ({
        of: 'suns',
        reaches,
        weight: sunsOf(m),
        range: ranges[m]!,
      })),
      ...Array.from({ length: MONTHS }, (_, m): SumSet => ({
        of: 'sky',
        reaches,
        weight: skyByMonth.subarray(m * parts, (m + 1) * parts),
      })),
    ];
    this.sums = new GlassSums(year, [
      { of: 'sky', reaches: 'glass', weight: sky.overcast },
      ...this.sets.map((set): SumSet => {
        const shares = sunsInSet(project, sky, weather, set);
        return {
          of: 'suns',
          reaches: hasWeather ? 'glass' : 'time',
          weight: weight.map((one, d) => one * shares[d]!),
        };
      }),
      ...(hasWeather ? [...monthly('glass'), ...monthly('inside')] : []),
    ]);
    this.bare = this.sums.of(year.bare.open);
    this.whole = this.sums.whole;
  }

  /**
   * What reaches the glass past some devices.
   * @param hourly months with these that were summed hour by hour, where something moves or hangs inside
   */
  read(past: GlassPast, hourly: Record<'glass' | 'inside', MonthlyRadiation> | null = null): GlassReading {
    const shaded = past === this.year.bare ? this.bare : this.sums.of(past.open);
    const { areaM2, sky } = this.year;
    const percent = (value: number) => (100 * value) / areaM2;
    return {
      glassM2: areaM2,
      points: this.year.grid.count,
      sets: this.sets.map(({ id, name, use }, k) => ({
        id,
        name,
        use,
        whole: this.whole[1 + k]!,
        bare: this.bare.value[1 + k]!,
        bareError: this.bare.error(1 + k),
        shaded: shaded.value[1 + k]!,
        error: shaded.error(1 + k),
      })),
      months: sky.hasWeather
        ? {
            glass: this.pairOf('glass', shaded, past, hourly),
            inside: this.pairOf('inside', shaded, past, hourly),
          }
        : null,
      skyPercent: {
        shaded: percent(shaded.value[0]!),
        bare: percent(this.bare.value[0]!),
        error: percent(shaded.error(0)),
        bareError: percent(this.bare.error(0)),
      },
    };
  }

  private pairOf(
    reaches: 'glass' | 'inside',
    shaded: SampledSums,
    past: GlassPast,
    hourly: Record<'glass' | 'inside', MonthlyRadiation> | null,
  ) {
    return {
      shaded: hourly ? hourly[reaches] : this.monthsOf(shaded, past, reaches),
      bare: this.monthsOf(this.bare, this.year.bare, reaches),
    };
  }

  /** What comes in through each pane past some devices, by its target. Throws InputError `weather` without a weather year. */
  gainsOf(past: GlassPast): Map<string, WindowGain> {
    if (!this.year.sky.hasWeather)
      throw new InputError('weather', 'Solar gains need a weather year; bring one in on the Climate stage.');
    const each = this.sums.ofEach(past.open);
    return new Map(
      this.year.targets.map(({ id }, t) => {
        const { beam, sky, ground, error, yearError } = this.monthsOf(each[t]!, past, 'inside', t);
        const months = beam.map((one, m) => one + sky[m]! + ground[m]!);
        return [
          id,
          { kWh: months.reduce((sum, one) => sum + one, 0), error: yearError, months, monthErrors: error },
        ];
      }),
    );
  }

  private monthsOf(
    sums: SampledSums,
    { back }: GlassPast,
    reaches: 'glass' | 'inside',
    pane: number | null = null,
  ): MonthlyRadiation {
    const first = 1 + this.sets.length + (reaches === 'glass' ? 0 : 2 * MONTHS);
    const part = (from: number) => Array.from(sums.value.subarray(from, from + MONTHS), (sum) => sum / 1000);
    const all = Array.from({ length: MONTHS }, (_, m) => [first + m, first + MONTHS + m]);
    const thrown = back && backByMonth(back[reaches], pane);
    const ofYear = thrown?.reduce((sum, one) => sum.map((own, b) => own + one[b]!));
    return {
      error: all.map((sets, m) => sums.errorOf(sets, thrown?.[m]) / 1000),
      yearError: sums.errorOf(all.flat(), ofYear) / 1000,
      beam: part(first),
      sky: part(first + MONTHS),
      ground: thrown ? thrown.map((parts) => sumOf(parts) / 1000) : this.offOpenGround(reaches, pane),
    };
  }

  private offOpenGround(reaches: 'glass' | 'inside', pane: number | null): number[] {
    const seen = groundSeen(this.year, pane)[reaches];
    return Array.from(this.year.sky.samples.reflectedByMonth, (sum) => (sum * seen) / 1000);
  }
}

const sumOf = (values: Float64Array) => values.reduce((sum, one) => sum + one, 0);

/** Of each sun: the share of the glass before which it stands that lies in shade; NaN where it stands before none. */
export function shadeOfSuns(year: GlassYear, open: OpenDirections): Float32Array {
  const { samples } = year.sky;
  const { suns, count } = samples;
  const words = maskWords(count);
  const [lit, before] = [new Float64Array(suns + 32), new Float64Array(suns)];
  for (const { sensors, normal } of year.groups) {
    const cosines = cosinesBefore(samples, normal);
    const area = sensors.reduce((sum, s) => sum + year.grid.areas[s]!, 0);
    for (let d = 0; d < suns; d++) if (cosines[d]! > 0) before[d]! += area;
    for (const s of sensors) addLit(lit, open, s, words, suns, year.grid.areas[s]!);
  }
  return Float32Array.from(before, (area, d) => (area > 0 ? 1 - lit[d]! / area : NaN));
}

/** Adds the area of a sensor to the suns that it sees; tracing leaves what is behind it shut. */
function addLit(
  lit: Float64Array,
  { mask, shares }: OpenDirections,
  sensor: number,
  words: number,
  suns: number,
  area: number,
): void {
  for (let w = 0; w * 32 < suns; w++) {
    let bits = mask[sensor * words + w]! | 0;
    while (bits !== 0) {
      const low = bits & -bits;
      lit[w * 32 + 31 - Math.clz32(low)]! += area;
      bits ^= low;
    }
  }
  const row = shares?.[sensor];
  if (!row) return;
  for (let i = 0; i < row.direction.length; i++)
    if (row.direction[i]! < suns) lit[row.direction[i]!]! -= area * (1 - row.share[i]!);
}
