import { methodOf } from '../../method';
import { beamForMoving, sunSamples, sunlessNotes, type SunSamples } from '../sun-samples';
import { studyKind, weightsBefore } from './kind';
import { openSums, scaled } from './open-sums';
import { dayOf } from './one-day';

/** Suns of one day, and what is enough. */
interface DaySuns extends SunSamples {
  atLeastH: number;
  notes: string[];
}

/** Share of an area that has enough sun on a day. */
export const sunOnGround = studyKind<DaySuns>({
  kind: 'sun-on-ground',
  method: methodOf(),
  name: 'Sun on ground',
  purpose: 'How much of an area has at least so many hours of sun on a day.',
  hasWindow: true,
  hasStep: true,
  needsWeather: false,
  directionsAre: 'sun positions',
  ramp: 'sun',
  most: null,
  atLeast: 2,
  areaMeasure: 'enough',
  measures: [
    {
      key: 'hours',
      label: 'Sun on the day',
      unit: 'h',
      heading: 'sun hours (h)',
      digits: 2,
      definition:
        'Time in direct sun on the first day of the window: each step counts where the ray to the middle of the sun is open.',
    },
    {
      key: 'enough',
      label: 'Area with enough',
      unit: '%',
      heading: 'area with enough (%)',
      digits: 0,
      definition:
        'Whether a point has at least the hours of the criterion (100) or not (0). Its mean over an area, weighted with area, is the share of the area that has enough.',
    },
  ],
  directions(project, study) {
    const { window, notes } = dayOf(study);
    return {
      ...sunSamples(project.site, [window], study.stepMinutes, beamForMoving(project)),
      atLeastH: study.criterion.atLeast,
      notes,
    };
  },
  notes: (suns) => [...suns.notes, ...sunlessNotes(suns, 'every point has 0 h')],
  weights(suns, at, sensor, into) {
    weightsBefore(suns, at, sensor, into, (d) => suns.minutes[d]! / 60);
    return 0;
  },
  weigh(open, { count, minutes, atLeastH }, at) {
    const [sum] = openSums(open, count, at, [{ from: 0, to: count }], (_, [into]) => into!.set(minutes));
    const hours = scaled(sum!, 1 / 60);
    return { hours, enough: Float32Array.from(sum!, (one) => (one / 60 >= atLeastH - 1e-6 ? 100 : 0)) };
  },
});
