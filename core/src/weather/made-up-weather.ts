import type { StoredWeather } from '../project';
import type { WeatherPlace } from '../site';
import { climateAt, makeUpYear } from './made-up-year';
import { readWeather } from './read-weather';
import { storedWeather } from './stored-weather';
import { writeEpw } from './write-epw';

/** What a made-up year says of itself in its file. */
export const madeUpComment = (seed: number) =>
  `Made up by Dial Shade with seed ${seed}: plausible; measured nowhere.`;

/** A made-up weather year for a place, as its file gives it; the same for the same place, seed and year of the suns. */
export function madeUpWeather(place: WeatherPlace, seed: number, year: number): StoredWeather {
  const made = makeUpYear(place, climateAt(place.latitudeDeg), seed, year);
  const text = writeEpw(made, 'made up', madeUpComment(seed), year);
  return storedWeather(readWeather(new TextEncoder().encode(text)), `Made up with seed ${seed}`);
}
