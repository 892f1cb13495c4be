import fc from 'fast-check';
import { emptyProject, type Study } from '../../project';
import { sunPosition, sunVector } from '../../sun';
import { climateAt, makeUpYear } from '../../weather';
import { maskWords } from '../../trace';
import type { SunSamples } from '../sun-samples';
import type { Directions, OpenDirections } from './kind';
import { dayOf } from './one-day';
import { probableSun } from './probable-sun';
import { sunHours } from './sun-hours';

const UP = {
  normals: Float64Array.of(0, 0, 1),
  target: Uint16Array.of(0),
  covered: null,
  targets: [],
} as never;

/** Suns of the year with what each stands for. */
type ProbableSuns = Directions & { share: Float64Array; isWinter: Uint8Array; hasSunshine: boolean };

/** What is open to one sensor: a share of each direction. */
function openTo(shares: readonly number[]): OpenDirections {
  const mask = new Uint32Array(maskWords(shares.length));
  shares.forEach((share, d) => {
    if (share > 0) mask[d >> 5]! |= 1 << (d & 31);
  });
  const partly = shares.flatMap((share, d) => (share > 0 && share < 1 ? [d] : []));
  return {
    ...{ sensors: 1, from: 0, mask },
    shares: [{ direction: Uint32Array.from(partly), share: Float32Array.from(partly, (d) => shares[d]!) }],
  };
}

describe('sun hours', () => {
  const sample = fc.record({
    share: fc.constantFrom(0, 0, 0.25, 0.5, 0.75, 1, 1, 1),
    minutes: fc.constantFrom(5, 10, 10, 7.5),
    gap: fc.constantFrom(1, 1, 1, 2, 9),
    // Over several days a later step may be earlier by the clock.
    clock: fc.integer({ min: 300, max: 1200 }),
  });

  test('are sums of minutes; the longest stretch, first and last sun are those that a diary of the day tells', () => {
    fc.assert(
      fc.property(fc.array(sample, { minLength: 1, maxLength: 70 }), (samples) => {
        let step = 0;
        const steps = samples.map(({ gap }) => (step += gap));
        const clock = samples.map((one) => one.clock);
        const suns = {
          ...{ count: samples.length, vectors: new Float64Array(samples.length * 3).fill(0.5) },
          minutes: Float64Array.from(samples, ({ minutes }) => minutes),
          step: Uint32Array.from(steps),
          clock: Float64Array.from(clock),
        } as unknown as SunSamples;
        const { hours, longest, first, last } = sunHours.weigh(
          openTo(samples.map(({ share }) => share)),
          suns,
          UP,
        );
        // The diary: by step, how long; what is less than half in sun is not written down.
        const diary = new Map(
          samples.flatMap(({ share, minutes }, i) => (share >= 0.5 ? [[steps[i]!, minutes] as const] : [])),
        );
        const stretches = [...diary.keys()].map((from) => {
          let [sum, at] = [0, from];
          for (let minutes = diary.get(at); minutes !== undefined; minutes = diary.get(++at)) sum += minutes;
          return sum;
        });
        const total = samples.reduce((sum, { share, minutes }) => sum + share * minutes, 0);
        expect(hours![0]).toBeCloseTo(total / 60, 5);
        expect(longest![0]).toBeCloseTo(Math.max(0, ...stretches) / 60, 5);
        const lit = samples.flatMap(({ share, minutes }, i) =>
          share >= 0.5 ? [{ at: clock[i]!, minutes }] : [],
        );
        if (lit.length === 0) {
          expect([first![0], last![0]]).toEqual([NaN, NaN]);
          return;
        }
        expect(first![0]).toBeCloseTo(Math.min(...lit.map(({ at, minutes }) => at - minutes / 2)), 3);
        expect(last![0]).toBeCloseTo(Math.max(...lit.map(({ at, minutes }) => at + minutes / 2)), 3);
      }),
    );
  });

  test('the weights of a sensor are the hours of the suns before it', () => {
    const suns = {
      ...{ count: 3, vectors: Float64Array.of(0, 0, 1, 0, 0.6, 0.8, 0, 0, -1) },
      minutes: Float64Array.of(30, 15, 60),
    } as unknown as SunSamples;
    const into = new Float64Array(3);
    expect(sunHours.weights!(suns, UP, 0, into)).toBe(0);
    expect([...into]).toEqual([0.5, 0.25, 0]);
  });
});

describe('probable sun', () => {
  const year = (latitudeDeg: number) => {
    const project = emptyProject('P', 2026);
    const place = { name: 'N', latitudeDeg, longitudeDeg: 8, standardTimeH: 1, elevationM: 100 };
    project.site.place = { ...project.site.place, latitudeDeg, longitudeDeg: 8, zone: 'Etc/GMT-1' };
    const weather = makeUpYear(place, climateAt(latitudeDeg), 3, 2026);
    return { project, weather };
  };
  const directions = (latitudeDeg: number, { sunsPerHour }: Pick<Study, 'sunsPerHour'> = {}) => {
    const { project, weather } = year(latitudeDeg);
    return probableSun.directions(project, { sunsPerHour } as unknown as Study, weather) as ProbableSuns;
  };

  test('the hours with sunshine make a hundred per cent together, with one sun an hour and with several', () => {
    for (const sunsPerHour of [undefined, 1, 4]) {
      const { share, count } = directions(47, { sunsPerHour });
      expect(share.reduce((sum, one) => sum + one, 0)).toBeCloseTo(100, 9);
      expect(share).toHaveLength(count);
    }
    // As many suns an hour more as are asked for, each for its part.
    expect(directions(47, { sunsPerHour: 4 }).count).toBeGreaterThan(3 * directions(47).count);
  });

  test('the winter half goes from one equinox to the day before the other, and changes sides on the equator', () => {
    const winter = (latitudeDeg: number, days: number[]) => {
      const { date, isWinter } = directions(latitudeDeg);
      return days.map((day) => {
        const of = new Set([...date!].flatMap((d, i) => (d === day ? [isWinter[i]!] : [])));
        expect(of.size).toBe(1);
        return [...of][0];
      });
    };
    expect(winter(47, [320, 321, 920, 921, 1221])).toEqual([1, 0, 0, 1, 1]);
    expect(winter(-33, [320, 321, 920, 921, 621])).toEqual([0, 1, 1, 0, 1]);
    expect(winter(0, [621])).toEqual([0]);
  });

  test('what reaches a point is the share of the suns that are open, in the year and in winter', () => {
    const suns = {
      ...{ count: 3, vectors: Float64Array.of(0, 0, 1, 0, 0.6, 0.8, 0, 0, -1), hasSunshine: true },
      ...{ share: Float64Array.of(50, 30, 20), isWinter: Uint8Array.of(1, 0, 1), notes: [] },
    };
    const { year: all, winter } = probableSun.weigh(openTo([1, 0.5, 0]), suns as never, UP);
    expect([all![0], winter![0]]).toEqual([65, 50]);
    const none = probableSun.weigh(openTo([1, 1, 1]), { ...suns, hasSunshine: false } as never, UP);
    expect([none.year![0], none.winter![0]]).toEqual([NaN, NaN]);
    const into = new Float64Array(3);
    expect(probableSun.weights!(suns as never, UP, 0, into)).toBe(0);
    expect([...into]).toEqual([50, 30, 0]);
  });

  test('its suns are those of the sky, in the order of months and hours of local standard time, with the beam of theirs', () => {
    const { project, weather } = year(47);
    const { vectors, moments, date } = directions(47);
    const of = new Map<string, number>();
    weather.month.forEach((month, record) =>
      of.set(`${month * 100 + weather.day[record]!}/${weather.hour[record]! - 1}`, record),
    );
    let before = -1;
    let seen = 0;
    date!.forEach((day, d) => {
      const minutes = moments!.minutes[d]!;
      const order = Math.floor(day / 100) * 24 + Math.floor(minutes / 60);
      expect(order).toBeGreaterThanOrEqual(before);
      before = order;
      if (d % 97 !== 0) return;
      seen++;
      const at = Date.UTC(2026, Math.floor(day / 100) - 1, day % 100, 0, 0) + (minutes - 60) * 60_000;
      const { altitudeDeg, azimuthDeg } = sunPosition(at, project.site.place);
      const [x, y, z] = sunVector(altitudeDeg, azimuthDeg, 0);
      const [vx, vy, vz] = vectors.subarray(d * 3, d * 3 + 3);
      expect(x * vx! + y * vy! + z * vz!).toBeGreaterThan(Math.cos(0.0005));
      const record = of.get(`${day}/${Math.floor(minutes / 60)}`)!;
      expect(moments!.beamWm2![d]).toBeCloseTo(weather.values.beam[record]!, 2);
    });
    expect(seen).toBeGreaterThan(30);
  });

  test('the sun shines from 120 W/m² on, and by day only', () => {
    const { project, weather } = year(47);
    const hourOf = (month: number, day: number, hour: number) =>
      weather.month.findIndex((m, i) => m === month && weather.day[i] === day && weather.hour[i] === hour);
    const given: [hour: number, beam: number][] = [
      [hourOf(6, 10, 12), 120],
      [hourOf(6, 11, 12), 119.9],
      [hourOf(6, 12, 1), 800],
    ];
    weather.values.beam.fill(0);
    for (const [hour, beam] of given) weather.values.beam[hour] = beam;
    const { share, date } = probableSun.directions(project, {} as Study, weather) as ProbableSuns;
    expect([...date!].flatMap((day, d) => (share[d]! > 0 ? [[day, share[d]]] : []))).toEqual([[610, 100]]);
  });

  test('a year without any sunshine says so', () => {
    const { project, weather } = year(47);
    for (const field of ['beam', 'global', 'diffuse'] as const) weather.values[field].fill(0);
    const dark = probableSun.directions(project, {} as Study, weather) as ProbableSuns;
    expect(dark.hasSunshine).toBe(false);
    expect(probableSun.notes!(directions(47)).join(' ')).not.toContain('nothing can be said');
    expect(directions(47).hasSunshine).toBe(true);
    expect(probableSun.notes!(dark).join(' ')).toContain(
      'In no hour of this weather year does the sun shine',
    );
    expect(dark.share.every((share) => share === 0)).toBe(true);
  });
});

test('a study of one day takes the first of its window, and says so where it has others', () => {
  const window = { from: '2026-03-01', to: '2026-03-01', start: 0, end: 1440 };
  const of = (more: object) => dayOf({ window, ...more } as unknown as Study);
  expect(of({})).toEqual({ window, notes: [] });
  const note = 'Only 2026-03-01, the first day of the window, counts.';
  expect(of({ window: { ...window, to: '2026-03-05' } })).toEqual({ window, notes: [note] });
  expect(of({ also: [window] })).toEqual({ window, notes: [note] });
});
