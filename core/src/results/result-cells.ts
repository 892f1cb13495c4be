import type { Point2, Point3, Polygon } from '../geometry';
import type { Ground } from '../project';
import { cellShape, type FlatTarget, type StudyResult, targetSurface } from '../study';

/** A measured cell of a result, as it lies on its target. */
export interface ResultCell {
  sensor: number;
  target: FlatTarget;
  targetIndex: number;
  /** In the target's own two coordinates. */
  flat: Polygon[];
  /** The same in space, so far off the surface on the side that it faces. */
  at: (p: Point2, offM?: number) => Point3;
}

/** Every cell of a result that is measured, in the order of its sensors. */
export function resultCells({ grid, targets }: StudyResult, ground: Ground): ResultCell[] {
  const surfaces = targets.map((target) => targetSurface(target, ground));
  const cells: ResultCell[] = [];
  for (let i = 0; i < grid.count; i++) {
    if (grid.covered[i] !== 0) continue;
    const t = grid.target[i]!;
    cells.push({
      sensor: i,
      target: targets[t]!,
      targetIndex: t,
      flat: cellShape(targets[t]!, grid.cells[i * 2]!, grid.cells[i * 2 + 1]!),
      at: surfaces[t]!.at,
    });
  }
  return cells;
}

/** Index of each sensor by target, column and row. */
export function sensorIndex({ grid }: StudyResult): Map<string, number> {
  const index = new Map<string, number>();
  for (let i = 0; i < grid.count; i++)
    index.set(cellKey(grid.target[i]!, grid.cells[i * 2]!, grid.cells[i * 2 + 1]!), i);
  return index;
}

/** What a cell is told by. */
export function cellKey(target: number, column: number, row: number): string {
  return `${target}:${column}:${row}`;
}
