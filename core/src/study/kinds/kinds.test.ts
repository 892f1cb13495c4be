import fc from 'fast-check';
import { RAD } from '../../civil';
import { add, addMass } from '../../document';
import { type Point3 } from '../../geometry';
import {
  defaultMass,
  emptyProject,
  migrate,
  type Project,
  projectSchema,
  type Study,
  type Target,
} from '../../project';
import { resultFromBytes, resultToBytes } from '../result-bytes';
import { planStudy, runStudy } from '../run-study';
import { signature, signatureChanges } from '../signature';
import { sensorsCsv, summarize } from '../summary';
import { summaryJson } from '../summary-json';
import { STUDY_KINDS } from '.';

const NONE = new Map();
const rectangle = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

/** One point 0.01 m before an upright plane at y = 0 that faces south, at a height. */
const wallAt = (z: number): Target => ({
  id: 't',
  name: 'Wall',
  kind: 'plane',
  origin: [-0.05, 0, z - 0.05],
  u: [1, 0, 0],
  v: [0, 0, 1],
  outline: rectangle(0, 0, 0.1, 0.1),
  holes: [],
  spacingM: 0.1,
  offsetM: 0.01,
  of: null,
});
const ground: Target = {
  id: 't',
  name: 'Lawn',
  kind: 'ground',
  outline: rectangle(-0.5, -0.5, 0.5, 0.5),
  spacingM: 1,
  offsetM: 0.01,
};

function project(kind: Study['kind'], target: Target): Project {
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: ['t'],
    window: { from: '2026-06-21', to: '2026-06-21', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 5,
    criterion: { atLeast: 10, share: 0.5, source: '' },
    scale: null,
  };
  return add('studies', study)(add('targets', target)(emptyProject('P', 2026)));
}

/** A slab far longer than it is away, from y0 to y1. */
const slab = (y0: number, y1: number, heightM: number, baseM = 0) => ({
  ...defaultMass('b', 'Slab', rectangle(-20_000, y0, 20_000, y1), 1, heightM),
  base: { on: 'level' as const, levelM: baseM },
});

function values(p: Project): number[] {
  const plan = planStudy(p, 'a', p.studies[0]!, NONE);
  const found = runStudy(p, plan, NONE);
  return Array.from(found[STUDY_KINDS[p.studies[0]!.kind].measures[0].key]!);
}

test('open wall and open ground: 39.6 % and 100 % of the overcast sky, 50 % and 100 % of the view', () => {
  // 39.6 %: (3π + 8) / 14π.
  expect(values(project('vsc', wallAt(5)))[0]).toBeCloseTo((100 * (3 * Math.PI + 8)) / (14 * Math.PI), 1);
  expect(values(project('vsc', ground))[0]).toBeCloseTo(100, 1);
  expect(values(project('sky-view', wallAt(5)))[0]).toBeCloseTo(50, 1);
  expect(values(project('sky-view', ground))[0]).toBeCloseTo(100, 1);
});

/** Sky component of a wall before a long parallel obstruction of angle a: ∫ from a to 90° over both sides, closed form. */
function componentAbove(a: number): number {
  // ∫∫ (1 + 2 sin γ)/3 · cos γ cos α · cos γ dγ dα, the obstruction met at tan γ = tan a · cos α; numerically, finely.
  let sum = 0;
  const [n, m] = [600, 600];
  for (let i = 0; i < n; i++) {
    const alpha = ((i + 0.5) / n - 0.5) * Math.PI;
    const low = Math.atan(Math.tan(a) * Math.cos(alpha));
    for (let k = 0; k < m; k++) {
      const gamma = low + ((k + 0.5) / m) * (Math.PI / 2 - low);
      sum +=
        ((1 + 2 * Math.sin(gamma)) / 3) *
        Math.cos(gamma) ** 2 *
        Math.cos(alpha) *
        ((Math.PI / 2 - low) / m) *
        (Math.PI / n);
    }
  }
  return (100 * sum) / ((7 * Math.PI) / 9);
}

test.each([10, 25, 40, 60])(
  'a long block opposite at %d°: sky component and view as in closed form',
  (deg) => {
    const distance = 20;
    const height = 5 + distance * Math.tan(deg * RAD);
    const block = slab(-distance - 10, -distance, height);
    const vsc = values(addMass('a', block)(project('vsc', wallAt(5))))[0]!;
    expect(Math.abs(vsc - componentAbove(deg * RAD))).toBeLessThan(0.1);
    // View factor of an endless strip: (1 − sin a)/2 of the hemisphere before the wall.
    const view = values(addMass('a', block)(project('sky-view', wallAt(5))))[0]!;
    expect(Math.abs(view - 50 * (1 - Math.sin(deg * RAD)))).toBeLessThan(0.2);
  },
);

test.each([1, 2.5, 6])('a long overhang %d m deep, 2 m above the point: the sky below its edge', (depth) => {
  const overhang = slab(-depth, -0.05, 0.2, 7);
  const p = addMass('a', overhang)(project('sky-view', wallAt(5)));
  // Seen from 0.01 m before the wall, its edge stands at a with tan a = 2 / (depth − 0.01): sin a of half the sky is left.
  const a = Math.atan2(2, depth - 0.01);
  expect(Math.abs(values(p)[0]! - 50 * Math.sin(a))).toBeLessThan(0.2);
  const vsc = values(addMass('a', overhang)(project('vsc', wallAt(5))))[0]!;
  expect(Math.abs(vsc - (componentAbove(0) - componentAbove(a)))).toBeLessThan(0.1);
});

test('an endless street: the view of its middle is the sine of its half angle', () => {
  const street = [slab(5, 15, 8), { ...slab(-15, -5, 8), id: 'c' }].reduce(
    (p, block) => addMass('a', block)(p),
    project('sky-view', ground),
  );
  const a = Math.atan2(7.99, 5);
  expect(Math.abs(values(street)[0]! - 100 * Math.cos(a))).toBeLessThan(0.2);
});

test('time in shade and sun hours together are the time with sun above the horizon', () => {
  const block = { ...defaultMass('b', 'Block', rectangle(-6, -14, 8, -6), 3) };
  const [lawn, shade] = (['sun-hours', 'shadow-frequency'] as const).map((kind) =>
    addMass('a', block)(project(kind, { ...ground, outline: rectangle(-3, -4, 3, 4) })),
  ) as [Project, Project];
  const plan = planStudy(lawn, 'a', lawn.studies[0]!, NONE);
  const hours = runStudy(lawn, plan, NONE).hours!;
  const day =
    (plan.directions as unknown as { minutes: Float64Array }).minutes.reduce((a, b) => a + b, 0) / 60;
  const shaded = values(shade);
  expect(shaded.length).toBe(48);
  shaded.forEach((percent, i) => expect((percent / 100) * day + hours[i]!).toBeCloseTo(day, 4));
  expect(Math.max(...shaded)).toBeGreaterThan(Math.min(...shaded) + 5);
});

test('more obstructions never open sky; mirrored sites have mirrored values', () => {
  const box = fc.record({
    x: fc.integer({ min: -20, max: 15 }),
    y: fc.integer({ min: -30, max: -8 }),
    w: fc.integer({ min: 2, max: 12 }),
    h: fc.integer({ min: 2, max: 20 }),
  });
  const mass = (id: string, { x, y, w, h }: { x: number; y: number; w: number; h: number }, sign = 1) => {
    const [a, b] = sign > 0 ? [x, x + w] : [-x - w, -x];
    return { ...defaultMass(id, id, rectangle(a, y, b, y + 5), 1, h) };
  };
  fc.assert(
    fc.property(box, box, fc.constantFrom('vsc', 'sky-view'), (one, other, kind) => {
      const few = addMass('a', mass('m1', one))(project(kind, wallAt(2)));
      const more = addMass('a', mass('m2', other))(few);
      expect(values(more)[0]!).toBeLessThanOrEqual(values(few)[0]! + 1e-9);
      const mirrored = addMass('a', mass('m1', one, -1))(project(kind, wallAt(2)));
      expect(Math.abs(values(mirrored)[0]! - values(few)[0]!)).toBeLessThan(0.15);
    }),
    { numRuns: 15 },
  );
});

test.each(Object.values(STUDY_KINDS).filter(({ needsWeather }) => !needsWeather))(
  '$name: columns, bytes, summary and file follow from its measures',
  (kind) => {
    const p = project(kind.kind, ground);
    const plan = planStudy(p, 'a', p.studies[0]!, NONE);
    const found = runStudy(p, plan, NONE);
    expect(Object.keys(found)).toEqual(kind.measures.map(({ key }) => key));
    const [head, row] = sensorsCsv(kind.kind, plan.grid, found).split('\n');
    const headings = kind.measures.map(({ heading }) => (heading.includes(',') ? `"${heading}"` : heading));
    expect(head).toBe(['x,y,z,nx,ny,nz,area', ...headings].join(','));
    expect(row!.split(',')).toHaveLength(7 + kind.measures.length);
    const back = resultFromBytes(resultToBytes(plan, found));
    expect(back.values).toEqual(found);
    const summary = summarize(plan, found);
    expect(back.summary).toEqual(JSON.parse(JSON.stringify(summary)));
    expect(summary).toMatchObject({ kind: kind.kind, measure: { key: kind.measures[0].key } });
    expect(summaryJson(summary)).toMatchObject({ kind: kind.kind, values: summary.values });
    expect(projectSchema.parse(JSON.parse(JSON.stringify(p))).studies[0]!.kind).toBe(kind.kind);
    for (const { definition } of kind.measures) expect(definition.length).toBeGreaterThan(30);
  },
);

test('a study of the sky is not outdated by its window, one of the sun is; another kind outdates both', () => {
  for (const [kind, isOutdated] of [
    ['vsc', false],
    ['shadow-frequency', true],
  ] as const) {
    const p = project(kind, ground);
    const [study] = p.studies;
    const before = signature(p, 'a', study!);
    const later = { ...study!, window: { ...study!.window, endMinutes: 600 } };
    expect(signatureChanges(before, signature(p, 'a', later)).length > 0).toBe(isOutdated);
    expect(
      signatureChanges(before, signature(p, 'a', { ...study!, kind: 'sky-view' })).length,
    ).toBeGreaterThan(0);
  }
});

test('studies of version 4 keep their thresholds and scales', () => {
  const { criterion, scale: _, ...rest } = project('sun-hours', ground).studies[0]!;
  const { atLeast, ...others } = criterion;
  const old = {
    ...emptyProject('Old', 2026),
    version: 4,
    studies: [
      { ...rest, targets: [], criterion: { ...others, atLeastH: atLeast }, scale: { minH: 1, maxH: 9 } },
    ],
  };
  const [study] = projectSchema.parse(migrate(old)).studies;
  expect(study!.criterion.atLeast).toBe(10);
  expect(study!.scale).toEqual({ min: 1, max: 9 });
});

test('results of sun hours that were stored before there were other kinds are read', () => {
  const p = project('sun-hours', ground);
  const plan = planStudy(p, 'a', p.studies[0]!, NONE);
  const found = runStudy(p, plan, NONE);
  const bytes = resultToBytes(plan, found);
  const view = new DataView(bytes.buffer);
  const headBytes = view.getUint32(4, true);
  const head = JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + headBytes)));
  const { measure: _, values: all, directions, criterion, targets, ...rest } = head.summary;
  head.summary = {
    ...rest,
    sunPositions: directions,
    hours: all,
    criterion: { ...criterion, atLeastH: criterion.atLeast, atLeast: undefined },
    targets: targets.map((target: { mean: number }) => ({ ...target, meanH: target.mean, mean: undefined })),
  };
  const text = JSON.stringify(head).padEnd(Math.ceil(JSON.stringify(head).length / 8) * 8);
  const old = new Uint8Array(8 + text.length + bytes.length - 8 - headBytes);
  old.set(bytes.subarray(0, 4));
  new DataView(old.buffer).setUint32(4, text.length, true);
  old.set(new TextEncoder().encode(text), 8);
  old.set(bytes.subarray(8 + headBytes), 8 + text.length);
  const back = resultFromBytes(old);
  expect(back.summary).toMatchObject({
    measure: { key: 'hours' },
    values: all,
    criterion: { atLeast: criterion.atLeast },
  });
  expect(back.values.hours).toEqual(found.hours);
});

test('a point looks along the normal that its target has', () => {
  const point: Point3 = [0, -0.01, 5];
  const p = project('vsc', wallAt(5));
  const { grid } = planStudy(p, 'a', p.studies[0]!, NONE);
  point.forEach((v, k) => expect(grid.positions[k]).toBeCloseTo(v, 9));
  expect(Array.from(grid.normals)).toEqual([0, -1, 0].map((v) => v + 0));
});
