import { methodOf } from '../../method';
import { skySpiral } from '../../sky';
import { type OpenDirections, studyKind, type TraceMore, type WeighedAt, weightsBefore } from './kind';
import { offOpenGround } from './open-ground';
import { openSums } from './open-sums';
import type { RaysAsked, ThrownBack } from '../reflected-light';
import { peakHours } from './peak-hours';
import {
  type FinerSky,
  finerSky,
  MONTHS,
  type RadiationSamples,
  radiationSamples,
  skyOfYear,
  sunRanges,
  thrownBackNote,
} from './radiation-samples';
import { byNumber, monthMeasures } from './radiation-measures';

const figure = (key: string, label: string, definition: string) => ({
  key,
  label,
  unit: 'kWh/m²',
  heading: `${key} (kWh/m2)`,
  digits: 1,
  definition,
});

/**
 * More directions for sensors that see little of the sky, by how many equal ones those that are open count for:
 * (Σ w)²/Σ w², w what each adds under a uniform sky. With n of them the sky is within 600/n % of converged.
 */
const FINER = [
  { below: 75, parts: 131_072 },
  { below: 300, parts: 65_536 },
  { below: Infinity, parts: 16_384 },
];
/** Rays of a sensor to what throws light back. */
const RAYS: RaysAsked = { rays: 256 };
const read = (count: number) => count.toLocaleString('en');

/**
 * Equal directions that tell the sky well enough: of a wall, and as many more of what looks up, which gets nothing off the
 * ground. What sees the sky, not what comes of it, decides, so that another period traces nothing.
 */
const ENOUGH = { wall: 750, up: 450 };

/** Solar radiation on the outside of a surface over a window of time. */
export const insolation = studyKind<RadiationSamples>({
  kind: 'insolation',
  method: methodOf(
    'the sky is taken in 4,096 directions, and in more where little of it is open; before, in one ray to the middle of each of 577 patches.',
    'light off the ground and off what stands about is traced; before, that of open ground passed everything.',
    'what throws light back is looked for from sixteen parts of each of its squares; before, from every place that a ray met.',
  ),
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
      'Radiation of the open sky × cos θ: 4,096 directions, 16,384 to 131,072 where little of it is open, hour by hour by Perez, Seals & Michalsky 1993, scaled to the hour’s diffuse horizontal.',
    ),
    figure(
      'ground',
      'Thrown back',
      'What the ground and what stands about throw back, once: rays below and above the horizon bring what the sun and the sky give where they end × its albedo or reflectance. For open ground: albedo × global horizontal × (1 − n_z)/2, with nothing in its way.',
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
    figure(
      'facing',
      'Thrown back by facades',
      'Of what is thrown back, the part off facades, roofs, devices and trees.',
    ),
  ],
  directions: radiationSamples,
  notes: ({ notes, parts, isOpenGround }) => [
    ...notes,
    thrownBackNote(isOpenGround),
    `The sky is taken in ${read(parts)} directions; where little of it is open, in ${read(FINER.at(-1)!.parts)} to ${read(FINER[0]!.parts)}.`,
  ],
  weights(samples, at, sensor, into) {
    const { suns, energy } = samples;
    const sky = skyOfYear(samples);
    weightsBefore(
      samples,
      at,
      sensor,
      into,
      (d, cosine) => ((d < suns ? energy[d]! : sky[d - suns]!) * cosine) / 1000,
    );
    // What is traced is nobody's to take: it is left out.
    if (!samples.isOpenGround) return 0;
    const reflected = samples.reflectedByMonth.reduce((sum, part) => sum + part, 0);
    return (reflected * offOpenGround(at, sensor)) / 1000;
  },
  weigh(open, samples, at, asks = {}) {
    const { count, suns, parts, energy, month, skyByMonth, days, hourly } = samples;
    const { more, thrownBackHourly } = asks;
    const ranges = [
      ...sunRanges(samples),
      ...Array.from({ length: MONTHS }, () => ({ from: suns, to: count })),
    ];
    const cosines = new Float64Array(count);
    const sums = openSums(
      open,
      count,
      at,
      ranges,
      (sensor, into) => {
        weightsBefore(samples, at, sensor, cosines, (_, cosine) => cosine);
        for (let d = 0; d < suns; d++) into[month[d]!]![d] = energy[d]! * cosines[d]!;
        for (let p = suns; p < count; p++)
          for (let m = 0; m < MONTHS; m++)
            into[MONTHS + m]![p] = skyByMonth[m * parts + p - suns]! * cosines[p]!;
      },
      undefined,
      { of: samples, sums: 'months' },
    );
    if (more) takeMore(more, open, samples, at, sums.slice(MONTHS));
    const make = () => new Float32Array(open.sensors);
    const back = asks.thrownBack?.(RAYS) ?? openGround(open, samples, at);
    const [whole, beam, sky, ground, facing, mean] = [make(), make(), make(), make(), make(), make()];
    const months = Array.from({ length: MONTHS }, make);
    for (let s = 0; s < open.sensors; s++) {
      let [fromSun, fromSky, fromGround, offFaces] = [0, 0, 0, 0];
      for (let m = 0; m < MONTHS; m++) {
        const reflected = back.ground[m]![s]! + back.standing[m]![s]!;
        offFaces += back.standing[m]![s]!;
        fromSun += sums[m]![s]!;
        fromSky += sums[MONTHS + m]![s]!;
        fromGround += reflected;
        months[m]![s] = (sums[m]![s]! + sums[MONTHS + m]![s]! + reflected) / 1000;
      }
      beam[s] = fromSun / 1000;
      sky[s] = fromSky / 1000;
      ground[s] = fromGround / 1000;
      facing[s] = offFaces / 1000;
      whole[s] = (fromSun + fromSky + fromGround) / 1000;
      mean[s] = days > 0 ? whole[s]! / days : 0;
    }
    return {
      insolation: whole,
      beam,
      sky,
      ground,
      facing,
      mean,
      ...(hourly &&
        peakHours(
          open,
          samples,
          hourly,
          at,
          thrownBackHourly && ((sensor) => thrownBackHourly(sensor, RAYS)),
        )),
      ...byNumber('m', months, 1),
    };
  },
});

/** What open ground throws back: nothing stands in its way. */
function openGround(open: OpenDirections, { reflectedByMonth }: RadiationSamples, at: WeighedAt): ThrownBack {
  const seen = Float64Array.from({ length: open.sensors }, (_, s) => offOpenGround(at, open.from + s));
  return {
    ground: Array.from(reflectedByMonth, (sum) => seen.map((one) => one * sum)),
    standing: Array.from(reflectedByMonth, () => new Float64Array(open.sensors)),
  };
}

/** Puts the sky of sensors that see little of it anew, month by month, by more directions. */
function takeMore(
  more: TraceMore,
  open: OpenDirections,
  samples: RadiationSamples,
  at: WeighedAt,
  skyByMonth: readonly Float64Array[],
): void {
  const { suns, count, parts } = samples;
  const { luminance } = skySpiral(parts);
  const range = { from: suns, to: count };
  const [sum, squares] = openSums(
    open,
    count,
    at,
    [range, range],
    (sensor, [first, second]) => {
      weightsBefore(samples, at, sensor, first!, (d, cosine) =>
        d < suns ? 0 : cosine / luminance[d - suns]!,
      );
      first!.forEach((weight, d) => (second![d] = weight * weight));
    },
    undefined,
    { of: samples, sums: 'equal' },
  );
  const wanted = FINER.map((): number[] => []);
  for (let s = 0; s < open.sensors; s++) {
    if (!(sum![s]! > 0)) continue;
    const equal = (sum![s]! * sum![s]!) / squares![s]!;
    const up = Math.max(0, at.normals[(open.from + s) * 3 + 2]!);
    if (equal >= ENOUGH.wall + ENOUGH.up * up) continue;
    wanted[FINER.findIndex(({ below }) => equal < below)]!.push(s);
  }
  FINER.forEach(({ parts: finer }, level) => {
    if (wanted[level]!.length > 0) putSky(more, wanted[level]!, finerSky(samples, finer), skyByMonth);
  });
}

function putSky(
  more: TraceMore,
  wanted: readonly number[],
  directions: FinerSky,
  into: readonly Float64Array[],
): void {
  const { sensors, open, at } = more(wanted, directions);
  const { count, byMonth } = directions;
  const cosines = new Float64Array(count);
  const sums = openSums(
    open,
    count,
    at,
    into.map(() => ({ from: 0, to: count })),
    (sensor, weights) => {
      weightsBefore(directions, at, sensor, cosines, (_, cosine) => cosine);
      weights.forEach((own, m) => {
        for (let d = 0; d < count; d++) own[d] = byMonth[m * count + d]! * cosines[d]!;
      });
    },
    undefined,
    { of: directions, sums: 'months', enough: 150 },
  );
  sums.forEach((sum, m) => sensors.forEach((s, i) => (into[m]![s] = sum[i]!)));
}
