import { madeUpWeather, type Place, type StoredWeather } from '@dial-shade/core';

const made = new Map<string, StoredWeather>();

/** The made-up weather of a sample, made once. */
export function sampleWeather(
  { name, latitudeDeg, longitudeDeg, elevationM }: Place,
  standardTimeH: number,
  seed: number,
): StoredWeather {
  let weather = made.get(name);
  if (!weather) {
    weather = madeUpWeather({ name, latitudeDeg, longitudeDeg, elevationM, standardTimeH }, seed, 2026);
    made.set(name, weather);
  }
  // A copy: whoever asks may change it.
  return structuredClone(weather);
}
