import { methodOf } from '../../method';
import { beamForMoving, type SunSamples, sunlessNotes, sunSamples } from '../sun-samples';
import { openRow, studyKind, weightsBefore, windowsOf } from './kind';
import { openSums, scaled } from './open-sums';

/** Time in direct sun in a window of time. */
export const sunHours = studyKind<SunSamples>({
  kind: 'sun-hours',
  method: methodOf(),
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
      reads: 'clock',
      definition: 'The earliest time of the clock with sun on any day of the window.',
    },
    {
      key: 'last',
      label: 'Last sun',
      unit: 'clock',
      heading: 'last sun (clock)',
      digits: 0,
      reads: 'clock',
      definition: 'The latest time of the clock with sun on any day of the window.',
    },
  ],
  directions: (project, study) =>
    sunSamples(project.site, windowsOf(study), study.stepMinutes, beamForMoving(project)),
  notes: (suns) => sunlessNotes(suns, 'every point has 0 h'),
  weights(suns, at, sensor, into) {
    weightsBefore(suns, at, sensor, into, (d) => suns.minutes[d]! / 60);
    return 0;
  },
  weigh(open, suns, at) {
    const { count, minutes, step, clock } = suns;
    const [sum] = openSums(open, count, at, [{ from: 0, to: count }], (_, [into]) => into!.set(minutes));
    const hours = scaled(sum!, 1 / 60);
    const [longest, first, last] = [0, NaN, NaN].map((value) =>
      new Float32Array(open.sensors).fill(value),
    ) as [Float32Array, Float32Array, Float32Array];
    const row = new Float64Array(count);
    for (let s = 0; s < open.sensors; s++) {
      openRow(open, count, s, row);
      let [stretch, previous, most, earliest, latest] = [0, -2, 0, Infinity, -Infinity];
      for (let d = 0; d < count; d++) {
        if (row[d]! < 0.5) continue;
        const length = minutes[d]!;
        stretch = step[d] === previous + 1 ? stretch + length : length;
        previous = step[d]!;
        if (stretch > most) most = stretch;
        const middle = clock[d]!;
        if (middle - length / 2 < earliest) earliest = middle - length / 2;
        if (middle + length / 2 > latest) latest = middle + length / 2;
      }
      longest[s] = most / 60;
      if (most > 0) [first[s], last[s]] = [earliest, latest];
    }
    return { hours, longest, first, last };
  },
});
