import { WEATHER_FIELDS, type WeatherField, type WeatherYear } from './weather-year';
import type { WeatherHours } from './sun-of-hours';

/** Sums and checks of a weather year. */
export interface WeatherSummary {
  hours: number;
  /** Month and day of the first record, MM-DD. */
  begins: string;
  /** Hours without a value, by field. */
  missing: Record<WeatherField, number>;
  /** kWh/m² over the year, of what the file holds. */
  sums: { global: number; beam: number; diffuse: number };
  dryBulb: { min: number; mean: number; max: number };
  months: {
    month: number;
    global: number;
    beam: number;
    diffuse: number;
    minC: number;
    meanC: number;
    maxC: number;
    /** Means over the days of the month of the coldest and of the warmest hour. */
    dayMinC: number;
    dayMaxC: number;
  }[];
  checks: {
    /** Hours in which global and beam × sin h + diffuse lie more than 50 Wh/m² and 10 % apart. */
    unbalancedHours: number;
    /** Hours with radiation while the sun is below the horizon throughout. */
    sunlessHoursWithRadiation: number;
  };
}

const sumOf = (values: readonly number[]) => values.reduce((sum, v) => (Number.isNaN(v) ? sum : sum + v), 0);
const present = (values: readonly number[]) => values.filter((v) => !Number.isNaN(v));

function range(values: readonly number[]) {
  const all = present(values);
  if (all.length === 0) return { min: NaN, mean: NaN, max: NaN };
  return {
    min: Math.min(...all),
    mean: sumOf(all) / all.length,
    max: all.reduce((a, b) => Math.max(a, b), -Infinity),
  };
}

/** Means over the days of a month of the coldest and of the warmest hour, °C. */
function dailyRange({ hours, month, day, values }: WeatherYear, wanted: number) {
  const days = new Map<number, number[]>();
  for (let i = 0; i < hours; i++) {
    const value = values.dryBulb[i]!;
    if (month[i] !== wanted || Number.isNaN(value)) continue;
    const known = days.get(day[i]!);
    if (known) known.push(value);
    else days.set(day[i]!, [value]);
  }
  const mean = (of: (values: number[]) => number) =>
    days.size ? [...days.values()].reduce((sum, one) => sum + of(one), 0) / days.size : NaN;
  return { dayMinC: mean((one) => Math.min(...one)), dayMaxC: mean((one) => Math.max(...one)) };
}

/** Sums and checks of a weather year, with the suns of its hours. */
export function weatherSummary(weather: WeatherYear, { hours }: WeatherHours): WeatherSummary {
  const { values } = weather;
  const of = (field: WeatherField, month: number | null = null) =>
    Array.from(values[field]).filter((_, i) => month === null || weather.month[i] === month);
  const kWh = (field: WeatherField, month: number | null = null) => sumOf(of(field, month)) / 1000;
  const pad = (n: number) => String(n).padStart(2, '0');
  let [unbalancedHours, sunlessHoursWithRadiation] = [0, 0];
  for (const { record, sun } of hours) {
    const [g, b, d] = [values.global[record]!, values.beam[record]!, values.diffuse[record]!];
    if (!sun && (g > 0 || b > 0 || d > 0)) sunlessHoursWithRadiation++;
    if (!sun || Number.isNaN(g + b + d)) continue;
    const made = b * Math.sin((sun.altitudeDeg * Math.PI) / 180) + d;
    if (Math.abs(made - g) > Math.max(50, 0.1 * g)) unbalancedHours++;
  }
  return {
    hours: weather.hours,
    begins: `${pad(weather.month[0]!)}-${pad(weather.day[0]!)}`,
    missing: Object.fromEntries(
      WEATHER_FIELDS.map(({ field }) => [field, of(field).filter(Number.isNaN).length]),
    ) as Record<WeatherField, number>,
    sums: { global: kWh('global'), beam: kWh('beam'), diffuse: kWh('diffuse') },
    dryBulb: range(of('dryBulb')),
    months: Array.from({ length: 12 }, (_, m) => {
      const { min, mean, max } = range(of('dryBulb', m + 1));
      return {
        month: m + 1,
        global: kWh('global', m + 1),
        beam: kWh('beam', m + 1),
        diffuse: kWh('diffuse', m + 1),
        minC: min,
        meanC: mean,
        maxC: max,
        ...dailyRange(weather, m + 1),
      };
    }),
    checks: { unbalancedHours, sunlessHoursWithRadiation },
  };
}
