import { kelpLane } from '../../../samples/src/kelp-lane';
import { massFigures } from '../form';
import { centroid } from '../geometry';
import { emptyProject, type Project, TODAY } from '../project';
import { planStudy, requireStudy, runStudy, studyResult } from '../study';
import { MemoryMasks } from '../trace';
import { comparisonCsv, comparisonJson } from './comparison-files';
import { comparedMeasures, firstMeasures, massingValues, studyValues } from './measures';
import { type MassingNumber, massingGrid, massingOf, MassingSweep } from './massing-sweep';
import { betterOf, tradeOffFront } from './trade-off';

const NONE = new Map();

function box(storeys: number): Project {
  const project = emptyProject('P', 2026);
  project.options[1]!.masses = [
    {
      ...{ id: 'm', name: 'M', base: { on: 'ground', offsetM: 0 }, roof: { kind: 'flat', parapetM: 0 } },
      footprint: {
        outer: [
          [0, 0],
          [20, 0],
          [20, 10],
          [0, 10],
        ],
        holes: [],
      },
      storeys: Array.from({ length: storeys }, () => ({ heightM: 3 })),
      ...{ openings: [], partitions: [], rooms: [], furniture: [], demolished: false },
    },
  ];
  return project;
}

test('massing by hand: floors, height, facades by where they face', () => {
  const project = box(4);
  const of = massingValues(project, project.options[1]!.id, NONE);
  expect(Object.fromEntries(Object.entries(of).map(([key, { value }]) => [key, value]))).toMatchObject({
    ...{ floor: 800, footprint: 200, volume: 2400, height: 12, storeys: 4 },
    ...{ 'facade/south': 240, 'facade/west': 120, 'glazed/north': 0, compactness: 720 / 800 },
  });
  expect(massingValues(project, TODAY, NONE)).toEqual({});
});

test('figures of a study: share, mean and least are those of its summary, places are counted, what is lost against Today', () => {
  const project = kelpLane();
  const study = requireStudy(project, 'Sky light at the neighbours’ windows');
  const resultOf = (option: string) => {
    const plan = planStudy(project, option, study, NONE);
    return studyResult(plan, runStudy(project, plan, NONE));
  };
  const [today, proposal] = [resultOf(TODAY), resultOf('a')];
  const values = studyValues(project, study, proposal, today);
  const key = (of: string) => `study/${study.id}/${of}`;
  expect(values[key('share')]!.value).toBeCloseTo(proposal.summary.criterion.share * 100, 9);
  expect(values[key('mean')]!.value).toBe(proposal.summary.values.mean);
  expect(values[key('worst')]!.value).toBe(proposal.summary.values.min);
  const under = proposal.summary.targets.filter(
    ({ mean, sensors }) => sensors > 0 && mean < study.criterion.atLeast,
  );
  expect(values[key('failing')]!.value).toBe(under.length);
  expect(values[key('takes')]!.value).toBeGreaterThan(0);
  expect(values[key('takes')]!.passes).toBe(false);
  // A threshold that is moved is told by the values that are there.
  const easy = { ...study, criterion: { ...study.criterion, atLeast: 0, share: 0.5 } };
  expect(studyValues(project, easy, proposal, null)[key('share')]).toEqual({ value: 100, passes: true });
  expect(studyValues(project, easy, proposal, null)[key('failing')]!.value).toBe(0);
  // Today takes nothing from itself.
  expect(studyValues(project, study, today, today)[key('takes')]).toBeUndefined();
  expect(studyValues(project, study, today, resultOf(TODAY))[key('takes')]!.value).toBeLessThan(
    values[key('takes')]!.value,
  );
});

test('every key is there once, and what is offered first exists', () => {
  const project = kelpLane();
  const keys = comparedMeasures(project).map(({ key }) => key);
  expect(new Set(keys).size).toBe(keys.length);
  for (const key of firstMeasures(project)) expect(keys).toContain(key);
  expect(firstMeasures(emptyProject('P', 2026))).toEqual(['floor', 'height']);
});

test('the front: nothing on it is beaten, everything off it is', () => {
  const marks = [
    { id: 'a', x: 1, y: 5 },
    { id: 'b', x: 2, y: 4 },
    { id: 'c', x: 2, y: 3 },
    { id: 'd', x: 4, y: 1 },
    { id: 'e', x: 3, y: 0.5 },
  ];
  const ids = (x: 'more' | 'less', y: 'more' | 'less') =>
    tradeOffFront(marks, { better: x }, { better: y }).map(({ id }) => id);
  expect(ids('more', 'more')).toEqual(['a', 'b', 'd']);
  expect(ids('less', 'less')).toEqual(['a', 'c', 'e']);
  // What differs by the dust of a sum only does not save what is worse.
  const dusty = [...marks, { id: 'f', x: 4 + 4e-12, y: 0.9 }];
  const better = { better: 'more' as const };
  expect(tradeOffFront(dusty, better, better).map(({ id }) => id)).toEqual(['a', 'b', 'd']);
  expect(betterOf({ better: 'less' }, 1, 2)).toBe(true);
  expect(betterOf({ better: null }, 1, 2)).toBe(false);
});

test('the files: a line an option, figures under headings with their units', () => {
  const project = box(2);
  const measures = comparedMeasures(project);
  const options = project.options.map(({ id, letter, name }) => ({
    ...{ id, letter, name },
    values: massingValues(project, id, NONE),
  }));
  const [head, today, first] = comparisonCsv(measures, options)
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(','));
  expect(head!.slice(0, 3)).toEqual(['option', 'name', 'Floor area (m²)']);
  expect(today![2]).toBe('');
  expect(first![2]).toBe('400');
  const read = JSON.parse(comparisonJson(measures, options));
  expect(read.options[1].values.floor).toBe(400);
  expect(read.measures[0]).toEqual({ key: 'floor', of: '', name: 'Floor area', unit: 'm²', better: 'more' });
});

describe('massings that are tried', () => {
  const project = box(4);
  const id = project.options[1]!.id;
  const one = (number: MassingNumber, value: number) => massingOf(project, id, [number], [value])[0]!;

  test('every combination of values, whole storeys, and no more than can be looked at', () => {
    const grid = massingGrid([
      { number: { of: 'storeys', mass: 'm' }, from: 2, to: 5, steps: 4 },
      { number: { of: 'turn', mass: 'm' }, from: -10, to: 10, steps: 3 },
    ]);
    expect(grid).toHaveLength(12);
    expect(grid[0]).toEqual([2, -10]);
    expect(grid.at(-1)).toEqual([5, 10]);
    const many = { number: { of: 'turn' as const, mass: 'm' }, from: 0, to: 9, steps: 13 };
    expect(() => massingGrid([many, many, many])).toThrow(
      '2,197 massings; 2,000 are tried at most. 12 values',
    );
    expect(() => massingGrid([])).toThrow('one to 3 numbers');
  });

  test('what a number does, by hand: storeys, a turn, a wall pushed, storeys set back, moved along a bearing', () => {
    expect(massFigures(one({ of: 'storeys', mass: 'm' }, 6)).floorM2).toBeCloseTo(1200, 9);
    expect(massFigures(one({ of: 'turn', mass: 'm' }, 30)).footprintM2).toBeCloseTo(200, 9);
    expect(centroid(one({ of: 'turn', mass: 'm' }, 30).footprint.outer)).toEqual([
      expect.closeTo(10, 9),
      expect.closeTo(5, 9),
    ]);
    // The first edge runs along the south, 20 m long.
    expect(massFigures(one({ of: 'push', mass: 'm', edge: 0 }, 2)).footprintM2).toBeCloseTo(240, 9);
    // The upper two storeys are 18 by 8 m.
    expect(massFigures(one({ of: 'setback', mass: 'm', fromStorey: 2 }, 1)).floorM2).toBeCloseTo(
      400 + 2 * 144,
      9,
    );
    expect(one({ of: 'along', mass: 'm', bearingDeg: 90 }, 3).footprint.outer[0]).toEqual([
      expect.closeTo(3, 9),
      expect.closeTo(0, 9),
    ]);
    expect(() => one({ of: 'setback', mass: 'm', fromStorey: 1 }, 6)).toThrow('Nothing sound is left of “M”');
    expect(() => one({ of: 'turn', mass: 'gone' }, 1)).toThrow('is gone');
  });

  test('candidates have the figures of a run of the same massing at the same grid; broken ones have none', () => {
    const sample = kelpLane();
    const study = requireStudy(sample, 'Courtyards on 21 March');
    const sweep = new MassingSweep(sample, 'a', NONE, [study.id], new MemoryMasks(64 * 1024 ** 2), TODAY);
    const numbers: MassingNumber[] = [{ of: 'storeys', mass: 'bar' }];
    const low = sweep.read(numbers, [1]).figures!;
    const high = sweep.read(numbers, [5]).figures!;
    const share = `study/${study.id}/share`;
    expect(low[share]!.value).toBeGreaterThan(high[share]!.value);
    const coarse = { ...sample, targets: sample.targets.map((t) => ({ ...t, spacingM: t.spacingM * 2 })) };
    const alone = {
      ...coarse,
      options: coarse.options.map((one) =>
        one.id === 'a' ? { ...one, masses: massingOf(sample, 'a', numbers, [1]) } : one,
      ),
    };
    const plan = planStudy(alone, 'a', study, NONE);
    const { summary } = studyResult(plan, runStudy(alone, plan, NONE));
    expect(low[share]!.value).toBeCloseTo(summary.criterion.share * 100, 9);
    expect(low.floor!.value).toBeLessThan(high.floor!.value);
    expect(sweep.read(numbers, [0]).figures).toBeNull();
  });
});
