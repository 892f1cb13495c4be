import type { Drawing } from '@dial-shade/core';
import { useEffect } from 'react';
import { useStage } from '../app/use-stage';
import { ResultLegend } from '../studies/result-legend';
import type { PaneView } from './pane-view';
import { ProfileOverlay } from './profile-overlay';
import { NO_RESULT, type ShownResult } from './shown-result';
import { useLabels } from './use-layer';
import { useResultOverlay } from './use-result-overlay';

interface ResultOverlayProps {
  view: PaneView;
  optionId: string;
  activeStudy: string | null;
  map: Drawing['map'];
  hasLegend: boolean;
  /** Hears which result lies there. */
  show: (result: ShownResult) => void;
}

/** The result of a study on the scene of a pane: cells, values, the line along which it is read, its legend. */
export function ResultOverlay({ view, optionId, activeStudy, map, hasLegend, show }: ResultOverlayProps) {
  const stage = useStage();
  const overlay = useResultOverlay({ optionId, activeStudy }, map);
  const { standing, look, group, index, labels } = overlay;
  const { result } = standing;
  useLabels(view, 'result', labels);
  useEffect(() => {
    if (group) view.overlay.add(group);
    view.render();
    return () => {
      if (group) view.overlay.remove(group);
      view.render();
    };
  }, [view, group]);
  useEffect(() => show({ standing: { result }, index }), [show, result, index]);
  useEffect(() => () => show(NO_RESULT), [show]);
  if (!result) return null;
  return (
    <>
      {stage === 'studies' && <ProfileOverlay view={view} result={result} />}
      {hasLegend && (
        <ResultLegend key={`${optionId}/${activeStudy}`} studyId={activeStudy} result={result} look={look} />
      )}
    </>
  );
}
