import { z } from 'zod';
import { WEATHER_KEYS } from '../constants';
import { bounded, listOf, whole } from './parts';

const HOURS = [8760, 8784];
const VALUE = String.raw`(?:-|-?\d{1,7}(?:\.\d{1,6})?(?:e-?\d{1,2})?)`;
const ONE_VALUE = new RegExp(`^${VALUE}$`);
const ALL_VALUES = new RegExp(`^${VALUE}(?: ${VALUE})*$`);

type WeatherKey = (typeof WEATHER_KEYS)[number];

/** By field: the text found sound last, and its hours. A document is looked at again with every edit, its weather seldom new. */
const soundLast = new Map<WeatherKey, { text: string; hours: number }>();

/** What is wrong with the values of a field, as a sentence; null where they are sound. */
function valuesProblem(key: WeatherKey, text: string, hours: number): string | null {
  const last = soundLast.get(key);
  if (text === '' || (last?.hours === hours && last.text === text)) return null;
  const parts = text.split(' ');
  if (parts.length !== hours) return `The weather’s ${key} has ${parts.length} values for ${hours} hours.`;
  if (!ALL_VALUES.test(text)) {
    const wrong = parts.findIndex((part) => !ONE_VALUE.test(part));
    return `The weather’s ${key} of hour ${wrong + 1}, “${parts[wrong]!.slice(0, 20)}”, is not a number.`;
  }
  soundLast.set(key, { text, hours });
  return null;
}

const numbers = z
  .string({ error: 'The values of a weather year must be text.' })
  .max(200_000, { error: 'A list of weather values is longer than a year can be.' });

/** A weather year kept with the project: what is read of a file, hour by hour. */
export const weatherSchema = z
  .strictObject({
    /** Name of the file, or what made it. */
    source: z.string().max(200, { error: 'The source of the weather may have at most 200 characters.' }),
    /** Where it was taken; null where the file does not say. */
    place: z
      .strictObject({
        name: z.string().max(200),
        latitudeDeg: bounded('The latitude of the weather', -90, 90, 'degrees'),
        longitudeDeg: bounded('The longitude of the weather', -180, 180, 'degrees'),
        standardTimeH: bounded('The standard time of the weather', -14, 14, 'h'),
        elevationM: bounded('The elevation of the weather', -1000, 9999.9, 'm'),
      })
      .nullable(),
    hours: whole('The hours of a weather year', 8760, 8784).refine((n) => HOURS.includes(n), {
      error: 'A weather year has 8,760 or 8,784 hours.',
    }),
    /** Month and day of the first hour; hours follow one after the other. */
    firstMonth: whole('The first month', 1, 12),
    firstDay: whole('The first day', 1, 31),
    notes: listOf(z.string().max(600), 'notes on the weather', 40),
    /** By field: one number an hour, parted by blanks, “-” where it is missing; "" where all are. */
    values: z.strictObject(
      Object.fromEntries(WEATHER_KEYS.map((key) => [key, numbers])) as Record<WeatherKey, typeof numbers>,
    ),
  })
  .superRefine(({ hours, values }, context) => {
    for (const key of WEATHER_KEYS) {
      const message = valuesProblem(key, values[key], hours);
      if (message) context.addIssue({ code: 'custom', message });
    }
  });

export type StoredWeather = z.infer<typeof weatherSchema>;
