import { kelpLane } from '@dial-shade/samples';
import { contentHash } from '../content-hash';
import { add, addMass, change, editNorth, editPlace, moveOwner } from '../document';
import { InputError } from '../errors';
import { signedArea } from '../geometry';
import {
  defaultMass,
  emptyProject,
  type Project,
  type Study,
  type Target,
  type WindowOfTime,
} from '../project';
import { sunDay } from '../sun';
import { resultFromBytes, resultToBytes } from './result-bytes';
import { freeSensors, layGrid } from './sensor-grid';
import { signature, signatureChanges } from './signature';
import { sensorsCsv, shareAtLeast, summarize, worstPlaces } from './summary';
import { batches, planStudy, requireStudy, runStudy } from './run-study';
import { sunSamples } from './sun-samples';

const DAY: WindowOfTime = { from: '2026-03-21', to: '2026-03-21', startMinutes: 0, endMinutes: 1440 };
const NONE = new Map();

function project(outline: [number, number][], window: Partial<WindowOfTime> = {}, stepMinutes = 5): Project {
  const target: Target = { id: 'lawn', name: 'Lawn', kind: 'ground', outline, spacingM: 1, offsetM: 0.1 };
  const study: Study = {
    id: 's',
    name: 'Sun',
    kind: 'sun-hours',
    targets: ['lawn'],
    window: { ...DAY, ...window },
    stepMinutes,
    criterion: { atLeast: 2, share: 0.5, source: 'test' },
    scale: null,
  };
  return add('studies', study)(add('targets', target)(emptyProject('Test', 2026)));
}

const LAWN: [number, number][] = [
  [0, 0],
  [4, 0],
  [4, 3],
  [0, 3],
];

function run(p: Project, option = 'a') {
  const plan = planStudy(p, option, p.studies[0]!, new Map());
  return { plan, values: runStudy(p, plan, NONE) };
}

test('open ground has the sun as long as it is above the horizon, within one step', () => {
  for (const stepMinutes of [1, 7, 20, 60]) {
    const p = project(LAWN, {}, stepMinutes);
    const { values } = run(p);
    const day = sunDay('2026-03-21', p.site.place, 'Europe/London');
    // The sun's centre is up for less than the day length, which counts the upper limb with refraction: at 51.48° N on
    // the equinox it sinks 0.833° in 0.833 / (15 · cos φ) hours at each end.
    const centre = day.dayLengthHours - (2 * 0.833) / (15 * Math.cos((51.48 * Math.PI) / 180));
    expect(Math.abs(values.hours![0]! - centre)).toBeLessThan(stepMinutes / 60);
    expect(values.longest![0]).toBeCloseTo(values.hours![0]!, 5);
    expect(Math.abs(values.first![0]! - (6 * 60 + 5))).toBeLessThan(stepMinutes + 6);
  }
});

test('a long wall to the south takes the sun below its angle: closed form from altitude and azimuth', () => {
  const p = addMass(
    'a',
    defaultMass(
      'w',
      'Wall',
      [
        [-5000, -11],
        [5000, -11],
        [5000, -10],
        [-5000, -10],
      ],
      1,
      8,
    ),
  )(
    project(
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
      {},
      1,
    ),
  );
  const { plan, values } = run(p);
  const [, y, z] = plan.grid.positions;
  // Below the wall where tan(altitude) < (8 − z)/(y + 10) · cos(angle between sun and the wall's normal).
  let minutes = 0;
  for (let i = 0; i < plan.directions.count; i++) {
    const [vx, vy, vz] = plan.directions.vectors.subarray(i * 3, i * 3 + 3) as unknown as [
      number,
      number,
      number,
    ];
    const southward = -vy;
    const rise = southward > 0 ? vz / southward : Infinity;
    if (rise > (8 - z!) / (y! + 10)) minutes += 1;
    expect(Math.abs(vx * vx + vy * vy + vz * vz - 1)).toBeLessThan(1e-12);
  }
  expect(values.hours![0]).toBeCloseTo(minutes / 60, 4);
  expect(minutes).toBeGreaterThan(30);
});

test('turning site and true north together changes nothing', () => {
  const turn = (ring: [number, number][], deg: number) =>
    ring.map(([x, y]): [number, number] => {
      const a = (-deg * Math.PI) / 180;
      return [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
    });
  const block: [number, number][] = [
    [-3, -9],
    [6, -9],
    [6, -5],
    [-3, -5],
  ];
  const cell: [number, number][] = [
    [0, 0],
    [0.5, 0],
    [0.5, 0.5],
    [0, 0.5],
  ];
  const hours = (deg: number) => {
    const p = addMass('a', defaultMass('b', 'Block', turn(block, deg), 3))(project(turn(cell, deg), {}, 2));
    const small = change('targets', 'lawn', { spacingM: 2 })(p);
    return run(editNorth({ trueNorthDeg: deg })(small)).values.hours![0]!;
  };
  const straight = hours(0);
  expect(straight).toBeGreaterThan(1);
  for (const deg of [90, 180, 37]) expect(hours(deg)).toBeCloseTo(straight, 1);
});

test('adding a mass never adds sun, and halving the step converges', () => {
  const open = project(LAWN);
  const built = addMass(
    'a',
    defaultMass(
      'b',
      'Block',
      [
        [-3, -9],
        [6, -9],
        [6, -5],
        [-3, -5],
      ],
      3,
    ),
  )(open);
  const before = run(open).values.hours!;
  const after = run(built).values.hours!;
  after.forEach((h, i) => expect(h).toBeLessThanOrEqual(before[i]!));
  expect(Array.from(after).some((h, i) => h < before[i]! - 0.5)).toBe(true);
  const at = (step: number) => run(change('studies', 's', { stepMinutes: step })(built)).values.hours![0]!;
  expect(Math.abs(at(2) - at(1))).toBeLessThan(2 / 60 + 1e-6);
});

test('the same place mirrored to the southern hemisphere half a year later has the same hours, wall mirrored too', () => {
  const wall = (y0: number) =>
    defaultMass(
      'w',
      'Wall',
      [
        [-30, y0],
        [30, y0],
        [30, y0 + 1],
        [-30, y0 + 1],
      ],
      1,
      9,
    );
  const at = (latitudeDeg: number, date: string, y: number) => {
    const p = addMass(
      'a',
      wall(y),
    )(
      project(
        [
          [-0.5, -0.5],
          [0.5, -0.5],
          [0.5, 0.5],
          [-0.5, 0.5],
        ],
        { from: date, to: date },
      ),
    );
    return run(editPlace({ latitudeDeg, zone: 'Etc/UTC' })(p)).values.hours![0]!;
  };
  // Declination is +23.4° on 21 June and −23.4° on 21 December.
  expect(at(40, '2026-06-21', -12)).toBeCloseTo(at(-40, '2026-12-21', 11), 0);
  expect(at(40, '2026-12-21', -12)).toBeLessThan(at(40, '2026-06-21', -12));
});

test('on the days of a clock change the window is 23 and 25 hours long', () => {
  const samples = (date: string) => {
    const { site } = emptyProject('E', 2026);
    const noNight = { ...site, place: { ...site.place, latitudeDeg: 80 } };
    return sunSamples(noNight, [{ ...DAY, from: date, to: date }], 30).step.at(-1);
  };
  const steps = (date: string) => {
    const p = project(LAWN, { from: date, to: date });
    return sunSamples(p.site, [{ ...DAY, from: date, to: date }], 30);
  };
  expect(samples('2026-06-21')! - 1).toBe(48);
  expect(steps('2026-03-29').step.length).toBeGreaterThan(20);
  const hours = (date: string) => {
    const p = project(LAWN, { from: date, to: date });
    const south = { ...p.site, place: { ...p.site.place, latitudeDeg: -89, zone: 'Europe/London' } };
    const s = sunSamples(south, [{ ...DAY, from: date, to: date }], 30);
    return s.minutes.reduce((sum, m) => sum + m, 0) / 60;
  };
  // Near the South Pole the sun is up all day on 25 October 2026, the day of 25 hours in London.
  expect(hours('2026-10-25')).toBe(25);
  expect(hours('2026-10-26')).toBe(24);
});

test('polar night gives 0 h and says why', () => {
  const p = editPlace({ latitudeDeg: 75 })(project(LAWN, { from: '2026-12-21', to: '2026-12-21' }));
  const { plan, values } = run(p);
  expect(Array.from(values.hours!)).toEqual(new Array(12).fill(0));
  expect(plan.notes[0]).toMatch('The sun is below the horizon throughout');
  expect(summarize(plan, values).criterion).toMatchObject({ share: 0, met: false });
});

test('cells share out the target, also on a slope, and built-over ones are left out', () => {
  const slope = { kind: 'plane', levelM: 3, slopeDeg: 60, fallsTowardsDeg: 30 } as const;
  const outline: [number, number][] = [
    [0, 0],
    [7.3, 0.4],
    [5, 6.1],
    [2.5, 2],
    [0.3, 5],
  ];
  const target: Target = { id: 't', name: 'T', kind: 'ground', outline, spacingM: 0.7, offsetM: 0.1 };
  const grid = layGrid([target], slope, []);
  expect(grid.areas.reduce((a, b) => a + b, 0)).toBeCloseTo(
    Math.abs(signedArea(outline)) / Math.cos(Math.PI / 3),
    2,
  );
  const level = { kind: 'level', levelM: 0 } as const;
  const half = layGrid([{ ...target, outline: LAWN, spacingM: 1 }], level, [
    defaultMass(
      'm',
      'M',
      [
        [0, 0],
        [2, 0],
        [2, 3],
        [0, 3],
      ],
      1,
    ),
  ]);
  expect(freeSensors(half)).toBe(6);
  expect(half.builtOverM2).toEqual([6]);
  const above = {
    ...defaultMass(
      'm',
      'M',
      [
        [0, 0],
        [2, 0],
        [2, 3],
        [0, 3],
      ],
      1,
    ),
    base: { on: 'level' as const, levelM: 4 },
  };
  expect(freeSensors(layGrid([{ ...target, outline: LAWN, spacingM: 1 }], level, [above]))).toBe(12);
});

test('a grid too fine is refused with the spacing that fits', () => {
  const p = change('targets', 'lawn', {
    spacingM: 0.05,
    outline: [
      [0, 0],
      [300, 0],
      [300, 300],
      [0, 300],
    ],
  })(project(LAWN));
  let message = '';
  try {
    planStudy(p, 'a', p.studies[0]!, new Map());
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    message = (error as Error).message;
  }
  expect(message).toMatch(/would need .* rays; 200,000 points are allowed/);
  const spacing = Number(/A spacing of ([\d.]+) m fits/.exec(message)![1]);
  const fitting = change('targets', 'lawn', { spacingM: spacing })(p);
  expect(planStudy(fitting, 'a', fitting.studies[0]!, new Map()).rays).toBeLessThanOrEqual(400e6);
});

test('summary, table and worst places of the sample', () => {
  const p = kelpLane();
  const study = requireStudy(p, 'Courtyards on 21 March');
  const plan = planStudy(p, 'a', study, new Map());
  const values = runStudy(p, plan, NONE);
  const summary = summarize(plan, values);
  expect(summary.areaM2 + summary.builtOverM2).toBeCloseTo((37 * 7.8) / Math.cos((2.5 * Math.PI) / 180), 4);
  expect(summary.criterion.share).toBeCloseTo(shareAtLeast(values.hours!, plan.grid.areas, 2).share, 12);
  const rows = sensorsCsv(study.kind, plan.grid, values).trim().split('\n');
  expect(rows).toHaveLength(summary.sensors + 1);
  expect(rows[0]).toBe(
    'x,y,z,nx,ny,nz,area,sun hours (h),longest stretch (h),first sun (clock),last sun (clock)',
  );
  const total = rows
    .slice(1)
    .reduce((sum, row) => sum + Number(row.split(',')[6]) * Number(row.split(',')[7]), 0);
  expect(total / summary.areaM2).toBeCloseTo(summary.values.mean, 3);
  const worst = worstPlaces(study.kind, plan.grid.positions, values);
  expect(values.hours![worst[0]!]).toBeCloseTo(summary.values.min, 5);
  expect(requireStudy(p, 'garden-season').name).toBe('Garden, March to September');
  expect(() => requireStudy(p, 'x')).toThrow(
    'The study “x” does not exist; there are “Courtyards on 21 March”',
  );
});

test('a run goes in batches, coarse first, reports progress and can be stopped', () => {
  const p = kelpLane();
  const plan = planStudy(p, 'b', p.studies[0]!, new Map());
  expect(batches(plan, 5000).some(({ to }) => to === plan.grid.coarse)).toBe(true);
  expect(batches(plan, 5000).at(-1)!.to).toBe(plan.grid.count);
  const done: number[] = [];
  runStudy(p, plan, NONE, { progress: (sensors) => done.push(sensors) });
  expect(done.at(-1)).toBe(plan.grid.count);
  expect(() => runStudy(p, plan, NONE, { signal: { aborted: true } })).toThrow('Stopped on request.');
});

test('a result knows what it was computed from and what changed since', () => {
  const p = kelpLane();
  const study = p.studies[0]!;
  const then = signature(p, 'a', study);
  expect(signatureChanges(then, signature(structuredClone(p), 'a', study))).toEqual([]);
  const renamed = change('neighbours', 'chapel-tower', { name: 'Belfry' })(p);
  expect(signatureChanges(then, signature(renamed, 'a', study))).toEqual([]);
  const moved = moveOwner({ optionId: null, id: 'chapel-tower' }, 3, 0)(p);
  expect(signatureChanges(then, signature(moved, 'a', study))).toEqual([
    'The neighbour “Chapel tower” was changed.',
  ]);
  const otherOption = moveOwner({ optionId: 'b', id: 'ring' }, 3, 0)(p);
  expect(signatureChanges(then, signature(otherOption, 'a', study))).toEqual([]);
  expect(signatureChanges(then, signature(editNorth({ trueNorthDeg: 3 })(p), 'a', study))).toEqual([
    'True north was changed.',
  ]);
  // FIPS 180-2, appendix B.1: SHA-256 of “abc”.
  expect(contentHash(Uint8Array.of(97, 98, 99))).toBe(
    'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
  );
});

test('a result goes through its bytes unchanged, and broken bytes are refused', () => {
  const p = kelpLane();
  const plan = planStudy(p, 'c', { ...p.studies[0]!, name: 'Höfe – 21. März' }, new Map());
  const values = runStudy(p, plan, NONE);
  const bytes = resultToBytes(plan, values);
  const back = resultFromBytes(bytes);
  expect(back.summary).toEqual(summarize(plan, values));
  expect(back.values).toEqual(values);
  expect(back.grid.positions).toEqual(plan.grid.positions);
  expect(back.grid.cells).toEqual(plan.grid.cells);
  expect(() => resultFromBytes(bytes.slice(0, -16))).toThrow('cut off');
  expect(() => resultFromBytes(new Uint8Array(20))).toThrow('not a result');
});
