import { mainValues, type Study, STUDY_KINDS, type StudyResult } from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import type { Group } from 'three';
import { useActiveStudy } from '../state/active-study';
import { useDocument } from '../state/project-store';
import { loadResult, type ResultState, useResultState } from '../state/run-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { resultCells, type ResultStyle, sensorIndex } from './result-cells';

/** The result to lie on the scene, how it is coloured, and where each sensor is. */
export interface ResultOverlay {
  standing: ResultState;
  look: ResultStyle;
  group: Group | null;
  index: ReadonlyMap<string, number>;
}

/** The active study's result for an option. */
export function useResultOverlay(wanted: boolean, optionId: string): ResultOverlay {
  const project = useDocument();
  const study = useActiveStudy();
  const theme = useView((view) => view.theme);
  const standing = useResultState(wanted ? (study?.id ?? null) : null, optionId);
  const { result, shown, changes } = standing;

  useEffect(() => {
    if (wanted && shown && !result) void loadResult(shown.id);
  }, [wanted, shown, result]);

  const outdated = changes.length > 0;
  const look = useMemo(() => resultStyle(result, study, theme, outdated), [result, study, theme, outdated]);
  const { ground } = project.site;
  const group = useMemo(
    () => (wanted && result ? resultCells(result, ground, look) : null),
    [wanted, result, ground, look],
  );
  const index = useMemo(() => (result ? sensorIndex(result) : new Map<string, number>()), [result]);
  return { standing, look, group, index };
}

/** How a result of a study is coloured. */
export function resultStyle(
  result: StudyResult | null,
  study: Study | undefined,
  theme: 'light' | 'dark',
  outdated: boolean,
): ResultStyle {
  const kind = STUDY_KINDS[result?.summary.kind ?? study?.kind ?? 'sun-hours'];
  const values = result && mainValues(kind.kind, result.values);
  const max = values ? values.reduce((most, value) => (value > most ? value : most), 0) : 1;
  return {
    min: study?.scale ? study.scale.min : 0,
    max: study?.scale ? study.scale.max : (kind.most ?? niceTop(max)),
    atLeast: study?.criterion.atLeast ?? 0,
    ramp: kind.ramp,
    ink: theme === 'light' ? SCENE.light.ink : '#f4efe2',
    outdated,
  };
}

/** A round number at or above the greatest value. */
export function niceTop(max: number): number {
  if (max <= 0) return 1;
  const power = 10 ** Math.floor(Math.log10(max));
  for (const m of [1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10]) if (m * power >= max - 1e-9) return m * power;
  return 10 * power;
}
