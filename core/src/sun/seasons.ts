import { wrap180 } from '../civil';
import { SEASON_MARKS, type SeasonMark } from '../project';
import { geocentricSun } from './sun-position';

const DAY = 86_400_000;

export const SEASON_NAMES: Record<SeasonMark, string> = {
  'march-equinox': 'March equinox',
  'june-solstice': 'June solstice',
  'september-equinox': 'September equinox',
  'december-solstice': 'December solstice',
};

/**
 * The instants (epoch ms) in a UTC calendar year at which the sun's apparent ecliptic longitude is 0°, 90°, 180° and
 * 270°, found by Newton's method on the Solar Position Algorithm's longitude.
 */
export function seasons(year: number): Record<SeasonMark, number> {
  const found = SEASON_MARKS.map((mark, i) => {
    let at = Date.UTC(year, 2 + 3 * i, 21);
    for (let k = 0; k < 8; k++) {
      const step = wrap180(90 * i - geocentricSun(at).longitudeDeg) * (365.2422 / 360) * DAY;
      at += step;
      if (Math.abs(step) < 1) break;
    }
    return [mark, at] as const;
  });
  return Object.fromEntries(found) as Record<SeasonMark, number>;
}
