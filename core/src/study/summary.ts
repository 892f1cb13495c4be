import { formatClock } from '../civil';
import type { SensorGrid } from './sensor-grid';
import type { SunHoursPlan, SunHoursValues } from './sun-hours';

/** What a run comes to, over the sensors that have a value. */
export interface SunHoursSummary {
  study: string;
  option: string;
  kind: 'sun-hours';
  sensors: number;
  sensorsDone: number;
  sunPositions: number;
  rays: number;
  areaM2: number;
  builtOverM2: number;
  /** Area left out because it lies inside the ground or a solid, m². */
  insideM2: number;
  hours: { min: number; mean: number; max: number };
  criterion: {
    atLeastH: number;
    wantedShare: number;
    areaM2: number;
    share: number;
    met: boolean;
    source: string;
  };
  targets: { id: string; name: string; sensors: number; areaM2: number; meanH: number; share: number }[];
  notes: string[];
}

/** Share of the area whose hours reach a threshold, and the area, over sensors with a value. */
export function shareAtLeast(hours: ArrayLike<number>, areas: ArrayLike<number>, atLeastH: number) {
  let all = 0;
  let enough = 0;
  for (let i = 0; i < hours.length; i++) {
    if (Number.isNaN(hours[i]!)) continue;
    all += areas[i]!;
    if (hours[i]! >= atLeastH - 1e-6) enough += areas[i]!;
  }
  return { areaM2: enough, share: all > 0 ? enough / all : 0, measuredM2: all };
}

/** Summary of a run, whole or stopped half-way. Means are weighted with area. */
export function summarize(plan: SunHoursPlan, values: SunHoursValues): SunHoursSummary {
  const { grid, study } = plan;
  const { hours } = values;
  const stats = (wanted: (i: number) => boolean) => {
    let n = 0,
      area = 0,
      sum = 0,
      min = Infinity,
      max = -Infinity;
    for (let i = 0; i < grid.count; i++) {
      const h = hours[i]!;
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
  const { atLeastH, share: wantedShare, source } = study.criterion;
  const overall = shareAtLeast(hours, grid.areas, atLeastH);
  return {
    study: study.name,
    option: plan.optionId,
    kind: 'sun-hours',
    sensors: grid.count,
    sensorsDone: all.n,
    sunPositions: plan.suns.count,
    rays: plan.rays,
    areaM2: all.area,
    builtOverM2: grid.builtOverM2.reduce((sum, area) => sum + area, 0),
    insideM2: grid.insideM2.reduce((sum, area) => sum + area, 0),
    hours: { min: all.min, mean: all.mean, max: all.max },
    criterion: {
      atLeastH,
      wantedShare,
      areaM2: overall.areaM2,
      share: overall.share,
      met: overall.share >= wantedShare - 1e-9,
      source,
    },
    targets: plan.targets.map((target, t) => {
      const own = stats((i) => grid.target[i] === t);
      const picked = hours.map((h, i) => (grid.target[i] === t ? h : NaN));
      return {
        id: target.id,
        name: target.name,
        sensors: own.n,
        areaM2: own.area,
        meanH: own.mean,
        share: shareAtLeast(picked, grid.areas, atLeastH).share,
      };
    }),
    notes: plan.notes,
  };
}

/** A line for each target of a result: what `sensors.csv` comes to. Means and shares are weighted with area. */
export function summaryRows(
  {
    targets,
    grid,
    values,
  }: {
    targets: readonly { id: string; name: string }[];
    grid: ResultGrid;
    values: Pick<SunHoursValues, 'hours'>;
  },
  atLeastH: number,
) {
  return targets.map(({ id, name }, t) => {
    const row = { id, name, sensors: 0, areaM2: 0, minH: Infinity, meanH: 0, maxH: 0, share: 0 };
    for (let i = 0; i < grid.count; i++) {
      const h = values.hours[i]!;
      if (grid.target[i] !== t || Number.isNaN(h)) continue;
      const area = grid.areas[i]!;
      row.sensors++;
      row.areaM2 += area;
      row.meanH += h * area;
      row.minH = Math.min(row.minH, h);
      row.maxH = Math.max(row.maxH, h);
      if (h >= atLeastH - 1e-6) row.share += area;
    }
    const whole = row.areaM2 || 1;
    if (row.sensors === 0) row.minH = 0;
    return { ...row, meanH: row.meanH / whole, share: row.share / whole };
  });
}

/** The part of a sensor grid that a stored result keeps. */
export type ResultGrid = Pick<SensorGrid, 'count' | 'positions' | 'normals' | 'areas' | 'target' | 'cells'>;

/** Sensors in the order of rows and columns, as a person would read the ground from the lower left. */
export function readingOrder(grid: Pick<SensorGrid, 'count' | 'target' | 'cells'>): Uint32Array {
  const order = Uint32Array.from({ length: grid.count }, (_, i) => i);
  return order.sort(
    (a, b) =>
      grid.target[a]! - grid.target[b]! ||
      grid.cells[a * 2 + 1]! - grid.cells[b * 2 + 1]! ||
      grid.cells[a * 2]! - grid.cells[b * 2]!,
  );
}

/**
 * The result as comma-separated text: x, y, z, nx, ny, nz, area, then one column a value with its unit in the heading.
 * Metres and m²; hours with four decimals; clock times as HH:MM, empty without sun.
 */
export function sensorsCsv(grid: ResultGrid, values: SunHoursValues): string {
  const lines = ['x,y,z,nx,ny,nz,area,sun hours (h),longest stretch (h),first sun (clock),last sun (clock)'];
  const clock = (minutes: number) => (Number.isNaN(minutes) ? '' : formatClock(minutes));
  for (const i of readingOrder(grid)) {
    const p = grid.positions;
    const n = grid.normals;
    const place = [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!].map((v) => trim(v, 4));
    const facing = [n[i * 3]!, n[i * 3 + 1]!, n[i * 3 + 2]!].map((v) => trim(v, 6));
    const hours = [values.hours[i]!, values.longest[i]!].map((v) => (Number.isNaN(v) ? '' : trim(v, 4)));
    lines.push(
      [
        ...place,
        ...facing,
        trim(grid.areas[i]!, 6),
        ...hours,
        clock(values.first[i]!),
        clock(values.last[i]!),
      ].join(','),
    );
  }
  return lines.join('\n') + '\n';
}

function trim(value: number, digits: number): string {
  const rounded = Number(value.toFixed(digits));
  return String(Object.is(rounded, -0) ? 0 : rounded);
}

/** The sensors with the least sun, at most one within `apartM` of another, worst first. */
export function worstPlaces(
  positions: Float64Array,
  values: Pick<SunHoursValues, 'hours' | 'longest'>,
  wanted = 5,
  apartM = 3,
): number[] {
  const order = Array.from(values.hours.keys())
    .filter((i) => !Number.isNaN(values.hours[i]!))
    .sort((a, b) => values.hours[a]! - values.hours[b]! || values.longest[a]! - values.longest[b]! || a - b);
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
