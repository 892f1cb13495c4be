import { csvText } from '../civil';
import { InputError } from '../errors';
import type { CriteriaSet, CriterionRule, Project, Study } from '../project';
import { STUDY_KINDS } from './kinds';
import type { StudyResult } from './result-bytes';
import { FREE } from './sensor-grid';
import { readingOrder, trim } from './summary';

/** What a window or an area has before and after, and whether that is enough. */
export interface ComparedPlace {
  id: string;
  name: string;
  areaM2: number;
  /** Means over the places that both have, weighted with area. */
  before: number;
  after: number;
  difference: number;
  /** After over before; NaN where there was nothing before. */
  ratio: number;
  /** After, of each threshold of the rule, in its order. */
  needs: number[];
  passes: boolean;
  /** Name of the highest grade that is reached, of rules that have grades. */
  grade: string | null;
}

/** A study before and after: place by place, and sensor by sensor. */
export interface Comparison {
  kind: Study['kind'];
  /** Key of the measure that the values are of. */
  measure: string;
  rule: CriterionRule;
  places: ComparedPlace[];
  /** Places that only one side has. */
  onlyBefore: string[];
  onlyAfter: string[];
  /** Sensors of the result after: what the same place had before; NaN where one of them has no value. */
  before: Float32Array;
  difference: Float32Array;
}

/** The sets of criteria that say something of a kind of study. */
export function criteriaFor(
  project: Pick<Project, 'criteria'>,
  kind: Study['kind'],
): { set: CriteriaSet; rule: CriterionRule }[] {
  return project.criteria.flatMap((set) =>
    set.rules.filter((rule) => rule.kind === kind).map((rule) => ({ set, rule })),
  );
}

/**
 * The rule that a study is held to before and after: of the set with this id or name, else of the first that has one for
 * its kind; where none has, the threshold of the study itself. Throws InputError `criteria` for a set that has none.
 */
export function ruleFor(
  project: Pick<Project, 'criteria'>,
  study: Study,
  wanted: string | null = null,
): CriterionRule {
  const all = criteriaFor(project, study.kind);
  if (wanted !== null) {
    const found = all.find(({ set }) => set.id === wanted) ?? all.find(({ set }) => set.name === wanted);
    if (found) return found.rule;
    const known = project.criteria.map(({ name }) => `“${name}”`).join(', ');
    throw new InputError(
      'criteria',
      `No set of criteria “${wanted}” says anything of ${STUDY_KINDS[study.kind].name.toLowerCase()}; there ${project.criteria.length === 1 ? 'is' : 'are'} ${known || 'none'}.`,
    );
  }
  if (all.length > 0) return all[0]!.rule;
  return {
    kind: study.kind,
    needs: [{ measure: areaMeasure(study.kind), atLeast: study.criterion.atLeast }],
    keeps: null,
    losesLessThan: null,
    grades: [],
    words: study.criterion.source,
  };
}

/** The measure whose mean is the value of an area. */
export function areaMeasure(kind: Study['kind']): string {
  const { areaMeasure: named, measures } = STUDY_KINDS[kind];
  return named ?? measures[0].key;
}

/** Whether what is left is enough by a rule. `needs`: after, of each of its thresholds. */
function isEnough(rule: CriterionRule, needs: readonly number[], before: number, after: number): boolean {
  const slack = 1e-6;
  if (rule.needs.every(({ atLeast }, i) => needs[i]! >= atLeast - slack)) return true;
  if (rule.keeps === null || after < rule.keeps * before - slack) return false;
  return rule.losesLessThan === null || before - after < rule.losesLessThan;
}

/**
 * What the sensors of a result had before, by a measure: of the same cell of the same place; NaN where there was none, or
 * where one of the two does not measure it.
 */
export function hadBefore(before: StudyResult, after: StudyResult, measure: string): Float32Array {
  const key = ({ targets, grid }: StudyResult, i: number) =>
    `${targets[grid.target[i]!]!.id}:${grid.cells[i * 2]}:${grid.cells[i * 2 + 1]}`;
  const cells = new Map<string, number>();
  for (let i = 0; i < before.grid.count; i++)
    if (before.grid.covered[i] === FREE) cells.set(key(before, i), i);
  const { grid } = after;
  const had = new Float32Array(grid.count).fill(NaN);
  for (let i = 0; i < grid.count; i++) {
    const other = grid.covered[i] === FREE ? cells.get(key(after, i)) : undefined;
    if (other !== undefined) had[i] = before.values[measure]![other]!;
  }
  return had;
}

/**
 * Compares two results of one study. Places are told by their id, sensors by their cell; only cells that both measure
 * count. Throws InputError `compare` when the two are of different kinds or have no place in common.
 */
export function compareResults(before: StudyResult, after: StudyResult, rule: CriterionRule): Comparison {
  const { kind } = after.summary;
  if (before.summary.kind !== kind)
    throw new InputError('compare', 'The two results are not of the same kind of study.');
  const { measures } = STUDY_KINDS[kind];
  for (const { measure } of rule.needs)
    if (!measures.some(({ key }) => key === measure))
      throw new InputError(
        'criteria',
        `The criterion asks for “${measure}”, which this kind of study does not measure.`,
      );
  const measure = rule.needs[0]!.measure;
  const { grid } = after;
  const had = hadBefore(before, after, measure);
  const difference = after.values[measure]!.map((now, i) => now - had[i]!);
  const sums = after.targets.map(() => ({ area: 0, before: 0, needs: rule.needs.map(() => 0) }));
  for (let i = 0; i < grid.count; i++) {
    if (Number.isNaN(difference[i]!)) continue;
    const sum = sums[grid.target[i]!]!;
    const area = grid.areas[i]!;
    sum.area += area;
    sum.before += had[i]! * area;
    rule.needs.forEach((need, k) => {
      sum.needs[k]! += after.values[need.measure]![i]! * area;
    });
  }
  const places = after.targets.flatMap(({ id, name }, t): ComparedPlace[] => {
    const sum = sums[t]!;
    if (sum.area === 0) return [];
    const needs = sum.needs.map((value) => value / sum.area);
    const [was, now] = [sum.before / sum.area, needs[0]!];
    return [
      {
        id,
        name,
        areaM2: sum.area,
        before: was,
        after: now,
        difference: now - was,
        ratio: was > 0 ? now / was : NaN,
        needs,
        passes: isEnough(rule, needs, was, now),
        grade: rule.grades.filter(({ atLeast }) => now >= atLeast - 1e-6).at(-1)?.name ?? null,
      },
    ];
  });
  if (places.length === 0)
    throw new InputError(
      'compare',
      'Before and after have no place in common: the targets stand in only one of them.',
    );
  const ids = (targets: StudyResult['targets']) => new Set(targets.map(({ id }) => id));
  const [then, now] = [ids(before.targets), ids(after.targets)];
  return {
    kind,
    measure,
    rule,
    places,
    onlyBefore: before.targets.filter(({ id }) => !now.has(id)).map(({ name }) => name),
    onlyAfter: after.targets.filter(({ id }) => !then.has(id)).map(({ name }) => name),
    before: had,
    difference,
  };
}

/** `target,before,after,difference,ratio,pass`, a line for each place; values with four decimals, `true` or `false`. */
export function comparedCsv({ places }: Comparison): string {
  return csvText([
    ['target', 'before', 'after', 'difference', 'ratio', 'pass'],
    ...places.map(({ name, before, after, difference, ratio, passes }) => [
      name,
      ...[before, after, difference].map((value) => trim(value, 4)),
      Number.isNaN(ratio) ? '' : trim(ratio, 4),
      String(passes),
    ]),
  ]);
}

/** `x,y,z,nx,ny,nz,area,before,after,difference`, a line for each sensor that both measure. */
export function comparedSensorsCsv({ measure, before, difference }: Comparison, after: StudyResult): string {
  const { grid, values } = after;
  const lines = ['x,y,z,nx,ny,nz,area,before,after,difference'];
  for (const i of readingOrder(grid)) {
    if (Number.isNaN(difference[i]!)) continue;
    const three = (from: Float64Array, digits: number) =>
      [0, 1, 2].map((k) => trim(from[i * 3 + k]!, digits));
    const figures = [before[i]!, values[measure]![i]!, difference[i]!].map((value) => trim(value, 4));
    lines.push(
      [...three(grid.positions, 4), ...three(grid.normals, 6), trim(grid.areas[i]!, 6), ...figures].join(','),
    );
  }
  return `${lines.join('\n')}\n`;
}
