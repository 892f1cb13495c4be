import { InputError } from '../../errors';
import type { TargetGlass } from '../flat-target';
import { angularG, hemisphericalG } from './angular-g';
import { cosineTo, openShare, studyKind, weightsBefore } from './kind';
import {
  HOURS,
  hourMeasures,
  monthMeasures,
  MONTHS,
  type RadiationSamples,
  radiationSamples,
  skyOfPatches,
} from './radiation-samples';

const figure = (key: string, label: string, heading: string, definition: string) => ({
  key,
  label,
  unit: 'kWh/m²',
  heading: `${heading} (kWh/m2)`,
  digits: 1,
  definition,
});

/** What of the sun comes in through glazing. */
export const solarGain = studyKind<RadiationSamples>({
  kind: 'solar-gain',
  name: 'Solar gain',
  purpose:
    'How much solar energy comes in through each opening in a window of time, by the weather of a year.',
  hasWindow: true,
  hasStep: false,
  needsWeather: true,
  directionsAre: 'suns and parts of the sky',
  ramp: 'heat',
  most: null,
  atLeast: 0,
  measures: [
    figure(
      'gain',
      'Solar gain',
      'solar gain',
      'Solar energy that a square metre of the opening lets in: the glass without its frame × [beam × cos θ × g(θ) + Σ radiance of open patches × cos θ × solid angle × g(θ) + ground-reflected × g of the half-space]. g(θ) after Karlsson & Roos 2000. Times the area of the opening it is the gain in kWh.',
    ),
    figure('beam', 'Of the beam', 'beam gain', 'The part of the gain that comes straight from the sun.'),
    figure('sky', 'Of the sky', 'sky gain', 'The part of the gain that comes from the sky.'),
    figure('ground', 'Off the ground', 'ground gain', 'The part of the gain that the ground throws back.'),
    ...monthMeasures('Solar gain'),
    ...hourMeasures('Solar gain'),
  ],
  directions: radiationSamples,
  notes: ({ notes }) => notes,
  check(targets) {
    const bare = targets.find(({ glass }) => !glass);
    if (bare)
      throw new InputError(
        'no-glass',
        `Solar gain is of glazed openings; “${bare.name}” has no glass. Choose a target of openings.`,
      );
  },
  weights(samples, at, sensor, into) {
    const { suns, energy } = samples;
    const glass = at.targets[at.target[sensor]!]!.glass!;
    const g = glass.gValue * (1 - glass.frameShare);
    const sky = skyOfPatches(samples);
    weightsBefore(
      samples,
      at,
      sensor,
      into,
      (d, cosine) => ((d < suns ? energy[d]! : sky[d - suns]!) * cosine * g * angularG(cosine, glass)) / 1000,
    );
    const reflected = samples.reflectedByMonth.reduce((sum, part) => sum + part, 0);
    return (reflected * (1 - at.normals[sensor * 3 + 2]!) * g * hemisphericalG(glass)) / 2 / 1000;
  },
  weigh(open, directions, { normals, target, targets }) {
    const { count, suns, patches, vectors, energy, month, hour, skyByMonth, skyByHour } = directions;
    const { reflectedByMonth, reflectedByHour } = directions;
    const make = () => new Float32Array(open.sensors);
    const [whole, beam, sky, ground] = [make(), make(), make(), make()];
    const [months, hours] = [MONTHS, HOURS].map((length) => Array.from({ length }, make)) as [
      Float32Array[],
      Float32Array[],
    ];
    const [monthSums, hourSums] = [new Float64Array(MONTHS), new Float64Array(HOURS)];
    const hemispheres = new Map<TargetGlass, number>();
    for (let s = 0; s < open.sensors; s++) {
      const at = open.from + s;
      const glass = targets[target[at]!]!.glass!;
      if (!hemispheres.has(glass)) hemispheres.set(glass, hemisphericalG(glass));
      const g = glass.gValue * (1 - glass.frameShare);
      monthSums.fill(0);
      hourSums.fill(0);
      let [fromSun, fromSky, fromGround] = [0, 0, 0];
      const through = (d: number) => {
        const share = openShare(open, count, s, d);
        if (share === 0) return 0;
        const cosine = cosineTo(normals, at, vectors, d);
        return cosine > 0 ? share * cosine * g * angularG(cosine, glass) : 0;
      };
      for (let d = 0; d < suns; d++) {
        if (energy[d] === 0) continue;
        const part = through(d) * energy[d]!;
        fromSun += part;
        monthSums[month[d]!]! += part;
        hourSums[hour[d]!]! += part;
      }
      for (let p = 0; p < patches; p++) {
        const part = through(suns + p);
        if (part === 0) continue;
        for (let m = 0; m < MONTHS; m++) {
          const gain = part * skyByMonth[p * MONTHS + m]!;
          fromSky += gain;
          monthSums[m]! += gain;
        }
        for (let h = 0; h < HOURS; h++) hourSums[h]! += part * skyByHour[p * HOURS + h]!;
      }
      const seen = ((1 - normals[at * 3 + 2]!) / 2) * g * hemispheres.get(glass)!;
      for (let m = 0; m < MONTHS; m++) {
        fromGround += reflectedByMonth[m]! * seen;
        months[m]![s] = (monthSums[m]! + reflectedByMonth[m]! * seen) / 1000;
      }
      for (let h = 0; h < HOURS; h++) hours[h]![s] = (hourSums[h]! + reflectedByHour[h]! * seen) / 1000;
      beam[s] = fromSun / 1000;
      sky[s] = fromSky / 1000;
      ground[s] = fromGround / 1000;
      whole[s] = (fromSun + fromSky + fromGround) / 1000;
    }
    const two = (n: number) => String(n).padStart(2, '0');
    return {
      gain: whole,
      beam,
      sky,
      ground,
      ...Object.fromEntries(months.map((values, m) => [`m${two(m + 1)}`, values])),
      ...Object.fromEntries(hours.map((values, h) => [`h${two(h)}`, values])),
    };
  },
});
