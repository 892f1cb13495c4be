import type { Study } from '../../project';
import type { StudyKind } from './kind';
import { insolation } from './insolation';
import { probableSun } from './probable-sun';
import { roomExposure } from './room-exposure';
import { shadowFrequency } from './shadow-frequency';
import { skyComponent } from './sky-component';
import { skyView } from './sky-view';
import { solarGain } from './solar-gain';
import { sunHours } from './sun-hours';
import { sunOnGround } from './sun-on-ground';

export {
  type Directions,
  type Measure,
  type OpenDirections,
  readMeasure,
  type StudyKind,
  type StudyValues,
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
