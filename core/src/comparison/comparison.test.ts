import { kelpLane } from '../../../samples/src/kelp-lane';
import { emptyProject, type Project, TODAY } from '../project';
import { planStudy, requireStudy, runStudy, studyResult } from '../study';
import { comparisonCsv, comparisonJson } from './comparison-files';
import { comparedMeasures, firstMeasures, massingValues, studyValues } from './measures';
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
