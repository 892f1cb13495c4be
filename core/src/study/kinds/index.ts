import type { Study } from '../../project';
import type { Measure, StudyKind, StudyValues } from './kind';
import { insolation } from './insolation';
import { probableSun } from './probable-sun';
import { roomExposure } from './room-exposure';
import { shadowFrequency } from './shadow-frequency';
import { skyComponent } from './sky-component';
import { skyView } from './sky-view';
import { solarGain } from './solar-gain';
import { sunHours } from './sun-hours';
import { sunOnGround } from './sun-on-ground';

export { angularG } from './angular-g';
export { offOpenGround, openGroundThrough } from './open-ground';
export { BitSumsOfSets, interleaved, sameFacing } from './open-sums';
export { isRadiation, type RadiationSamples, radiationSamples, sunRanges } from './radiation-samples';
export {
  type Directions,
  hourStamp,
  type Measure,
  type MoreOpen,
  type OpenDirections,
  openRow,
  readMeasure,
  type StudyKind,
  type StudyValues,
  type WeighAsks,
  type WeighedAt,
  windowsOf,
} from './kind';

/** All kinds of study. */
export const STUDY_KINDS: Readonly<Record<Study['kind'], StudyKind>> = {
  'sun-hours': sunHours,
  'shadow-frequency': shadowFrequency,
  'sun-on-ground': sunOnGround,
  'room-exposure': roomExposure,
  vsc: skyComponent,
  'sky-view': skyView,
  insolation,
  'probable-sun': probableSun,
  'solar-gain': solarGain,
};

/** The measures that a study gives: all of its kind but those that it does not ask for. */
export function measuresOf(study: Pick<Study, 'kind' | 'peakHour'>): Measure[] {
  return STUDY_KINDS[study.kind].measures.filter(({ onRequest }) => !onRequest || study[onRequest]);
}

/** The measures of a kind that a result has values of, to be shown. */
export function measuresIn(kind: Study['kind'], values: StudyValues): Measure[] {
  return storedMeasuresIn(kind, values).filter(({ hidden }) => !hidden);
}

/** The same with those that are only kept. */
export function storedMeasuresIn(kind: Study['kind'], values: StudyValues): Measure[] {
  return STUDY_KINDS[kind].measures.filter(({ key }) => values[key]);
}
