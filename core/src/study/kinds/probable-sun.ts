import { methodOf } from '../../method';
import { clockAt } from '../../civil';
import { sunVector } from '../../sun';
import { hoursAtSite, sunsOfHour } from '../../weather';
import { type Directions, studyKind, weightsBefore } from './kind';
import { openSums, scaled } from './open-sums';
import { orderOfSuns } from './weather-samples';

/** Beam normal irradiance from which the sun is said to shine, W/m² (WMO). */
const SUNSHINE = 120;
/** The winter half of the year: from the autumn equinox to the day before that of spring, as month × 100 + day. */
const AUTUMN = { north: 921, south: 321 };

/** Suns of all hours of the year, whatever the weather: so they are traced once for all. */
interface ProbableSuns extends Directions {
  /** What each stands for, per cent of the hours with sunshine; 0 where the sun does not shine. */
  share: Float64Array;
  isWinter: Uint8Array;
  hasSunshine: boolean;
  notes: string[];
}

function isWinterDay(day: number, isSouth: boolean): boolean {
  return isSouth ? day >= AUTUMN.south && day < AUTUMN.north : day >= AUTUMN.north || day < AUTUMN.south;
}

/** Share of the year's probable sun that reaches a point. */
export const probableSun = studyKind<ProbableSuns>({
  kind: 'probable-sun',
  method: methodOf(),
  name: 'Probable sunlight',
  purpose: 'How much of the sunshine of a year, by its weather, reaches each point.',
  hasWindow: false,
  hasStep: false,
  needsWeather: true,
  directionsAre: 'suns of the year',
  ramp: 'sun',
  most: 100,
  atLeast: 25,
  measures: [
    {
      key: 'year',
      label: 'Probable sun, year',
      unit: '%',
      heading: 'probable sun, year (%)',
      digits: 1,
      definition:
        'Of the hours of the weather year in which the sun shines (beam normal at least 120 W/m², the sunshine threshold of the WMO), the share whose sun reaches the point.',
    },
    {
      key: 'winter',
      label: 'Probable sun, winter half',
      unit: '%',
      heading: 'probable sun, winter (%)',
      digits: 1,
      definition:
        'Of the hours with sunshine in the whole year, the share that reaches the point in the winter half: 21 September to 20 March, in the south 21 March to 20 September.',
    },
  ],
  directions(project, study, weather) {
    const { site } = project;
    const { hours, notes, standardTimeH, weather: year } = hoursAtSite(project, weather);
    const isShining = ({ sun, beamNormal }: (typeof hours)[number]) => sun !== null && beamNormal >= SUNSHINE;
    const shining = hours.filter(isShining).length;
    const sunsOf = sunsOfHour(site.place, study.sunsPerHour ?? 1);
    const gathered = hours.flatMap((hour) => {
      const local = new Date(hour.startMs + standardTimeH * 3_600_000);
      return sunsOf(hour).map((sun, _, { length }) => ({
        ...sun,
        month: local.getUTCMonth(),
        hour: local.getUTCHours(),
        day: year.month[hour.record]! * 100 + year.day[hour.record]!,
        beam: hour.beamNormal,
        share: isShining(hour) ? 100 / length / shining : 0,
      }));
    });
    const order = orderOfSuns(
      gathered.map(({ month }) => month),
      gathered.map(({ hour }) => hour),
    );
    const suns = Array.from(order, (d) => gathered[d]!);
    const days = suns.map(({ day }) => day);
    const isSouth = site.place.latitudeDeg < 0;
    if (shining === 0) notes.push('In no hour of this weather year does the sun shine: nothing can be said.');
    return {
      count: suns.length,
      hasSunshine: shining > 0,
      vectors: Float64Array.from(
        suns.flatMap((sun) => sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg)),
      ),
      share: Float64Array.from(suns, ({ share }) => share),
      date: Uint16Array.from(days),
      moments: {
        minutes: Float32Array.from(suns, ({ atMs }) => clockAt(atMs, site.place.zone).minutes),
        beamWm2: Float32Array.from(suns, ({ beam }) => beam),
      },
      isWinter: Uint8Array.from(days, (day) => Number(isWinterDay(day, isSouth))),
      notes,
    };
  },
  notes: ({ notes }) => notes,
  weights(suns, at, sensor, into) {
    weightsBefore(suns, at, sensor, into, (d) => suns.share[d]!);
    return 0;
  },
  weigh(open, { count, share, isWinter, hasSunshine }, at) {
    const none = () => new Float32Array(open.sensors).fill(NaN);
    if (!hasSunshine) return { year: none(), winter: none() };
    const whole = { from: 0, to: count };
    const [year, winter] = openSums(open, count, at, [whole, whole], (_, [all, half]) => {
      all!.set(share);
      for (let d = 0; d < count; d++) half![d] = isWinter[d] ? share[d]! : 0;
    });
    return { year: scaled(year!, 1), winter: scaled(winter!, 1) };
  },
});
