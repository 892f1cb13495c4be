import type { WeatherPlace } from '../site';

/** What is read of an hour, with the unit. */
export const WEATHER_FIELDS = [
  { field: 'dryBulb', name: 'dry-bulb temperature', unit: '°C' },
  { field: 'dewPoint', name: 'dew-point temperature', unit: '°C' },
  { field: 'humidity', name: 'relative humidity', unit: '%' },
  { field: 'pressure', name: 'pressure', unit: 'Pa' },
  { field: 'global', name: 'global horizontal radiation', unit: 'Wh/m²' },
  { field: 'beam', name: 'beam normal radiation', unit: 'Wh/m²' },
  { field: 'diffuse', name: 'diffuse horizontal radiation', unit: 'Wh/m²' },
  { field: 'windDirection', name: 'wind direction', unit: '°' },
  { field: 'windSpeed', name: 'wind speed', unit: 'm/s' },
  { field: 'cloud', name: 'sky cover', unit: 'tenths' },
] as const;

export type WeatherField = (typeof WEATHER_FIELDS)[number]['field'];

/** A weather year, hour by hour in the order of the file. Every record covers the hour that ends at its stamp, in local standard time. */
export interface WeatherYear {
  /** Where it was taken; null for files that do not say. */
  place: WeatherPlace | null;
  hours: number;
  month: Uint8Array;
  day: Uint8Array;
  /** 1 to 24: the hour that ends then. */
  hour: Uint8Array;
  /** NaN where a value is missing. */
  values: Record<WeatherField, Float64Array>;
  /** Things to know, one sentence each. */
  notes: string[];
}

/** Days of the months, of a year with and without a 29 February. */
export const MONTH_DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31] as const;

export function monthDays(month: number, isLeap: boolean): number {
  return month === 2 && isLeap ? 29 : MONTH_DAYS[month - 1]!;
}

/** Values of no hour yet: all NaN. */
export function blankWeather(hours: number, place: WeatherPlace | null): WeatherYear {
  const values = Object.fromEntries(
    WEATHER_FIELDS.map(({ field }) => [field, new Float64Array(hours).fill(NaN)]),
  ) as Record<WeatherField, Float64Array>;
  const bytes = () => new Uint8Array(hours);
  return { place, hours, month: bytes(), day: bytes(), hour: bytes(), values, notes: [] };
}
