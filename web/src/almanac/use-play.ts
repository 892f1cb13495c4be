import { addDays, clockAt, sunDay } from '@dial-shade/core';
import { useEffect } from 'react';
import { currentProject } from '../state/project-store';
import { setView, useView } from '../state/view-store';

const BEAT_MS = 90;

/** Lets the moment run along the day or along the season while playing is on. */
export function usePlay(): void {
  const play = useView((view) => view.play);
  useEffect(() => {
    if (!play) return;
    const timer = setInterval(play === 'day' ? stepDay : stepSeason, BEAT_MS);
    return () => clearInterval(timer);
  }, [play]);
}

/** A step along the day; the night is skipped. */
function stepDay(): void {
  const { date, minutes, playStep } = useView.getState();
  const { place } = currentProject().site;
  const day = sunDay(date, place, place.zone);
  const clock = (ms: number | null, otherwise: number) =>
    ms === null ? otherwise : clockAt(ms, place.zone).minutes;
  const from = Math.floor(clock(day.sunriseMs, 0) / 10) * 10;
  const to = Math.min(1439, clock(day.sunsetMs, 1439));
  const next = minutes + playStep.day;
  setView({ minutes: next > to || next < from ? from : next });
}

/** A step along the season; after the last day of the year the first follows. */
function stepSeason(): void {
  const { date, playStep } = useView.getState();
  const { year } = currentProject().site;
  const next = addDays(date, playStep.season);
  setView({
    date: next.startsWith(String(year))
      ? next
      : `${year}-01-${String(1 + (Number(next.slice(8)) % 2)).padStart(2, '0')}`,
  });
}
