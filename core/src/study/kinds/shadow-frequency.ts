import { methodOf } from '../../method';
import { beamForMoving, type SunSamples, sunlessNotes, sunSamples } from '../sun-samples';
import { studyKind, windowsOf } from './kind';
import { openSums } from './open-sums';

/** How much of the time with the sun above the horizon a point lies in shade. */
export const shadowFrequency = studyKind<SunSamples>({
  kind: 'shadow-frequency',
  method: methodOf(),
  name: 'Shadow frequency',
  purpose: 'How much of the time with sun above the horizon each point lies in shade.',
  hasWindow: true,
  hasStep: true,
  needsWeather: false,
  directionsAre: 'sun positions',
  ramp: 'shade',
  most: 100,
  atLeast: 50,
  measures: [
    {
      key: 'shaded',
      label: 'In shade',
      unit: '%',
      heading: 'shadow frequency (%)',
      digits: 1,
      definition:
        'Share of the time in the window, while the sun is above the horizon, in which the point has no direct sun: shaded by something, or turned away from the sun. What lets some light pass shades by the rest.',
    },
  ],
  directions: (project, study) =>
    sunSamples(project.site, windowsOf(study), study.stepMinutes, beamForMoving(project)),
  notes: (suns) => sunlessNotes(suns, 'nothing can be said of shade'),
  weigh(open, suns, at) {
    const all = suns.minutes.reduce((sum, minutes) => sum + minutes, 0);
    const [sun] = openSums(open, suns.count, at, [{ from: 0, to: suns.count }], (_, [into]) =>
      into!.set(suns.minutes),
    );
    return { shaded: Float32Array.from(sun!, (lit) => (all > 0 ? 100 * (1 - lit / all) : NaN)) };
  },
});
