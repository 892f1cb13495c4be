import { WEATHER_FIELDS } from '@dial-shade/core';
import { rgb } from 'd3';
import { useMemo } from 'react';
import { useClimate } from '../climate/use-climate';
import { useView } from '../state/view-store';
import { RAMPS, temperatureRamp } from '../theme/palette';

type Rgb = [number, number, number];

/** How the almanac is toned by a field of the weather. */
export interface WeatherTone {
  name: string;
  unit: string;
  min: number;
  max: number;
  ramp: (share: number) => string;
  /** Tone of a day and an hour of the clock; null where there is no value. */
  toneAt: (day: number, hour: number) => Rgb | null;
}

/** What the almanac is toned by, where it is not the sun's altitude and the worker has found it. */
export function useWeatherTone(): WeatherTone | null {
  const tone = useView((view) => view.almanacTone);
  const carpet = useClimate(
    async (worker) => (tone === 'sun' ? null : { tone, ...(await worker.climateCarpet(tone)) }),
    [tone],
  );
  return useMemo(() => {
    if (tone === 'sun' || carpet?.tone !== tone || !(carpet.max >= carpet.min)) return null;
    const { name, unit } = WEATHER_FIELDS.find(({ field }) => field === tone)!;
    const isRadiation = tone === 'global' || tone === 'beam' || tone === 'diffuse';
    const ramp = tone === 'dryBulb' ? temperatureRamp : isRadiation ? RAMPS.heat : RAMPS.sky;
    const [min, max] = [isRadiation ? 0 : carpet.min, carpet.max];
    const table = Array.from({ length: 256 }, (_, i): Rgb => {
      const { r, g, b } = rgb(ramp(i / 255));
      return [r, g, b];
    });
    return {
      name,
      unit,
      min,
      max,
      ramp,
      toneAt(day, hour) {
        const value = carpet.values[day * 24 + hour]!;
        if (Number.isNaN(value)) return null;
        return table[Math.round((255 * (value - min)) / Math.max(1e-9, max - min))]!;
      },
    };
  }, [carpet, tone]);
}
