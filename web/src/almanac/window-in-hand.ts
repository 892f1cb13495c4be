import { change, clockAt, type Edit, type Site, sunDay, type WindowOfTime } from '@dial-shade/core';
import { useMemo } from 'react';
import { usePart } from '../app/later';
import { useStage } from '../app/use-stage';
import { keptInHand, useEnvelopes, withKept } from '../envelope/envelope-store';
import { activeStudyOf } from '../state/active-study';
import { part } from '../state/part';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { dateOfColumn } from './wording';

/** A window of time that the almanac shows, and lets one brush. */
export interface WindowInHand {
  /** What it is of. */
  key: string;
  window: WindowOfTime;
  /** Whether its hours are told by the sun. */
  isSolar: boolean;
  /** How much later than its hours the clock shows on the day of a column, minutes: nothing, or what solar time asks for. */
  lateness: (column: number) => number;
  put: (window: WindowOfTime) => Edit;
}

const studyKinds = part(() => import('./study-kinds'));

const ON_TIME = () => 0;

/** By how much the clock is ahead of the sun on the day of each column of the year, minutes. */
function solarLateness({ place, year }: Site) {
  const known = new Map<number, number>();
  return (column: number) => {
    const found = known.get(column);
    if (found !== undefined) return found;
    const { transitMs } = sunDay(dateOfColumn(year, column), place, place.zone);
    const late = clockAt(transitMs, place.zone).minutes - 720;
    known.set(column, late);
    return late;
  };
}

/** The window of the active study, or the first of what is chosen in an envelope. */
export function useWindowInHand(): WindowInHand | null {
  const project = useDocument();
  const stage = useStage();
  const activeStudy = useView((view) => view.activeStudy);
  const chosen = useEnvelopes((state) => state.chosen);
  const kept = useEnvelopes((state) => state.kept);
  const kinds = usePart(studyKinds, stage === 'studies');
  const bySun = useMemo(() => solarLateness(project.site), [project.site]);
  if (stage === 'envelope') {
    const found = keptInHand(project, { chosen, kept });
    if (!found) return null;
    const { envelope, index } = found;
    const { windows, basis } = envelope.keep[index]!;
    const [window, ...also] = windows;
    return {
      key: `${envelope.id}/${index}`,
      window: window!,
      isSolar: basis === 'solar',
      lateness: basis === 'solar' ? bySun : ON_TIME,
      put: (next) => withKept(envelope.id, index, { windows: [next, ...also] }),
    };
  }
  const study = stage === 'studies' ? activeStudyOf(project, activeStudy) : undefined;
  if (!study || !kinds?.STUDY_KINDS[study.kind].hasWindow) return null;
  return {
    key: study.id,
    window: study.window,
    isSolar: false,
    lateness: ON_TIME,
    put: (window) => change('studies', study.id, { window }),
  };
}
