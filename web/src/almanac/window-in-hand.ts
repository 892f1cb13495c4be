import { change, type Edit, STUDY_KINDS, type WindowOfTime } from '@dial-shade/core';
import { useStage } from '../app/use-stage';
import { keptInHand, useEnvelopes, withKept } from '../envelope/envelope-store';
import { activeStudyOf } from '../state/active-study';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

/** A window of time that the almanac shows, and lets one brush. */
export interface WindowInHand {
  /** What it is of. */
  key: string;
  window: WindowOfTime;
  put: (window: WindowOfTime) => Edit;
}

/** The window of the active study, or the first of what is chosen in an envelope. */
export function useWindowInHand(): WindowInHand | null {
  const project = useDocument();
  const stage = useStage();
  const activeStudy = useView((view) => view.activeStudy);
  const chosen = useEnvelopes((state) => state.chosen);
  const kept = useEnvelopes((state) => state.kept);
  if (stage === 'envelope') {
    const found = keptInHand(project, { chosen, kept });
    if (!found) return null;
    const { envelope, index } = found;
    const [window, ...also] = envelope.keep[index]!.windows;
    return {
      key: `${envelope.id}/${index}`,
      window: window!,
      put: (next) => withKept(envelope.id, index, { windows: [next, ...also] }),
    };
  }
  const study = stage === 'studies' ? activeStudyOf(project, activeStudy) : undefined;
  if (!study || !STUDY_KINDS[study.kind].hasWindow) return null;
  return {
    key: study.id,
    window: study.window,
    put: (window) => change('studies', study.id, { window }),
  };
}
