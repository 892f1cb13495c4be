import { cellOutline, type Ground, groundLevel, type SunHoursResult, type Point2 } from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, Group, Mesh, MeshBasicMaterial, ShapeUtils, Vector2 } from 'three';
import { rampRgb, sunRamp } from '../theme/palette';
import { polyline, segments } from './overlay-lines';

/** How a result is coloured. */
export interface ResultLook {
  minH: number;
  maxH: number;
  atLeastH: number;
  ink: string;
  /** A result that no longer matches the model is drawn faintly. */
  veiled: boolean;
}

const LIFT_M = 0.06;

/** Index of each sensor by target, column and row. */
export function sensorIndex({ grid }: SunHoursResult): Map<string, number> {
  const index = new Map<string, number>();
  for (let i = 0; i < grid.count; i++)
    index.set(cellKey(grid.target[i]!, grid.cells[i * 2]!, grid.cells[i * 2 + 1]!), i);
  return index;
}

export function cellKey(target: number, column: number, row: number): string {
  return `${target}:${column}:${row}`;
}

/** Hours of a sensor, or, while the picture is still coarse, of the nearest sensor of the coarser pictures. */
export function shownHours(result: SunHoursResult, index: ReadonlyMap<string, number>, i: number): number {
  const { grid, values } = result;
  if (!Number.isNaN(values.hours[i]!)) return values.hours[i]!;
  const column = grid.cells[i * 2]!;
  const row = grid.cells[i * 2 + 1]!;
  for (const [mask, centre] of [
    [1, 1],
    [3, 1],
  ] as const) {
    const near = index.get(cellKey(grid.target[i]!, (column & ~mask) | centre, (row & ~mask) | centre));
    if (near !== undefined && !Number.isNaN(values.hours[near]!)) return values.hours[near]!;
  }
  return NaN;
}

/** The result as coloured cells lying on the ground, with an ink line where the threshold runs. */
export function resultCells(result: SunHoursResult, ground: Ground, look: ResultLook): Group {
  const index = sensorIndex(result);
  const { grid, targets } = result;
  const position: number[] = [];
  const colour: number[] = [];
  const border: number[] = [];
  for (let i = 0; i < grid.count; i++) {
    const hours = shownHours(result, index, i);
    if (Number.isNaN(hours)) continue;
    const target = targets[grid.target[i]!]!;
    const lift = ([x, y]: Point2, more = 0): [number, number, number] => [
      x,
      y,
      (target.levelM ?? groundLevel(ground, [x, y])) + LIFT_M + more,
    ];
    const column = grid.cells[i * 2]!;
    const row = grid.cells[i * 2 + 1]!;
    const ring = cellOutline(target, column, row);
    const tone = rampRgb(sunRamp, (hours - look.minH) / Math.max(1e-9, look.maxH - look.minH));
    for (const face of ShapeUtils.triangulateShape(
      ring.map(([x, y]) => new Vector2(x, y)),
      [],
    )) {
      for (const k of face) {
        position.push(...lift(ring[k]!));
        colour.push(...tone);
      }
    }
    const enough = hours >= look.atLeastH - 1e-6;
    for (const [dc, dr] of [
      [1, 0],
      [0, 1],
    ] as const) {
      const other = index.get(cellKey(grid.target[i]!, column + dc, row + dr));
      if (other === undefined) continue;
      const next = shownHours(result, index, other);
      if (Number.isNaN(next) || next >= look.atLeastH - 1e-6 === enough) continue;
      const [a, b] = sharedEdge(result, i, dc);
      border.push(...polyline([lift(a, 0.03), lift(b, 0.03)]));
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(position), 3));
  const linear = Float32Array.from(colour, (c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
  geometry.setAttribute('color', new BufferAttribute(linear, 3));
  const cells = new Mesh(
    geometry,
    new MeshBasicMaterial({
      vertexColors: true,
      transparent: true,
      opacity: look.veiled ? 0.38 : 0.93,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -2,
      polygonOffsetUnits: -4,
      side: 2,
    }),
  );
  cells.renderOrder = 4;
  const group = new Group();
  group.add(cells, segments(border, look.ink, look.veiled ? 0.4 : 1, 5));
  return group;
}

/** The edge that a cell shares with its neighbour to the right (dc = 1) or above. */
function sharedEdge(result: SunHoursResult, i: number, dc: number): [Point2, Point2] {
  const { grid, targets } = result;
  const target = targets[grid.target[i]!]!;
  const minX = Math.min(...target.outline.map((p) => p[0]));
  const minY = Math.min(...target.outline.map((p) => p[1]));
  const s = target.spacingM;
  const x = minX + grid.cells[i * 2]! * s;
  const y = minY + grid.cells[i * 2 + 1]! * s;
  return dc === 1
    ? [
        [x + s, y],
        [x + s, y + s],
      ]
    : [
        [x, y + s],
        [x + s, y + s],
      ];
}

/** The sensor whose cell holds a point of the ground, or of a surface at the level z, or null. */
export function sensorAt(
  result: SunHoursResult,
  index: ReadonlyMap<string, number>,
  [x, y]: Point2,
  z: number | null = null,
): number | null {
  for (let t = 0; t < result.targets.length; t++) {
    const target = result.targets[t]!;
    const isThere =
      z === null ? target.levelM === undefined : Math.abs((target.levelM ?? Infinity) - z) < 0.2;
    if (!isThere) continue;
    const minX = Math.min(...target.outline.map((p) => p[0]));
    const minY = Math.min(...target.outline.map((p) => p[1]));
    const found = index.get(
      cellKey(t, Math.floor((x - minX) / target.spacingM), Math.floor((y - minY) / target.spacingM)),
    );
    if (found !== undefined) return found;
  }
  return null;
}
