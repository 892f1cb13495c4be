import { type SunSamples, sunlessNotes, sunSamples } from '../sun-samples';
import { openShare, studyKind, windowsOf } from './kind';

/** How much of the time with the sun above the horizon a point lies in shade. */
export const shadowFrequency = studyKind<SunSamples>({
  kind: 'shadow-frequency',
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
  directions: ({ site }, study) => sunSamples(site, windowsOf(study), study.stepMinutes),
  notes: (suns) => sunlessNotes(suns, 'nothing can be said of shade'),
  weigh(open, suns) {
    const shaded = new Float32Array(open.sensors);
    const all = suns.minutes.reduce((sum, minutes) => sum + minutes, 0);
    for (let s = 0; s < open.sensors; s++) {
      let sun = 0;
      for (let d = 0; d < suns.count; d++) sun += suns.minutes[d]! * openShare(open, suns.count, s, d);
      shaded[s] = all > 0 ? 100 * (1 - sun / all) : NaN;
    }
    return { shaded };
  },
});
