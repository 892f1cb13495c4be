import type { Study } from '../../project';
import type { StudyKind } from './kind';
import { insolation } from './insolation';
import { probableSun } from './probable-sun';
import { shadowFrequency } from './shadow-frequency';
import { skyComponent } from './sky-component';
import { skyView } from './sky-view';
import { sunHours } from './sun-hours';

export {
  type Directions,
  type Measure,
  type OpenDirections,
  readMeasure,
  type StudyKind,
  type StudyValues,
} from './kind';

/** All kinds of study. */
export const STUDY_KINDS: Readonly<Record<Study['kind'], StudyKind>> = {
  'sun-hours': sunHours,
  'shadow-frequency': shadowFrequency,
  vsc: skyComponent,
  'sky-view': skyView,
  insolation,
  'probable-sun': probableSun,
};
