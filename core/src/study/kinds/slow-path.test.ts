import fc from 'fast-check';
import { RAD } from '../../civil';
import { add, addMass } from '../../document';
import {
  defaultMass,
  emptyProject,
  type Project,
  type Study,
  type Target,
  type WindowOfTime,
} from '../../project';
import { hourSky, skyVault } from '../../sky';
import { SunTrack } from '../../sun';
import { climateAt, makeUpYear, sunOfHours } from '../../weather';
import { planStudy, runStudy } from '../run-study';
import { hourStamp } from './kind';

// A second way to every figure: plain loops over boxes, without triangles, tree, masks or the directions of the program.

const NONE = new Map();
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const HOURS = sunOfHours(WEATHER, PLACE, 1, 2026).hours;
const WINDOW: WindowOfTime = { from: '2026-04-10', to: '2026-04-12', startMinutes: 0, endMinutes: 1440 };

interface Box {
  x: number;
  y: number;
  w: number;
  d: number;
  h: number;
}
type Vector = [number, number, number];
const AT: Vector = [0, -0.01, 3];

/** Whether a ray from AT misses level ground and every box: slabs, one after the other. */
function isClear(boxes: readonly Box[], [dx, dy, dz]: Vector): boolean {
  if (dz < 0) return false;
  return !boxes.some(({ x, y, w, d, h }) => {
    let [enter, leave] = [0, Infinity];
    for (const [o, v, low, high] of [
      [AT[0], dx, x, x + w],
      [AT[1], dy, y, y + d],
      [AT[2], dz, 0, h],
    ] as const) {
      if (Math.abs(v) < 1e-12) {
        if (o < low || o > high) return false;
        continue;
      }
      const [a, b] = [(low - o) / v, (high - o) / v];
      enter = Math.max(enter, Math.min(a, b));
      leave = Math.min(leave, Math.max(a, b));
    }
    return enter < leave;
  });
}

/** From a sun above the horizon, in a frame whose y is true north. */
function towards(altitudeDeg: number, azimuthDeg: number): Vector {
  const [h, a] = [altitudeDeg * RAD, azimuthDeg * RAD];
  return [Math.sin(a) * Math.cos(h), Math.cos(a) * Math.cos(h), Math.sin(h)];
}

/** One point on an upright plane that faces south. */
const WALL: Target = {
  id: 't',
  name: 'Wall',
  kind: 'plane',
  origin: [-0.05, 0, 2.95],
  u: [1, 0, 0],
  v: [0, 0, 1],
  outline: [
    [0, 0],
    [0.1, 0],
    [0.1, 0.1],
    [0, 0.1],
  ],
  holes: [],
  spacingM: 0.1,
  offsetM: 0.01,
  of: null,
};

function scene(boxes: readonly Box[], kind: Study['kind'], asked: Partial<Study>): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/GMT-1' };
  made.site.thrownBack = 'open';
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: ['t'],
    window: WINDOW,
    stepMinutes: 15,
    criterion: { atLeast: 3, share: 0.5, source: '' },
    scale: null,
    ...asked,
  };
  return boxes.reduce(
    (p, { x, y, w, d, h }, i) =>
      addMass(
        'a',
        defaultMass(
          `b${i}`,
          `B${i}`,
          [
            [x, y],
            [x + w, y],
            [x + w, y + d],
            [x, y + d],
          ],
          1,
          h,
        ),
      )(p),
    add('studies', study)(add('targets', WALL)(made)),
  );
}

/** What the program finds at the point. */
function found(
  boxes: readonly Box[],
  kind: Study['kind'],
  asked: Partial<Study> = {},
): Record<string, number> {
  const p = scene(boxes, kind, asked);
  const values = runStudy(p, planStudy(p, 'a', p.studies[0]!, NONE, WEATHER), NONE);
  return Object.fromEntries(Object.entries(values).map(([key, all]) => [key, all[0]!]));
}

/** Suns at the middle of every quarter of an hour of some days, and whether the point has them. */
function quarters(boxes: readonly Box[], days: number) {
  const track = new SunTrack(PLACE);
  const start = Date.parse('2026-04-10T00:00:00+01:00');
  const suns: boolean[] = [];
  for (let i = 0; i < days * 96; i++) {
    const { altitudeDeg, azimuthDeg } = track.at(start + (i + 0.5) * 900_000);
    const ray = towards(altitudeDeg, azimuthDeg);
    if (altitudeDeg > 0) suns.push(ray[1] < 0 && isClear(boxes, ray));
  }
  return suns;
}

/** Integral of a weight × cosine over the open sky before the wall, by a fine grid of equal angles. */
function overSky(boxes: readonly Box[], luminance: (sine: number) => number): number {
  let sum = 0;
  // Fine enough that upright edges, which a ray meets or misses all the way up, do not add up.
  const [n, m] = [1440, 120];
  for (let i = 0; i < m; i++) {
    const altitude = ((i + 0.5) / m) * 90;
    for (let k = 0; k < n; k++) {
      const ray = towards(altitude, ((k + 0.5) / n) * 360);
      if (ray[1] >= 0 || !isClear(boxes, ray)) continue;
      const solid = Math.cos(altitude * RAD) * (Math.PI / 2 / m) * ((2 * Math.PI) / n);
      sum += luminance(ray[2]) * -ray[1] * solid;
    }
  }
  return sum;
}

const boxes = fc.array(
  fc.record({
    x: fc.integer({ min: -25, max: 20 }),
    y: fc.integer({ min: -40, max: -8 }),
    w: fc.integer({ min: 2, max: 14 }),
    d: fc.integer({ min: 1, max: 6 }),
    h: fc.integer({ min: 2, max: 25 }),
  }),
  { minLength: 1, maxLength: 5 },
);
const RUNS = { numRuns: 3, endOnFailure: true };

test('sun hours, shade, sun on ground, exposure', () => {
  fc.assert(
    fc.property(boxes, (some) => {
      const all = quarters(some, 3);
      const lit = all.filter(Boolean).length;
      expect(found(some, 'sun-hours').hours).toBeCloseTo(lit / 4, 4);
      expect(found(some, 'shadow-frequency').shaded).toBeCloseTo(100 * (1 - lit / all.length), 3);
      const day = quarters(some, 1).filter(Boolean).length / 4;
      expect(found(some, 'sun-on-ground')).toEqual({ hours: day, enough: day >= 3 ? 100 : 0 });
      expect(found(some, 'room-exposure').hours).toBeCloseTo(day, 4);
    }),
    RUNS,
  );
});

test('sky component and sky view', () => {
  fc.assert(
    fc.property(boxes, (some) => {
      const light = overSky(some, (sine) => (1 + 2 * sine) / 3);
      // Light of the overcast sky on the open level: 7π/9 of the zenith.
      expect(Math.abs(found(some, 'vsc').vsc! - (100 * light) / ((7 * Math.PI) / 9))).toBeLessThan(0.15);
      expect(Math.abs(found(some, 'sky-view').view! - (100 * overSky(some, () => 1)) / Math.PI)).toBeLessThan(
        0.25,
      );
    }),
    {
      ...RUNS,
      // Three tall boxes near by, their edges where few rays lie.
      examples: [
        [
          [
            { x: -3, y: -8, w: 2, d: 4, h: 25 },
            { x: 2, y: -8, w: 7, d: 3, h: 18 },
            { x: 7, y: -20, w: 14, d: 5, h: 22 },
          ],
        ],
      ],
    },
  );
});

test('insolation and probable sunlight', () => {
  const vault = skyVault(4);
  fc.assert(
    fc.property(boxes, (some) => {
      let [beam, sky, ground, most, when] = [0, 0, 0, 0, ''];
      const [shining, reaching] = [
        [0, 0],
        [0, 0],
      ] as [number[], number[]];
      for (const hour of HOURS) {
        const [month, day] = [WEATHER.month[hour.record]!, WEATHER.day[hour.record]!];
        const ray = hour.sun && towards(hour.sun.altitudeDeg, hour.sun.azimuthDeg);
        const isLit = ray !== null && ray[1] < 0 && isClear(some, ray);
        if (ray && hour.beamNormal >= 120) {
          const md = month * 100 + day;
          const half = md >= 921 || md < 321 ? 1 : 0;
          shining[half]!++;
          if (isLit) reaching[half]!++;
        }
        if (month !== 4 || day < 10 || day > 12) continue;
        let whole = (0.2 * hour.globalHorizontal) / 2 + (isLit ? hour.beamNormal * -ray[1] : 0);
        ground += (0.2 * hour.globalHorizontal) / 2;
        if (isLit) beam += hour.beamNormal * -ray[1];
        const patches = hourSky(vault, hour, new Float64Array(vault.count));
        for (let p = 0; p < vault.count; p++) {
          const to: Vector = towards(vault.altitudeDeg[p]!, vault.azimuthDeg[p]!);
          if (to[1] >= 0 || !isClear(some, to)) continue;
          sky += patches[p]! * -to[1];
          whole += patches[p]! * -to[1];
        }
        const begins = new Date(hour.startMs + 3_600_000).toISOString().slice(5, 16).replace('T', ' ');
        if (whole > most) [most, when] = [whole, begins];
      }
      const { insolation, ...parts } = found(some, 'insolation', { peakHour: true });
      // The vault's patches are three degrees wide: the strips of them that boxes cut are what the sums differ by.
      expect(Math.abs(parts.peak! / most - 1)).toBeLessThan(0.01);
      expect(hourStamp(parts.peakAt!)).toBe(when);
      expect(parts.beam).toBeCloseTo(beam / 1000, 3);
      expect(Math.abs(parts.sky! / (sky / 1000) - 1)).toBeLessThan(0.02);
      expect(parts.ground).toBeCloseTo(ground / 1000, 3);
      expect(insolation).toBeCloseTo(parts.beam! + parts.sky! + parts.ground!, 3);
      expect(parts.mean).toBeCloseTo(insolation! / 3, 3);
      expect(parts.m04).toBeCloseTo(insolation!, 3);
      expect(parts.m05).toBe(0);
      const { year, winter } = found(some, 'probable-sun');
      const whole = shining[0]! + shining[1]!;
      expect(year).toBeCloseTo((100 * (reaching[0]! + reaching[1]!)) / whole, 3);
      expect(winter).toBeCloseTo((100 * reaching[1]!) / whole, 3);
    }),
    { ...RUNS, numRuns: 2 },
  );
});

test('with several suns an hour, each stands for its part of the time in which the sun is up', () => {
  const track = new SunTrack(PLACE);
  const isUp = (at: number) => track.at(at).altitudeDeg > 0;
  fc.assert(
    fc.property(boxes, fc.integer({ min: 2, max: 6 }), (some, count) => {
      let beam = 0;
      let [shining, reaching] = [0, 0];
      for (const hour of HOURS) {
        if (!hour.sun) continue;
        // The edges of the time with sun, by steps of ten seconds.
        let [from, to] = [hour.startMs, hour.startMs + 3_600_000];
        while (!isUp(from)) from += 10_000;
        while (!isUp(to)) to -= 10_000;
        let seen = 0;
        let lit = 0;
        for (let i = 0; i < count; i++) {
          const { altitudeDeg, azimuthDeg } = track.at(from + ((i + 0.5) / count) * (to - from));
          const ray = towards(altitudeDeg, azimuthDeg);
          if (ray[1] >= 0 || !isClear(some, ray)) continue;
          seen += -ray[1] / count;
          lit += 1 / count;
        }
        const [month, day] = [WEATHER.month[hour.record]!, WEATHER.day[hour.record]!];
        if (month === 4 && day >= 10 && day <= 12) beam += hour.beamNormal * seen;
        if (hour.beamNormal < 120) continue;
        shining++;
        reaching += lit;
      }
      const asked = { sunsPerHour: count };
      expect(found(some, 'insolation', asked).beam).toBeCloseTo(beam / 1000, 2);
      expect(found(some, 'probable-sun', asked).year).toBeCloseTo((100 * reaching) / shining, 1);
    }),
    { ...RUNS, numRuns: 2 },
  );
});
