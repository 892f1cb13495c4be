import { methodOf } from '../../method';
import { studyKind, weightsBefore } from './kind';
import { openSums } from './open-sums';
import { peakHours } from './peak-hours';
import {
  byNumber,
  monthMeasures,
  MONTHS,
  type RadiationSamples,
  radiationSamples,
  skyOfPatches,
  sunRanges,
} from './radiation-samples';

const figure = (key: string, label: string, definition: string) => ({
  key,
  label,
  unit: 'kWh/m²',
  heading: `${key} (kWh/m2)`,
  digits: 1,
  definition,
});

/** Solar radiation on the outside of a surface over a window of time. */
export const insolation = studyKind<RadiationSamples>({
  kind: 'insolation',
  method: methodOf(),
  name: 'Insolation',
  purpose: 'How much solar radiation falls on each point in a window of time, by the weather of a year.',
  hasWindow: true,
  hasStep: false,
  needsWeather: true,
  directionsAre: 'suns and parts of the sky',
  ramp: 'heat',
  most: null,
  atLeast: 500,
  measures: [
    figure(
      'insolation',
      'Insolation',
      'Beam, sky and ground-reflected radiation on the outside of the surface, over the hours of the window, by the weather year.',
    ),
    figure(
      'beam',
      'Beam',
      'Beam normal radiation of each hour × cos θ, where the ray to the sun of the hour is open.',
    ),
    figure(
      'sky',
      'Sky',
      'Radiation of the open patches of the sky × cos θ: 577 patches, hour by hour by Perez, Seals & Michalsky 1993, scaled to the hour’s diffuse horizontal.',
    ),
    figure(
      'ground',
      'Ground',
      'Albedo × global horizontal × (1 − n_z)/2: what level ground throws back, with nothing in its way.',
    ),
    {
      ...figure('mean', 'Mean per day', 'Insolation over the days of the window.'),
      heading: 'mean per day (kWh/m2)',
      digits: 2,
    },
    {
      key: 'peak',
      label: 'Strongest hour',
      unit: 'W/m²',
      heading: 'peak hour (W/m2)',
      digits: 0,
      onRequest: 'peakHour',
      definition:
        'The greatest mean irradiance of any hour of the window that reaches the point: beam, sky and ground-reflected together.',
    },
    {
      key: 'peakAt',
      label: 'When it is',
      unit: 'standard time',
      heading: 'peak hour (standard time)',
      digits: 0,
      onRequest: 'peakHour',
      reads: 'date-hour',
      definition:
        'When the strongest hour begins: month, day and hour of local standard time, without daylight saving.',
    },
    ...monthMeasures('Insolation'),
  ],
  directions: radiationSamples,
  notes: ({ notes }) => notes,
  weights(samples, at, sensor, into) {
    const { suns, energy } = samples;
    const sky = skyOfPatches(samples);
    weightsBefore(
      samples,
      at,
      sensor,
      into,
      (d, cosine) => ((d < suns ? energy[d]! : sky[d - suns]!) * cosine) / 1000,
    );
    const reflected = samples.reflectedByMonth.reduce((sum, part) => sum + part, 0);
    return (reflected * (1 - at.normals[sensor * 3 + 2]!)) / 2 / 1000;
  },
  weigh(open, samples, at) {
    const { count, suns, patches, energy, month, skyByMonth, reflectedByMonth, days, hourly } = samples;
    const ranges = [
      ...sunRanges(samples),
      ...Array.from({ length: MONTHS }, () => ({ from: suns, to: count })),
    ];
    const cosines = new Float64Array(count);
    const sums = openSums(open, count, at, ranges, (sensor, into) => {
      weightsBefore(samples, at, sensor, cosines, (_, cosine) => cosine);
      for (let d = 0; d < suns; d++) into[month[d]!]![d] = energy[d]! * cosines[d]!;
      for (let p = suns; p < count; p++)
        for (let m = 0; m < MONTHS; m++)
          into[MONTHS + m]![p] = skyByMonth[m * patches + p - suns]! * cosines[p]!;
    });
    const make = () => new Float32Array(open.sensors);
    const [whole, beam, sky, ground, mean] = [make(), make(), make(), make(), make()];
    const months = Array.from({ length: MONTHS }, make);
    for (let s = 0; s < open.sensors; s++) {
      const seen = (1 - at.normals[(open.from + s) * 3 + 2]!) / 2;
      let [fromSun, fromSky, fromGround] = [0, 0, 0];
      for (let m = 0; m < MONTHS; m++) {
        const reflected = reflectedByMonth[m]! * seen;
        fromSun += sums[m]![s]!;
        fromSky += sums[MONTHS + m]![s]!;
        fromGround += reflected;
        months[m]![s] = (sums[m]![s]! + sums[MONTHS + m]![s]! + reflected) / 1000;
      }
      beam[s] = fromSun / 1000;
      sky[s] = fromSky / 1000;
      ground[s] = fromGround / 1000;
      whole[s] = (fromSun + fromSky + fromGround) / 1000;
      mean[s] = days > 0 ? whole[s]! / days : 0;
    }
    return {
      insolation: whole,
      beam,
      sky,
      ground,
      mean,
      ...(hourly && peakHours(open, samples, hourly, at)),
      ...byNumber('m', months, 1),
    };
  },
});
