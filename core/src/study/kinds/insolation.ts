import { cosineTo, openShare, studyKind, weightsBefore } from './kind';
import {
  monthMeasures,
  MONTHS,
  type RadiationSamples,
  radiationSamples,
  skyOfPatches,
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
  weigh(open, directions, { normals }) {
    const { count, suns, patches, vectors, energy, month, skyByMonth, reflectedByMonth, days } = directions;
    const make = () => new Float32Array(open.sensors);
    const [whole, beam, sky, ground, mean] = [make(), make(), make(), make(), make()];
    const months = Array.from({ length: MONTHS }, make);
    const sums = new Float64Array(MONTHS);
    for (let s = 0; s < open.sensors; s++) {
      sums.fill(0);
      let [fromSun, fromSky, fromGround] = [0, 0, 0];
      for (let d = 0; d < suns; d++) {
        if (energy[d] === 0) continue;
        const share = openShare(open, count, s, d);
        if (share === 0) continue;
        const part = share * energy[d]! * cosineTo(normals, open.from + s, vectors, d);
        fromSun += part;
        sums[month[d]!]! += part;
      }
      for (let p = 0; p < patches; p++) {
        const share = openShare(open, count, s, suns + p);
        if (share === 0) continue;
        const part = share * cosineTo(normals, open.from + s, vectors, suns + p);
        if (part === 0) continue;
        for (let m = 0; m < MONTHS; m++) {
          const energyOf = part * skyByMonth[p * MONTHS + m]!;
          fromSky += energyOf;
          sums[m]! += energyOf;
        }
      }
      const seen = (1 - normals[(open.from + s) * 3 + 2]!) / 2;
      for (let m = 0; m < MONTHS; m++) {
        const part = reflectedByMonth[m]! * seen;
        fromGround += part;
        months[m]![s] = (sums[m]! + part) / 1000;
      }
      beam[s] = fromSun / 1000;
      sky[s] = fromSky / 1000;
      ground[s] = fromGround / 1000;
      whole[s] = (fromSun + fromSky + fromGround) / 1000;
      mean[s] = days > 0 ? whole[s]! / days : 0;
    }
    const byMonth = Object.fromEntries(
      months.map((values, m) => [`m${String(m + 1).padStart(2, '0')}`, values]),
    );
    return { insolation: whole, beam, sky, ground, mean, ...byMonth };
  },
});
