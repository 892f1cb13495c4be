import type { Study } from '../project';
import { shownMeasure, shownValues, STUDY_KINDS, type StudyResult } from '../study';
import { niceTop, type Scale } from './ramps';

/** How a result is coloured where nothing else is wished: by the scale of its study, or what fits its values. */
export function resultScale(result: StudyResult, scale: Study['scale'] = null): Scale {
  const kind = STUDY_KINDS[result.summary.kind];
  if (shownMeasure(result) === kind.measures[0] && scale) return { ...scale, ramp: kind.ramp };
  const max = shownValues(result).reduce((most, value) => (value > most ? value : most), 0);
  const most = shownMeasure(result) === kind.measures[0] ? kind.most : null;
  return { min: 0, max: most ?? niceTop(max), ramp: kind.ramp };
}
