import type { StoredWeather } from '../project';
import { blankWeather, monthDays, WEATHER_FIELDS, type WeatherYear } from './weather-year';

/** A number as it is written: what is read back is the same number. */
const text = (value: number) => (Number.isNaN(value) ? '-' : String(value));

/** A weather year as the project keeps it. @param source name of its file, or what made it */
export function storedWeather(year: WeatherYear, source: string): StoredWeather {
  const values = Object.fromEntries(
    WEATHER_FIELDS.map(({ field }) => {
      const all = year.values[field];
      return [field, all.every(Number.isNaN) ? '' : Array.from(all, text).join(' ')];
    }),
  ) as StoredWeather['values'];
  return {
    source: source.slice(0, 200),
    place: year.place && { ...year.place, name: year.place.name.slice(0, 200) },
    hours: year.hours,
    firstMonth: year.month[0]!,
    firstDay: year.day[0]!,
    notes: year.notes.slice(0, 40).map((note) => note.slice(0, 600)),
    values,
  };
}

const read = new WeakMap<StoredWeather, WeatherYear>();

/** The weather year that a project keeps; the same object for the same stored one. */
export function weatherOf(stored: StoredWeather): WeatherYear {
  let year = read.get(stored);
  if (!year) {
    year = unpacked(stored);
    read.set(stored, year);
  }
  return year;
}

function unpacked({ hours, place, firstMonth, firstDay, notes, values }: StoredWeather): WeatherYear {
  const year = blankWeather(hours, place);
  const isLeap = hours === 8784;
  let [month, day] = [firstMonth, firstDay];
  for (let i = 0; i < hours; i++) {
    year.month[i] = month;
    year.day[i] = day;
    year.hour[i] = (i % 24) + 1;
    if (i % 24 < 23) continue;
    day++;
    if (day > monthDays(month, isLeap)) [month, day] = [(month % 12) + 1, 1];
  }
  for (const { field } of WEATHER_FIELDS)
    if (values[field] !== '')
      values[field].split(' ').forEach((part, i) => {
        year.values[field][i] = part === '-' ? NaN : Number(part);
      });
  year.notes.push(...notes);
  return year;
}
