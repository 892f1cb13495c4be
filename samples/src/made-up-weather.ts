import {
  climateAt,
  makeUpYear,
  type Place,
  readWeather,
  type StoredWeather,
  storedWeather,
  writeEpw,
} from '@dial-shade/core';

const made = new Map<string, StoredWeather>();

/** A made-up weather year for a place, as its file gives it; the same for the same place and seed. */
export function madeUpWeather(
  { name, latitudeDeg, longitudeDeg, elevationM }: Place,
  standardTimeH: number,
  seed: number,
  year: number,
): StoredWeather {
  const key = [name, seed, year].join();
  let weather = made.get(key);
  if (!weather) {
    const place = { name, latitudeDeg, longitudeDeg, elevationM, standardTimeH };
    const text = writeEpw(
      makeUpYear(place, climateAt(latitudeDeg), seed, year),
      'made up',
      `Made up by Dial Shade with seed ${seed}: plausible; measured nowhere.`,
      year,
    );
    weather = storedWeather(readWeather(new TextEncoder().encode(text)), `Made up with seed ${seed}`);
    made.set(key, weather);
  }
  return weather;
}
