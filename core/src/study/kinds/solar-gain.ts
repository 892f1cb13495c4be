import { methodOf } from '../../method';
import { InputError } from '../../errors';
import type { TargetGlass } from '../flat-target';
import { GLASS_RAYS, type ThrownBack } from '../reflected-light';
import { angularG } from './angular-g';
import { type OpenDirections, studyKind, type WeighedAt, weightsBefore } from './kind';
import { openGroundThrough } from './open-ground';
import { openSums } from './open-sums';
import {
  HOURS,
  MONTHS,
  type RadiationSamples,
  radiationSamples,
  SKY_PARTS,
  skyOfYear,
  sunRanges,
  thrownBackNote,
} from './radiation-samples';
import { byNumber, hourMeasures, monthMeasures } from './radiation-measures';

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
  method: methodOf(
    'each cell is the mean over points in a low-discrepancy order, with its error and the area that a device covers in the account, the sky in 4,096 directions; before, one point a cell and 577 patches.',
    'light off the ground and off what stands about is traced; before, that of open ground passed everything.',
    'glass inside the ground or a solid gets nothing of open ground, and what throws light back is looked for from sixteen parts of each of its squares; before, such glass got what it would in the open, and every place that a ray met was looked from.',
  ),
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
      'Solar energy that a square metre of the opening lets in: the glass without its frame × [beam × cos θ × g(θ) + Σ radiance of the open sky × cos θ × solid angle × g(θ) + what is thrown back × g(θ)]. g(θ) after Karlsson & Roos 2000. Times the area of the opening it is the gain in kWh.',
    ),
    figure('beam', 'Of the beam', 'beam gain', 'The part of the gain that comes straight from the sun.'),
    figure('sky', 'Of the sky', 'sky gain', 'The part of the gain that comes from the sky.'),
    figure(
      'ground',
      'Thrown back',
      'ground gain',
      'The part of the gain that the ground and what stands about throw back, at the angle at which it comes.',
    ),
    ...monthMeasures('Solar gain'),
    ...hourMeasures('Solar gain'),
    {
      ...figure(
        'error',
        'May be off by',
        'solar gain error',
        'What the solar gain of the cell may be off by, ±, told by what its points differ by. That of a window is less than those of its cells: see the summary.',
      ),
      digits: 2,
    },
    figure(
      'facing',
      'Thrown back by facades',
      'facing gain',
      'Of what is thrown back, the part off facades, roofs, devices and trees.',
    ),
    ...Array.from({ length: 8 }, (_, b) => ({
      ...figure(
        `p${b + 1}`,
        `Eighth ${b + 1}`,
        `eighth ${b + 1}`,
        'What an eighth of the points adds to the solar gain.',
      ),
      hidden: true,
    })),
  ],
  overGlass: true,
  directions: (project, study, weather) => radiationSamples(project, study, weather, SKY_PARTS),
  notes: ({ notes, isOpenGround }) => [...notes, thrownBackNote(isOpenGround)],
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
    const sky = skyOfYear(samples);
    weightsBefore(
      samples,
      at,
      sensor,
      into,
      (d, cosine) => ((d < suns ? energy[d]! : sky[d - suns]!) * cosine * g * angularG(cosine, glass)) / 1000,
    );
    // What is traced is nobody's to take: it is left out.
    if (!samples.isOpenGround) return 0;
    const reflected = samples.reflectedByMonth.reduce((sum, part) => sum + part, 0);
    return (reflected * openGroundThrough(at, sensor, glass)) / 1000;
  },
  weigh(open, samples, at, asks = {}) {
    const { count, suns, parts, energy, month, hour, skyByMonth, skyByHour } = samples;
    const sky = { from: suns, to: count };
    const ranges = [
      ...sunRanges(samples),
      ...Array.from({ length: HOURS }, () => ({ from: 0, to: suns })),
      ...Array.from({ length: MONTHS + HOURS }, () => sky),
    ];
    const gains = new Float64Array(count);
    const glassOf = (sensor: number) => at.targets[at.target[sensor]!]!.glass!;
    const sums = openSums(
      open,
      count,
      at,
      ranges,
      (sensor, into) => {
        const glass = glassOf(sensor);
        const g = glass.gValue * (1 - glass.frameShare);
        weightsBefore(samples, at, sensor, gains, (_, cosine) => cosine * g * angularG(cosine, glass));
        for (let d = 0; d < suns; d++) {
          const gain = energy[d]! * gains[d]!;
          into[month[d]!]![d] = gain;
          into[MONTHS + hour[d]!]![d] = gain;
        }
        const [monthly, hourly] = [MONTHS + HOURS, 2 * MONTHS + HOURS];
        for (let p = 0; p < parts; p++) {
          for (let m = 0; m < MONTHS; m++)
            into[monthly + m]![suns + p] = skyByMonth[m * parts + p]! * gains[suns + p]!;
          for (let h = 0; h < HOURS; h++)
            into[hourly + h]![suns + p] = skyByHour[h * parts + p]! * gains[suns + p]!;
        }
      },
      (sensor) => JSON.stringify(glassOf(sensor)),
    );
    const back =
      asks.thrownBack?.({
        ...GLASS_RAYS,
        passes: (sensor, cosine) => passedBy(glassOf(sensor), cosine),
        also: (sensor) => JSON.stringify(glassOf(sensor)),
      }) ?? openGround(open, samples, at, glassOf);
    const make = () => new Float32Array(open.sensors);
    const [whole, beam, skyGain, ground, facing] = [make(), make(), make(), make(), make()];
    const months = Array.from({ length: MONTHS }, make);
    const hours = Array.from({ length: HOURS }, make);
    for (let s = 0; s < open.sensors; s++) {
      const backIn = (k: number) => back.ground[k]![s]! + back.standing[k]![s]!;
      let [fromSun, fromSky, fromGround, offFaces] = [0, 0, 0, 0];
      for (let m = 0; m < MONTHS; m++) {
        const [sun, parts] = [sums[m]![s]!, sums[MONTHS + HOURS + m]![s]!];
        fromSun += sun;
        fromSky += parts;
        fromGround += backIn(m);
        offFaces += back.standing[m]![s]!;
        months[m]![s] = (sun + parts + backIn(m)) / 1000;
      }
      for (let h = 0; h < HOURS; h++)
        hours[h]![s] =
          (sums[MONTHS + h]![s]! + sums[2 * MONTHS + HOURS + h]![s]! + backIn(MONTHS + h)) / 1000;
      beam[s] = fromSun / 1000;
      skyGain[s] = fromSky / 1000;
      ground[s] = fromGround / 1000;
      facing[s] = offFaces / 1000;
      whole[s] = (fromSun + fromSky + fromGround) / 1000;
    }
    return {
      gain: whole,
      beam,
      sky: skyGain,
      ground,
      facing,
      ...byNumber('m', months, 1),
      ...byNumber('h', hours, 0),
    };
  },
});

/** What of a W/m² on the glass at a cosine comes in, with the frame. */
function passedBy(glass: TargetGlass, cosine: number): number {
  return glass.gValue * (1 - glass.frameShare) * angularG(cosine, glass);
}

/** What open ground throws back and the glass lets in: nothing stands in its way but what covers the glass. */
function openGround(
  open: OpenDirections,
  { reflectedByMonth, reflectedByHour }: RadiationSamples,
  at: WeighedAt,
  glassOf: (sensor: number) => TargetGlass,
): ThrownBack {
  const seen = Float64Array.from({ length: open.sensors }, (_, s) =>
    openGroundThrough(at, open.from + s, glassOf(open.from + s)),
  );
  const sets = [...reflectedByMonth, ...reflectedByHour];
  return {
    ground: sets.map((sum) => seen.map((one) => one * sum)),
    standing: sets.map(() => new Float64Array(open.sensors)),
  };
}
