import { clockAt, SEASON_MARKS, type SeasonMark, seasons, type Site } from '@dial-shade/core';
import { useMemo } from 'react';

/** The solstices and equinoxes of the project's year as date and clock minutes on site. */
export function useSeasonMarks({ place, year }: Site): { mark: SeasonMark; date: string; minutes: number }[] {
  return useMemo(() => {
    const found = seasons(year);
    return SEASON_MARKS.map((mark) => ({ mark, ...clockAt(found[mark], place.zone) }));
  }, [year, place.zone]);
}
