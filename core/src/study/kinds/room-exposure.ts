import { methodOf } from '../../method';
import { beamForMoving, sunSamples, sunlessNotes, type SunSamples } from '../sun-samples';
import { studyKind, weightsBefore } from './kind';
import { openSums, scaled } from './open-sums';
import { dayOf } from './one-day';

/** Days between which a room’s sun is read, as MM-DD; in the south half a year later. */
const SEASON = { north: ['02-01', '03-21'], south: ['08-01', '09-21'] } as const;

interface DaySuns extends SunSamples {
  notes: string[];
}

/** Hours of sun at a window of a room on a day. */
export const roomExposure = studyKind<DaySuns>({
  kind: 'room-exposure',
  method: methodOf(),
  name: 'Sun exposure of rooms',
  purpose: 'How long the sun reaches a room on a day, at a point of each of its openings.',
  hasWindow: true,
  hasStep: true,
  needsWeather: false,
  directionsAre: 'sun positions',
  ramp: 'sun',
  most: null,
  atLeast: 1.5,
  measures: [
    {
      key: 'hours',
      label: 'Sun exposure',
      unit: 'h',
      heading: 'sun exposure (h)',
      digits: 2,
      definition:
        'Time on the first day of the window in which the sun reaches the reference point of the opening: the middle of its width, 0.3 m above the sill and at least 1.2 m above the floor, where its pane stands (EN 17037). The opening’s own pane does not weaken it; its reveals shade.',
    },
  ],
  directions(project, study) {
    const { site } = project;
    const { window, notes } = dayOf(study);
    const [from, to] = SEASON[site.place.latitudeDeg < 0 ? 'south' : 'north'];
    const day = window.from.slice(5);
    if (day < from || day > to)
      notes.push(`${window.from} does not lie between ${from} and ${to}, where EN 17037 has the day chosen.`);
    return { ...sunSamples(site, [window], study.stepMinutes, beamForMoving(project)), notes };
  },
  notes: (suns) => [...suns.notes, ...sunlessNotes(suns, 'every point has 0 h')],
  weights(suns, at, sensor, into) {
    weightsBefore(suns, at, sensor, into, (d) => suns.minutes[d]! / 60);
    return 0;
  },
  weigh(open, { count, minutes }, at) {
    const [sum] = openSums(open, count, at, [{ from: 0, to: count }], (_, [into]) => into!.set(minutes));
    const hours = scaled(sum!, 1 / 60);
    return { hours };
  },
});
