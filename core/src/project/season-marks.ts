/** The sun's apparent ecliptic longitude at 0°, 90°, 180° and 270°. */
export const SEASON_MARKS = [
  'march-equinox',
  'june-solstice',
  'september-equinox',
  'december-solstice',
] as const;

export type SeasonMark = (typeof SEASON_MARKS)[number];
