import { rgb } from 'd3';
import { useMemo } from 'react';
import type { WeatherTone } from '../almanac/use-weather-tone';
import { RAMPS } from '../theme/palette';
import { useGlass } from './glass-store';

/** From glass in sun to glass in shade; never as dark as the night. */
const ramp = (share: number) => RAMPS.shade(share * 0.72);
/** While the sun stands behind the glass. */
const BEHIND: [number, number, number] = [205, 201, 191];

/** The tone of the almanac by the share of the glass in shade, where it is asked for and known. */
export function useShadeTone(wanted: boolean): WeatherTone | null {
  const { shows, devices } = useGlass();
  const found = devices && 'shade' in devices ? devices : null;
  return useMemo(() => {
    if (!wanted || shows !== 'shade' || !found) return null;
    const table = Array.from({ length: 101 }, (_, i): [number, number, number] => {
      const { r, g, b } = rgb(ramp(i / 100));
      return [r, g, b];
    });
    return {
      name: 'of the glass in shade',
      unit: '%',
      min: 0,
      max: 100,
      ramp,
      toneAt(day, hour) {
        const share = found.shade[day * 24 + hour]!;
        if (Number.isNaN(share)) return null;
        return share < 0 ? BEHIND : table[Math.round(Math.min(1, share) * 100)]!;
      },
    };
  }, [wanted, shows, found]);
}
