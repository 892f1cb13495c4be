import { block, opening, rect } from '../../testing/blocks';
import { add, addMass } from '../document';
import {
  type CriterionRule,
  DEFAULT_CRITERIA,
  emptyProject,
  type Project,
  type Study,
  type Target,
} from '../project';
import { comparedCsv, comparedSensorsCsv, compareResults, ruleFor } from './compare';
import { studyResult, type StudyResult } from './result-bytes';
import { planStudy, runStudy } from './run-study';

const NONE = new Map();
const LAWN: Target = {
  id: 'lawn',
  name: 'Lawn, long',
  kind: 'ground',
  outline: [
    [0, 10],
    [10, 10],
    [10, 16],
    [0, 16],
  ],
  spacingM: 1,
  offsetM: 0.1,
};

function project(kind: Study['kind'], targets: Target[]): { p: Project; study: Study } {
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: targets.map(({ id }) => id),
    window: { from: '2026-03-21', to: '2026-03-21', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 10,
    criterion: { atLeast: 2, share: 0.5, source: 'made up' },
    scale: null,
  };
  const made = targets.reduce((p, target) => add('targets', target)(p), emptyProject('P', 2026));
  return { p: add('studies', study)(made), study };
}

const result = (p: Project, option: string, study: Study): StudyResult => {
  const plan = planStudy(p, option, study, NONE);
  return studyResult(plan, runStudy(p, plan, NONE));
};

test('before and after are means over the cells that both have; the difference lies on them', () => {
  const { p, study } = project('sun-hours', [LAWN]);
  // The proposal shades the lawn and stands on two rows of it.
  const built = addMass('a', block('m', 0, 4, 10, 8))(p);
  const [before, after] = [result(built, 'today', study), result(built, 'a', study)];
  const rule: CriterionRule = {
    kind: 'sun-hours',
    needs: [{ measure: 'hours', atLeast: 2 }],
    keeps: 0.8,
    losesLessThan: null,
    grades: [],
    words: '',
  };
  const comparison = compareResults(before, after, rule);
  const [lawn] = comparison.places;
  expect(lawn!.areaM2).toBeCloseTo(40, 9);
  expect(lawn!.before).toBeCloseTo(before.summary.values.max, 3);
  expect(lawn!.after).toBeCloseTo(after.summary.values.mean, 4);
  expect(lawn!.difference).toBeCloseTo(lawn!.after - lawn!.before, 9);
  expect(lawn!.ratio).toBeCloseTo(lawn!.after / lawn!.before, 9);
  const { grid } = after;
  for (let i = 0; i < grid.count; i++)
    if (grid.covered[i]) expect(comparison.difference[i]).toBeNaN();
    else expect(comparison.difference[i]).toBeCloseTo(after.values.hours![i]! - comparison.before[i]!, 5);
  expect(comparedCsv(comparison).split('\n')).toEqual([
    'target,before,after,difference,ratio,pass',
    expect.stringMatching(/^"Lawn, long",[\d.]+,[\d.]+,-[\d.]+,0\.\d+,(true|false)$/),
    '',
  ]);
  expect(comparedSensorsCsv(comparison, after).trim().split('\n')).toHaveLength(41);
});

test('the same on both sides loses nothing and passes by what it keeps', () => {
  const { p, study } = project('vsc', [LAWN]);
  const same = result(p, 'today', study);
  const { places } = compareResults(same, same, ruleFor(p, study));
  expect(places[0]).toMatchObject({ difference: 0, ratio: 1, passes: true });
});

describe('published guidance', () => {
  const rules = DEFAULT_CRITERIA[0]!.rules;
  /** Results with one place that has these values. */
  const at = (kind: Study['kind'], values: Record<string, number>): StudyResult => {
    const { p, study } = project(kind === 'probable-sun' ? 'vsc' : kind, [{ ...LAWN, spacingM: 10 }]);
    const made = result(p, 'today', study);
    const whole = Object.fromEntries(
      Object.entries(values).map(([key, value]) => [key, new Float32Array(made.grid.count).fill(value)]),
    );
    return { ...made, summary: { ...made.summary, kind }, values: whole };
  };
  const passes = (kind: Study['kind'], before: Record<string, number>, after: Record<string, number>) =>
    compareResults(
      at(kind, before),
      at(kind, after),
      rules.find((rule) => rule.kind === kind)!,
    ).places[0]!;

  test.each([
    [30, 27, true],
    [35, 26.9, false],
    [33, 26.5, true],
    [20, 16, true],
    [20, 15.9, false],
    [0, 0, true],
  ])('vertical sky component from %d to %d', (before, after, expected) => {
    expect(passes('vsc', { vsc: before }, { vsc: after }).passes).toBe(expected);
  });

  test.each([
    // Enough in the year and in winter.
    [{ year: 60, winter: 20 }, { year: 25, winter: 5 }, true],
    // Too little in winter, and more than 4 points lost.
    [{ year: 60, winter: 20 }, { year: 50, winter: 4 }, false],
    // Too little in winter, but 0.8 kept and less than 4 points lost.
    [{ year: 28, winter: 4 }, { year: 24.5, winter: 2 }, true],
    // Less than 4 points lost, but less than 0.8 kept.
    [{ year: 10, winter: 1 }, { year: 7, winter: 1 }, false],
    // 0.8 kept, but 4 points lost.
    [{ year: 24, winter: 4 }, { year: 20, winter: 4 }, false],
  ])('probable sunlight from %o to %o', (before, after, expected) => {
    const place = passes('probable-sun', before, after);
    expect(place.passes).toBe(expected);
    expect(place.needs).toEqual([expect.closeTo(after.year, 5), expect.closeTo(after.winter, 5)]);
  });

  test('sun on ground is a share of the area, exposure of rooms has grades', () => {
    expect(passes('sun-on-ground', { hours: 3, enough: 100 }, { hours: 2, enough: 100 })).toMatchObject({
      after: 100,
      passes: true,
    });
    expect(passes('sun-on-ground', { hours: 3, enough: 100 }, { hours: 1, enough: 0 }).passes).toBe(false);
    const grades = [1.4, 1.5, 3.2, 4].map((hours) => passes('room-exposure', { hours: 5 }, { hours }));
    expect(grades.map(({ passes: one, grade }) => [one, grade])).toEqual([
      [false, null],
      [true, 'Minimum'],
      [true, 'Medium'],
      [true, 'High'],
    ]);
  });
});

test('places that stand on one side only are named; none in common is refused, and so is another kind', () => {
  const windows: Target = {
    id: 'w',
    name: 'Windows',
    kind: 'openings',
    among: 'option',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
    withinM: null,
    facing: false,
    at: 'centre',
    spacingM: 1,
    offsetM: 0.01,
  };
  const { p, study } = project('sun-hours', [LAWN, windows]);
  const mass = { ...block('m', 0, -10, 10, 8), openings: [opening('o', rect(4, 1, 1, 1))] };
  const built = addMass('a', mass)(p);
  const both = compareResults(
    result(built, 'today', study),
    result(built, 'a', study),
    ruleFor(built, study),
  );
  expect(both.places.map(({ name }) => name)).toEqual(['Lawn, long']);
  expect(both.onlyAfter).toEqual(['M · south · storey 1 · o']);
  const alone = { ...study, targets: ['w'] };
  expect(() =>
    compareResults(
      result(built, 'today', { ...study, targets: ['lawn'] }),
      result(built, 'a', alone),
      ruleFor(built, alone),
    ),
  ).toThrow('no place in common');
  const sky = result(built, 'a', { ...study, kind: 'vsc', targets: ['lawn'] });
  expect(() => compareResults(result(built, 'today', study), sky, ruleFor(built, study))).toThrow(
    'same kind',
  );
});

test('a kind without criteria goes by the threshold of the study; a set by name, or said that it is not there', () => {
  const { p, study } = project('sun-hours', [LAWN]);
  expect(ruleFor(p, study)).toMatchObject({
    needs: [{ measure: 'hours', atLeast: 2 }],
    keeps: null,
    words: 'made up',
  });
  const vsc = { ...study, kind: 'vsc' as const };
  expect(ruleFor(p, vsc, 'guidance')).toBe(ruleFor(p, vsc, 'Published guidance values'));
  expect(() => ruleFor(p, study, 'guidance')).toThrow(
    'No set of criteria “guidance” says anything of sun hours',
  );
});
