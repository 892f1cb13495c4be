import { csvText, formatClock } from '../civil';
import type { Study } from '../project';
import { type Measure, STUDY_KINDS, type StudyValues, hourStamp, measuresIn } from './kinds';
import { PART_KEYS } from './cell-points';
import { partsError } from './glass-points';
import { FREE, freeSensors, type SensorGrid } from './sensor-grid';
import type { StudyPlan } from './run-study';

/** What a run comes to in its first measure, over the sensors that have a value. */
export interface StudySummary {
  study: string;
  option: string;
  kind: Study['kind'];
  /** Number of the method of the kind that it was computed by. */
  method: number;
  /** The measure that the values are of. */
  measure: Pick<Measure, 'key' | 'label' | 'unit'>;
  sensors: number;
  sensorsDone: number;
  /** Directions that each sensor is traced to: sun positions, or parts of the sky. */
  directions: number;
  rays: number;
  areaM2: number;
  builtOverM2: number;
  /** Area left out because it lies inside the ground or a solid, m². */
  insideM2: number;
  values: { min: number; mean: number; max: number };
  criterion: {
    atLeast: number;
    wantedShare: number;
    areaM2: number;
    share: number;
    met: boolean;
    source: string;
  };
  targets: {
    id: string;
    name: string;
    sensors: number;
    areaM2: number;
    mean: number;
    share: number;
    energy?: Energy;
  }[];
  /** Of kinds that measure energy: all of it. */
  energy?: Energy;
  notes: string[];
}

/** Energy on an area, kWh: values per m² × the area of their cells. */
export interface Energy {
  kWh: number;
  /** What it may be off by (±), kWh, of kinds that tell it. */
  error?: number;
  /** By month, January first. */
  months: number[];
  /** By hour of local standard time, from midnight; empty where the kind does not tell it. */
  hours: number[];
}

/** The energy on the sensors that are wanted; undefined for kinds that measure none. */
function energyOf(
  { grid, study }: Pick<StudyPlan, 'grid' | 'study'>,
  values: StudyValues,
  wanted: (i: number) => boolean,
): Energy | undefined {
  const { measures } = STUDY_KINDS[study.kind];
  if (!measures.some(({ series }) => series)) return undefined;
  const sumOf = (key: string) => {
    let sum = 0;
    values[key]!.forEach((value, i) => {
      if (!Number.isNaN(value) && wanted(i)) sum += value * grid.areas[i]!;
    });
    return sum;
  };
  const ofSeries = (wantedSeries: 'month' | 'hour') =>
    measures.filter(({ series }) => series === wantedSeries).map(({ key }) => sumOf(key));
  const parts = PART_KEYS.filter((key) => values[key]);
  return {
    kWh: sumOf(measures[0].key),
    ...(parts.length > 0 && { error: partsError(parts.map(sumOf)) }),
    months: ofSeries('month'),
    hours: ofSeries('hour'),
  };
}

/** The values that a kind is about: those of its first measure. */
export function mainValues(kind: Study['kind'], values: StudyValues): Float32Array {
  return values[STUDY_KINDS[kind].measures[0].key]!;
}

/** Share of the area whose values reach a threshold, and the area, over sensors with a value. */
export function shareAtLeast(values: ArrayLike<number>, areas: ArrayLike<number>, atLeast: number) {
  let all = 0;
  let enough = 0;
  for (let i = 0; i < values.length; i++) {
    if (Number.isNaN(values[i]!)) continue;
    all += areas[i]!;
    if (values[i]! >= atLeast - 1e-6) enough += areas[i]!;
  }
  return { areaM2: enough, share: all > 0 ? enough / all : 0, measuredM2: all };
}

/** Summary of a run, whole or stopped half-way. Means are weighted with area. */
export function summarize(plan: StudyPlan, values: StudyValues): StudySummary {
  const { grid, study } = plan;
  const main = mainValues(study.kind, values);
  const [{ key, label, unit }] = STUDY_KINDS[study.kind].measures;
  const stats = (wanted: (i: number) => boolean) => {
    let n = 0,
      area = 0,
      sum = 0,
      min = Infinity,
      max = -Infinity;
    for (let i = 0; i < grid.count; i++) {
      const h = main[i]!;
      if (Number.isNaN(h) || !wanted(i)) continue;
      n++;
      area += grid.areas[i]!;
      sum += h * grid.areas[i]!;
      if (h < min) min = h;
      if (h > max) max = h;
    }
    return { n, area, mean: area > 0 ? sum / area : 0, min: n ? min : 0, max: n ? max : 0 };
  };
  const all = stats(() => true);
  const { atLeast, share: wantedShare, source } = study.criterion;
  const overall = shareAtLeast(main, grid.areas, atLeast);
  return {
    study: study.name,
    option: plan.optionId,
    kind: study.kind,
    method: STUDY_KINDS[study.kind].method.number,
    measure: { key, label, unit },
    sensors: freeSensors(grid),
    sensorsDone: all.n,
    directions: plan.directions.count,
    rays: plan.rays,
    areaM2: all.area,
    builtOverM2: grid.builtOverM2.reduce((sum, area) => sum + area, 0),
    insideM2: grid.insideM2.reduce((sum, area) => sum + area, 0),
    values: { min: all.min, mean: all.mean, max: all.max },
    criterion: {
      atLeast,
      wantedShare,
      areaM2: overall.areaM2,
      share: overall.share,
      met: overall.share >= wantedShare - 1e-9,
      source,
    },
    targets: plan.targets.map((target, t) => {
      const own = stats((i) => grid.target[i] === t);
      const picked = main.map((value, i) => (grid.target[i] === t ? value : NaN));
      return {
        id: target.id,
        name: target.name,
        sensors: own.n,
        areaM2: own.area,
        mean: own.mean,
        share: shareAtLeast(picked, grid.areas, atLeast).share,
        ...energyField(energyOf(plan, values, (i) => grid.target[i] === t)),
      };
    }),
    ...energyField(energyOf(plan, values, () => true)),
    notes: plan.notes,
  };
}

const energyField = (energy: Energy | undefined) => (energy ? { energy } : {});

/** A line for each target of a result: what `sensors.csv` comes to. Means and shares are weighted with area. */
export function summaryRows(
  {
    targets,
    grid,
    values,
  }: { targets: readonly { id: string; name: string }[]; grid: ResultGrid; values: ArrayLike<number> },
  atLeast: number,
) {
  return targets.map(({ id, name }, t) => {
    const row = { id, name, sensors: 0, areaM2: 0, min: Infinity, mean: 0, max: 0, share: 0 };
    for (let i = 0; i < grid.count; i++) {
      const value = values[i]!;
      if (grid.target[i] !== t || Number.isNaN(value)) continue;
      const area = grid.areas[i]!;
      row.sensors++;
      row.areaM2 += area;
      row.mean += value * area;
      row.min = Math.min(row.min, value);
      row.max = Math.max(row.max, value);
      if (value >= atLeast - 1e-6) row.share += area;
    }
    const whole = row.areaM2 || 1;
    if (row.sensors === 0) row.min = 0;
    return { ...row, mean: row.mean / whole, share: row.share / whole };
  });
}

/** The part of a sensor grid that a stored result keeps. */
export type ResultGrid = Pick<
  SensorGrid,
  'count' | 'positions' | 'normals' | 'areas' | 'target' | 'cells' | 'covered'
>;

/** Measured sensors in the order of rows and columns, as a person would read the ground from the lower left. */
export function readingOrder(grid: Pick<SensorGrid, 'count' | 'target' | 'cells' | 'covered'>): Uint32Array {
  const order = Uint32Array.from({ length: grid.count }, (_, i) => i).filter((i) => grid.covered[i] === FREE);
  return order.sort(
    (a, b) =>
      grid.target[a]! - grid.target[b]! ||
      grid.cells[a * 2 + 1]! - grid.cells[b * 2 + 1]! ||
      grid.cells[a * 2]! - grid.cells[b * 2]!,
  );
}

/**
 * The result as comma-separated text: x, y, z, nx, ny, nz, area, then one column a measure with its unit in the heading.
 * Metres and m²; values with four decimals; clock times as HH:MM, hours as MM-DD HH:MM, empty without.
 */
export function sensorsCsv(kind: Study['kind'], grid: ResultGrid, values: StudyValues): string {
  const measures = measuresIn(kind, values);
  const lines = [
    csvText([['x', 'y', 'z', 'nx', 'ny', 'nz', 'area', ...measures.map(({ heading }) => heading)]]).trimEnd(),
  ];
  const text = ({ reads }: Measure, value: number) => {
    if (Number.isNaN(value)) return '';
    return reads === 'clock' ? formatClock(value) : reads === 'date-hour' ? hourStamp(value) : trim(value, 4);
  };
  for (const i of readingOrder(grid)) {
    const [p, n] = [grid.positions, grid.normals];
    const place = [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!].map((v) => trim(v, 4));
    const facing = [n[i * 3]!, n[i * 3 + 1]!, n[i * 3 + 2]!].map((v) => trim(v, 6));
    const figures = measures.map((measure) => text(measure, values[measure.key]![i]!));
    lines.push([...place, ...facing, trim(grid.areas[i]!, 6), ...figures].join(','));
  }
  return lines.join('\n') + '\n';
}

/** A number with at most so many decimals, without trailing zeros. */
export function trim(value: number, digits: number): string {
  const rounded = Number(value.toFixed(digits));
  return String(Object.is(rounded, -0) ? 0 : rounded);
}

/** The sensors with the least value of the first measure, at most one within `apartM` of another, worst first. */
export function worstPlaces(
  kind: Study['kind'],
  positions: Float64Array,
  values: StudyValues,
  wanted = 5,
  apartM = 3,
): number[] {
  const main = mainValues(kind, values);
  const { measures } = STUDY_KINDS[kind];
  // Where all are the same, as where there is no sun at all, the second measure tells.
  const second = values[(measures[1] ?? measures[0]).key]!;
  const order = Array.from(main.keys())
    .filter((i) => !Number.isNaN(main[i]!))
    .sort((a, b) => main[a]! - main[b]! || second[a]! - second[b]! || a - b);
  const chosen: number[] = [];
  for (const i of order) {
    if (chosen.length === wanted) break;
    const near = chosen.some(
      (j) =>
        Math.hypot(positions[i * 3]! - positions[j * 3]!, positions[i * 3 + 1]! - positions[j * 3 + 1]!) <
        apartM,
    );
    if (!near) chosen.push(i);
  }
  return chosen;
}
