import { csvText } from '../civil';
import type { Point2, Point3 } from '../geometry';
import type { Ground } from '../project';
import {
  cellAt,
  cellSize,
  hourStamp,
  shownMeasure,
  shownValues,
  type StudyResult,
  targetSurface,
} from '../study';

import { cellKey, sensorIndex } from './result-cells';

/** A straight line over a target, in its own two coordinates: on the ground x and y, in which it runs on over others. */
export interface ProfileLine {
  /** Id of the target. */
  target: string;
  from: Point2;
  to: Point2;
}

/** What is found at one place of a profile. */
export interface ProfilePoint {
  distanceM: number;
  at: Point3;
  /** NaN where nothing is measured. */
  value: number;
}

/** Places in the width of a cell, and the most that a profile has. */
const IN_A_CELL = 4;
const MAX_PLACES = 1600;

/** The measure that is looked at, along a line: the value of the cell that each place lies in. Empty without the target. */
export function profileAlong(
  result: StudyResult,
  ground: Ground,
  { target: id, from, to }: ProfileLine,
): ProfilePoint[] {
  const { targets } = result;
  const target = targets.find((one) => one.id === id);
  if (!target) return [];
  const along = targets
    .map((one, index) => ({ one, index }))
    .filter(({ one }) => (target.kind === 'ground' ? one.kind === 'ground' : one === target));
  const values = shownValues(result);
  const sensors = sensorIndex(result);
  const surface = targetSurface(target, ground);
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const cell = Math.min(...along.map(({ one }) => cellSize(one)));
  const count = Math.min(MAX_PLACES, Math.max(1, Math.ceil((length / cell) * IN_A_CELL)));
  return Array.from({ length: count + 1 }, (_, i): ProfilePoint => {
    const share = i / count;
    const p: Point2 = [from[0] + share * (to[0] - from[0]), from[1] + share * (to[1] - from[1])];
    let value = NaN;
    for (const { one, index } of along) {
      const { column, row } = cellAt(one, p);
      const sensor = sensors.get(cellKey(index, column, row));
      if (sensor !== undefined && !Number.isNaN(values[sensor]!)) value = values[sensor]!;
    }
    return { distanceM: share * length, at: surface.at(p), value };
  });
}

/** A profile as comma-separated text: `distance_m,x,y,z` and the measure under its heading; empty where nothing is measured. */
export function profileCsv(result: StudyResult, points: readonly ProfilePoint[]): string {
  const { heading, reads } = shownMeasure(result);
  const read = (value: number) =>
    Number.isNaN(value) ? '' : reads === 'date-hour' ? hourStamp(value) : Number(value.toFixed(4));
  return csvText([
    ['distance_m', 'x', 'y', 'z', heading],
    ...points.map(({ distanceM, at, value }) => [
      Number(distanceM.toFixed(4)),
      ...at.map((c) => Number(c.toFixed(4))),
      read(value),
    ]),
  ]);
}
