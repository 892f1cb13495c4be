import {
  type Drawing,
  niceTop,
  shownMeasure,
  shownValues,
  type Study,
  STUDY_KINDS,
  type StudyResult,
  sensorIndex,
} from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import type { Group } from 'three';
import { activeStudyOf } from '../state/active-study';
import { paneCount, shownIn, usePanes } from '../state/panes-store';
import { useDocument } from '../state/project-store';
import { type ResultState, useResultState } from '../state/result-state';
import { loadResult, useRuns } from '../state/run-store';
import { useView } from '../state/view-store';
import { asShown, isChange, type Looked } from '../studies/as-shown';
import { greatestTogether } from '../studies/looked-at';
import { useTakes } from '../studies/takes-store';
import { SCENE } from '../theme/palette';
import type { Label } from './label-layer';
import { resultCells, resultLabels, type ResultStyle } from './result-cells';
import type { ShownResult } from './shown-result';

/** The result to lie on the scene, how it is coloured, and where each sensor is. */
interface ResultOverlay extends ShownResult {
  look: ResultStyle;
  group: Group | null;
  labels: readonly Label[];
}

/** The active study's result for an option, as it is looked at. */
export function useResultOverlay(
  { optionId, activeStudy }: { optionId: string; activeStudy: string | null },
  map?: Drawing['map'],
): ResultOverlay {
  const project = useDocument();
  const study = activeStudyOf(project, activeStudy);
  const theme = useView((view) => view.theme);
  const found = useResultState(study?.id ?? null, optionId);
  useLoaded(true, found);
  const before = useBefore(study, optionId);
  const measure = useView((view) => (study ? view.shownMeasure[study.id] : undefined));
  const { changes } = found;
  const massing = useTakes(({ takes, onMassing }) =>
    onMassing && takes?.studyId === study?.id && takes?.optionId === optionId ? takes.massing : null,
  );
  const result = useMemo(
    () => massing ?? (found.result && asShown(found.result, { measure, before })),
    [massing, found.result, measure, before],
  );
  const standing = useMemo(() => ({ ...found, result }), [found, result]);
  const outdated = changes.length > 0;
  const most = useGreatestTogether(result);
  const look = useMemo(
    () => resultStyle(result, study, theme, outdated, map, most),
    [result, study, theme, outdated, map, most],
  );
  const { ground } = project.site;
  const group = useMemo(() => (result ? resultCells(result, ground, look) : null), [result, ground, look]);
  const index = useMemo(() => (result ? sensorIndex(result) : new Map<string, number>()), [result]);
  const labels = useMemo(() => (result ? resultLabels(result, ground, look) : []), [result, ground, look]);
  return { standing, look, group, index, labels };
}

/** Fetches the result of what is shown, once. */
function useLoaded(wanted: boolean, { shown, result }: ResultState): void {
  useEffect(() => {
    if (wanted && shown && !result) void loadResult(shown.id);
  }, [wanted, shown, result]);
}

/** The greatest value of the figure that a result shows, over all panes. */
function useGreatestTogether(result: StudyResult | null): number {
  const project = useDocument();
  // Told anew when results, what the panes show of them, or what is looked at change.
  const runs = useRuns((state) => state.runs);
  const results = useRuns((state) => state.results);
  const atOnce = useRuns((state) => state.atOnce);
  const measures = useView((view) => view.shownMeasure);
  const before = useView((view) => (view.showsChange ? view.before : null));
  const panes = usePanes((state) =>
    JSON.stringify(
      state.panes.slice(0, paneCount(state)).map((pane) => {
        const { optionId, activeStudy } = shownIn(pane, state);
        return [optionId, activeStudy];
      }),
    ),
  );
  return useMemo(
    () => (result ? greatestTogether(project, result) : 0),
    // oxlint-disable-next-line react/exhaustive-deps
    [project, result, runs, results, atOnce, measures, before, panes],
  );
}

/** What results of a study are compared with, where the change is to be seen. */
function useBefore(study: Study | undefined, optionId: string): Looked['before'] {
  const { options } = useDocument();
  const beforeId = useView((view) => (view.showsChange && view.before !== optionId ? view.before : null));
  const state = useResultState(beforeId === null ? null : (study?.id ?? null), beforeId ?? optionId);
  useLoaded(beforeId !== null, state);
  const name = options.find(({ id }) => id === beforeId)?.name;
  const result = beforeId === null ? null : state.result;
  return useMemo(() => (result && name ? { result, name } : null), [result, name]);
}

/** How a result of a study is coloured. */
export function resultStyle(
  result: StudyResult | null,
  study: Study | undefined,
  theme: 'light' | 'dark',
  outdated: boolean,
  map?: Drawing['map'],
  /** The greatest value that is seen beside it. */
  beside = 0,
): ResultStyle {
  const kind = STUDY_KINDS[result?.summary.kind ?? study?.kind ?? 'sun-hours'];
  const values = result && shownValues(result);
  const max = values
    ? values.reduce((most, value) => (Math.abs(value) > most ? Math.abs(value) : most), beside)
    : 1;
  const ink = theme === 'light' ? SCENE.light.ink : '#f4efe2';
  const lies = { steps: map?.steps ?? 0, contours: map?.contours ?? false, values: map?.values ?? false };
  if (result && isChange(result)) {
    const most = niceTop(max);
    return { min: -most, max: most, atLeast: NaN, ramp: 'change', ink, outdated, ...lies };
  }
  const isFirst = !result || shownMeasure(result) === kind.measures[0];
  return {
    min: isFirst && study?.scale ? study.scale.min : 0,
    max: isFirst && study?.scale ? study.scale.max : isFirst && kind.most ? kind.most : niceTop(max),
    atLeast: isFirst ? (study?.criterion.atLeast ?? 0) : NaN,
    ramp: result?.shown?.measure.key === 'taken' ? 'taken' : (map?.ramp ?? kind.ramp),
    ...lies,
    ink,
    outdated,
  };
}
