import { type SunSamples, sunlessNotes, sunSamples } from '../sun-samples';
import { openShare, studyKind, weightsBefore, windowsOf } from './kind';

/** Time in direct sun in a window of time. */
export const sunHours = studyKind<SunSamples>({
  kind: 'sun-hours',
  name: 'Sun hours',
  purpose: 'How long each point has direct sun in a window of time.',
  hasWindow: true,
  hasStep: true,
  needsWeather: false,
  directionsAre: 'sun positions',
  ramp: 'sun',
  most: null,
  atLeast: 2,
  measures: [
    {
      key: 'hours',
      label: 'Sun',
      unit: 'h',
      heading: 'sun hours (h)',
      digits: 2,
      definition:
        'Time in direct sun in the window: each step counts where the ray to the middle of the sun is open, with the share that panes, fences and crowns let through.',
    },
    {
      key: 'longest',
      label: 'Longest stretch',
      unit: 'h',
      heading: 'longest stretch (h)',
      digits: 2,
      definition: 'The longest time in sun without a break; a step counts where at least half gets through.',
    },
    {
      key: 'first',
      label: 'First sun',
      unit: 'clock',
      heading: 'first sun (clock)',
      digits: 0,
      isClock: true,
      definition: 'The earliest time of the clock with sun on any day of the window.',
    },
    {
      key: 'last',
      label: 'Last sun',
      unit: 'clock',
      heading: 'last sun (clock)',
      digits: 0,
      isClock: true,
      definition: 'The latest time of the clock with sun on any day of the window.',
    },
  ],
  directions: ({ site }, study) => sunSamples(site, windowsOf(study), study.stepMinutes),
  notes: (suns) => sunlessNotes(suns, 'every point has 0 h'),
  weights(suns, at, sensor, into) {
    weightsBefore(suns, at, sensor, into, (d) => suns.minutes[d]! / 60);
    return 0;
  },
  weigh(open, suns) {
    const { sensors } = open;
    const [hours, longest, first, last] = [0, 0, NaN, NaN].map((value) =>
      new Float32Array(sensors).fill(value),
    ) as [Float32Array, Float32Array, Float32Array, Float32Array];
    for (let s = 0; s < sensors; s++) {
      let [total, stretch, previous] = [0, 0, -2];
      for (let d = 0; d < suns.count; d++) {
        const share = openShare(open, suns.count, s, d);
        if (share === 0) continue;
        const minutes = suns.minutes[d]!;
        total += minutes * share;
        if (share < 0.5) continue;
        stretch = suns.step[d] === previous + 1 ? stretch + minutes : minutes;
        previous = suns.step[d]!;
        longest[s] = Math.max(longest[s]!, stretch / 60);
        const [start, end] = [suns.clock[d]! - minutes / 2, suns.clock[d]! + minutes / 2];
        if (!(first[s]! <= start)) first[s] = start;
        if (!(last[s]! >= end)) last[s] = end;
      }
      hours[s] = total / 60;
    }
    return { hours, longest, first, last };
  },
});
