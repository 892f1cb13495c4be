import { onOpenGround } from '../../testing/blocks';
import { kelpLane } from '@dial-shade/samples';
import { standScheme } from '../document';
import { assembleScene } from '../scene';
import { MemoryMasks, sceneLayers, sceneObstacles, firstObstruction } from '../trace';
import { climateAt, makeUpYear } from '../weather';
import type { Project } from '../project';
import { planStudy, requireStudy, runStudy, StudyTracer } from '.';

const NONE = new Map();
const MB = 1024 ** 2;

/** Runs a study of the sample and tells how many rays were traced for it. */
function run(
  project: Project,
  option: string,
  studyId: string,
  masks: MemoryMasks,
  weather = null as Parameters<typeof planStudy>[4],
) {
  const plan = planStudy(project, option, requireStudy(project, studyId), NONE, weather);
  const tracer = new StudyTracer(plan, sceneLayers(assembleScene(project, option, NONE)), masks);
  return { plan, values: tracer.trace(0, plan.grid.count), traced: tracer.traced };
}

const coarse = (project: Project): Project => ({
  ...project,
  targets: project.targets.map((target) => ({ ...target, spacingM: Math.max(2.5, target.spacingM) })),
});
const base = coarse(kelpLane());
const withStudy = (id: string, fields: object): Project => ({
  ...base,
  studies: base.studies.map((study) => (study.id === id ? { ...study, ...fields } : study)),
});

test('weighed again, nothing is traced, and the values are those of a run that keeps nothing', () => {
  const masks = new MemoryMasks(200 * MB);
  for (const id of ['courtyards-march', 'windows-sky', 'walls-year']) {
    const first = run(base, 'a', id, masks);
    expect(first.traced).toBeGreaterThan(0);
    const again = run(base, 'a', id, masks);
    expect(again.traced).toBe(0);
    expect(again.values).toEqual(first.values);
    const plan = planStudy(base, 'a', requireStudy(base, id), NONE);
    expect(again.values).toEqual(runStudy(base, plan, NONE));
  }
});

test('another period, other weather, another threshold, another component: nothing is traced', () => {
  const masks = new MemoryMasks(200 * MB);
  run(base, 'a', 'walls-year', masks);
  const summer = withStudy('walls-year', {
    window: { from: '2026-06-01', to: '2026-08-31', startMinutes: 480, endMinutes: 1080 },
  });
  const found = run(summer, 'a', 'walls-year', masks);
  expect(found.traced).toBe(0);
  const fresh = run(summer, 'a', 'walls-year', new MemoryMasks(200 * MB));
  expect(found.values).toEqual(fresh.values);
  const { place } = base.site;
  const other = makeUpYear({ ...place, standardTimeH: 0 }, climateAt(40), 99, 2026);
  expect(run(base, 'a', 'walls-year', masks, other).traced).toBe(0);
  run(base, 'a', 'yards-enough', masks);
  const more = withStudy('yards-enough', { criterion: { atLeast: 3, share: 0.5, source: '' } });
  expect(run(more, 'a', 'yards-enough', masks).traced).toBe(0);
  // The same sky serves the component and the view.
  run(base, 'a', 'windows-sky', masks);
  expect(run(withStudy('windows-sky', { kind: 'sky-view' }), 'a', 'windows-sky', masks).traced).toBe(0);
});

test('suns of another window are taken from those that are known; only what none of them had is traced', () => {
  const masks = new MemoryMasks(200 * MB);
  const window = { from: '2026-03-01', to: '2026-04-30', startMinutes: 480, endMinutes: 1080 };
  const of = (fields: Partial<typeof window>) =>
    withStudy('courtyards-march', { window: { ...window, ...fields } });
  const fresh = (project: Project, id = 'courtyards-march') =>
    run(project, 'a', id, new MemoryMasks(200 * MB)).values;
  const wide = run(of({}), 'a', 'courtyards-march', masks);
  // Fewer days, fewer hours, both, and another kind of the same suns.
  for (const fields of [
    { from: '2026-03-20', to: '2026-04-10' },
    { startMinutes: 600, endMinutes: 840 },
    { from: '2026-04-01', to: '2026-04-01', startMinutes: 540 },
  ]) {
    const part = run(of(fields), 'a', 'courtyards-march', masks);
    expect(part.traced).toBe(0);
    expect(part.values).toEqual(fresh(of(fields)));
  }
  const { targets } = base.studies.find(({ id }) => id === 'courtyards-march')!;
  const day = { ...window, from: '2026-04-02', to: '2026-04-02' };
  const enough = withStudy('yards-enough', { targets, window: day, stepMinutes: 10 });
  const known = run(enough, 'a', 'yards-enough', masks);
  expect(known.traced).toBe(0);
  expect(known.values).toEqual(fresh(enough, 'yards-enough'));
  // Two weeks more: only their suns are traced on the layers, and what all open rays meet of trees.
  const more = run(of({ to: '2026-05-14' }), 'a', 'courtyards-march', masks);
  const added = more.plan.directions.count - wide.plan.directions.count;
  const { count } = more.plan.grid;
  const layers = sceneLayers(assembleScene(base, 'a', NONE)).layers.length;
  expect(added).toBeGreaterThan(100);
  expect(more.traced).toBe(layers * count * added + count * more.plan.directions.count);
  expect(more.values).toEqual(fresh(of({ to: '2026-05-14' })));
  // Another step has other suns.
  const seven = run(
    withStudy('courtyards-march', { window, stepMinutes: 7 }),
    'a',
    'courtyards-march',
    masks,
  );
  expect(seven.traced).toBeGreaterThan(layers * count * seven.plan.directions.count * 0.8);
});

test('probable sun goes by the suns of insolation: neither it nor other weather traces anything', () => {
  const masks = new MemoryMasks(200 * MB);
  run(base, 'a', 'walls-year', masks);
  const project = withStudy('walls-year', { kind: 'probable-sun' });
  const probable = run(project, 'a', 'walls-year', masks);
  expect(probable.traced).toBe(0);
  expect(probable.values).toEqual(run(project, 'a', 'walls-year', new MemoryMasks(200 * MB)).values);
  const other = makeUpYear({ ...base.site.place, standardTimeH: 0 }, climateAt(60), 5, 2026);
  expect(run(project, 'a', 'walls-year', masks, other).traced).toBe(0);
});

test('what stands round about is traced once for all options; an option that comes back is not traced again', () => {
  const masks = new MemoryMasks(200 * MB);
  const bar = run(base, 'a', 'courtyards-march', masks);
  const court = run(base, 'b', 'courtyards-march', masks);
  const alone = run(base, 'b', 'courtyards-march', new MemoryMasks(200 * MB));
  expect(court.traced).toBeLessThan(alone.traced);
  expect(court.values).toEqual(alone.values);
  expect(run(base, 'a', 'courtyards-march', masks)).toEqual({ ...bar, traced: 0 });
});

test('another scheme of devices traces its own layer alone, and what comes back is known', () => {
  const masks = new MemoryMasks(200 * MB);
  // What is thrown back is traced from where it comes, which is elsewhere with devices.
  const open = onOpenGround(base);
  const none = run(open, 'a', 'walls-year', masks);
  const hung = standScheme('a', 'overhangs')(open);
  const first = run(hung, 'a', 'walls-year', masks);
  // One layer of all sensors and directions, what open rays meet of trees behind it, and all layers where the devices leave
  // so little of the sky that more of it is taken.
  const fresh = run(hung, 'a', 'walls-year', new MemoryMasks(200 * MB));
  expect(first.traced).toBeGreaterThan(0);
  expect(first.traced).toBeLessThan(fresh.traced * 0.85);
  expect(first.values).toEqual(fresh.values);
  const fewer = first.values.insolation!.filter((value, i) => value < none.values.insolation![i]! - 1e-3);
  expect(fewer.length).toBeGreaterThan(0);
  expect(first.values.insolation!.every((value, i) => !(value > none.values.insolation![i]! + 1e-3))).toBe(
    true,
  );
  expect(run(standScheme('a', null)(hung), 'a', 'walls-year', masks).traced).toBe(0);
});

test('layers together block what everything together blocks', () => {
  for (const option of ['today', 'a', 'c']) {
    const plan = planStudy(base, option, requireStudy(base, 'courtyards-march'), NONE);
    const scene = assembleScene(base, option, NONE);
    const open = new StudyTracer(plan, sceneLayers(scene)).open(0, plan.grid.count);
    const all = sceneObstacles(scene);
    const { positions: p } = plan.grid;
    const { vectors: v, count } = plan.directions;
    const words = open.mask.length / plan.grid.count;
    let differing = 0;
    for (let s = 0; s < plan.grid.count; s++)
      for (let d = 0; d < count; d++) {
        const isOpen = ((open.mask[s * words + (d >> 5)]! >>> (d & 31)) & 1) === 1;
        const at = [0, 1, 2].map((k) => p[s * 3 + k]!) as [number, number, number];
        const to = [0, 1, 2].map((k) => v[d * 3 + k]!) as [number, number, number];
        if (isOpen !== firstObstruction(all, ...at, ...to) < 0) differing++;
      }
    // Rays that graze an edge may fall either way.
    expect(differing).toBeLessThanOrEqual((plan.grid.count * count) / 10_000);
  }
});

test('masks that had to go are traced anew; what is too large is not kept', () => {
  const small = new MemoryMasks(1600);
  run(base, 'a', 'courtyards-march', small);
  run(base, 'a', 'courtyards-shade', small);
  const again = run(base, 'a', 'courtyards-march', small);
  expect(again.traced).toBeGreaterThan(0);
  expect(again.values).toEqual(run(base, 'a', 'courtyards-march', new MemoryMasks(200 * MB)).values);
  const of = { key: 'key', place: 'place', vectors: new Float64Array(3 * 320) };
  expect(new MemoryMasks(1000).mask(of, 100)).toBeNull();
});
