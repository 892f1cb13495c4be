import {
  cellAt,
  cellKey,
  cellBox,
  cellShape,
  type Ground,
  type Point2,
  type Point3,
  readMeasure,
  sensorIndex,
  type Scale,
  shareOn,
  shownMeasure,
  shownValues,
  type StudyResult,
  targetSurface,
} from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, Group, Mesh, MeshBasicMaterial, ShapeUtils, Vector2 } from 'three';
import { RAMPS, rampRgb } from '../theme/palette';
import type { Label } from './label-layer';
import { polyline, segments } from './overlay-lines';

/** How a result is coloured. */
export interface ResultStyle extends Scale {
  atLeast: number;
  ink: string;
  /** Lines at each step, values in cells. */
  contours?: boolean;
  values?: boolean;
  /** A result that no longer matches the model is drawn faintly. */
  outdated: boolean;
}

const LIFT_M = 0.06;

/** What a sensor has in the first measure, or, while the picture is still coarse, of the nearest sensor of the coarser pictures. */
export function shownValue(result: StudyResult, index: ReadonlyMap<string, number>, i: number): number {
  const { grid } = result;
  const values = shownValues(result);
  if (!Number.isNaN(values[i]!) || grid.covered[i] !== 0) return values[i]!;
  const column = grid.cells[i * 2]!;
  const row = grid.cells[i * 2 + 1]!;
  for (const [mask, centre] of [
    [1, 1],
    [3, 1],
  ] as const) {
    const near = index.get(cellKey(grid.target[i]!, (column & ~mask) | centre, (row & ~mask) | centre));
    if (near !== undefined && !Number.isNaN(values[near]!)) return values[near]!;
  }
  return NaN;
}

/** The result as coloured cells lying on its targets, with an ink line where the threshold runs. */
export function resultCells(result: StudyResult, ground: Ground, look: ResultStyle): Group {
  const index = sensorIndex(result);
  const { grid, targets } = result;
  const position: number[] = [];
  const colour: number[] = [];
  const [border, contour]: number[][] = [[], []];
  const surfaces = targets.map((target) => targetSurface(target, ground));
  for (let i = 0; i < grid.count; i++) {
    const value = shownValue(result, index, i);
    if (Number.isNaN(value)) continue;
    const target = targets[grid.target[i]!]!;
    const lift = (p: Point2, more = 0) => surfaces[grid.target[i]!]!.at(p, LIFT_M + more);
    const column = grid.cells[i * 2]!;
    const row = grid.cells[i * 2 + 1]!;
    const tone = rampRgb(RAMPS[look.ramp], shareOn(look, value));
    for (const { outer, holes } of cellShape(target, column, row)) {
      const rings = [outer, ...holes];
      const flat = rings.map((ring) => ring.map(([x, y]) => new Vector2(x, y)));
      const points = rings.flat();
      for (const face of ShapeUtils.triangulateShape(flat[0]!, flat.slice(1)))
        for (const k of face) {
          position.push(...lift(points[k]!));
          colour.push(...tone);
        }
    }
    const enough = value >= look.atLeast - 1e-6;
    const level = levelOf(look, value);
    for (const [dc, dr] of [
      [1, 0],
      [0, 1],
    ] as const) {
      const other = index.get(cellKey(grid.target[i]!, column + dc, row + dr));
      if (other === undefined) continue;
      const next = shownValue(result, index, other);
      if (Number.isNaN(next)) continue;
      const crosses = next >= look.atLeast - 1e-6 !== enough;
      const isContour = look.contours === true && levelOf(look, next) !== level;
      if (!crosses && !isContour) continue;
      const [a, b] = sharedEdge(result, i, dc);
      (crosses ? border : contour)!.push(...polyline([lift(a, 0.03), lift(b, 0.03)]));
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
      opacity: look.outdated ? 0.38 : 0.93,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -2,
      polygonOffsetUnits: -4,
      side: 2,
    }),
  );
  cells.renderOrder = 4;
  const group = new Group();
  group.add(cells, segments(border!, look.ink, look.outdated ? 0.4 : 1, 5));
  if (contour!.length) group.add(segments(contour!, look.ink, 0.45, 5));
  return group;
}

/** Steps between which contours run where the scale has none of its own. */
const CONTOUR_STEPS = 8;

/** The step of a scale that a value lies in. */
function levelOf({ min, max, steps }: ResultStyle, value: number): number {
  const count = steps && steps > 1 ? steps : CONTOUR_STEPS;
  return Math.max(0, Math.min(count - 1, Math.floor(((value - min) / Math.max(1e-9, max - min)) * count)));
}

/** Cells whose values are written at a time, at most. */
const MAX_WRITTEN = 1500;

/** The values of cells, or one value a contour and target, as labels on the scene. */
export function resultLabels(result: StudyResult, ground: Ground, look: ResultStyle): Label[] {
  const { grid, targets } = result;
  const values = shownValues(result);
  const measure = shownMeasure(result);
  const place = (i: number): [number, number, number] => {
    const [p, n] = [grid.positions, grid.normals];
    return [0, 1, 2].map((k) => p[i * 3 + k]! + n[i * 3 + k]! * LIFT_M) as [number, number, number];
  };
  const labels: Label[] = [];
  if (look.values === true && grid.count <= MAX_WRITTEN) {
    for (let i = 0; i < grid.count; i++)
      if (!Number.isNaN(values[i]!))
        labels.push({ text: readMeasure(measure, values[i]!), at: place(i), className: 'value' });
    return labels;
  }
  if (look.contours !== true) return labels;
  const count = look.steps && look.steps > 1 ? look.steps : CONTOUR_STEPS;
  const index = sensorIndex(result);
  const surfaces = targets.map((target) => targetSurface(target, ground));
  const written = new Set<string>();
  for (let i = 0; i < grid.count; i++) {
    if (Number.isNaN(values[i]!)) continue;
    const t = grid.target[i]!;
    const other = index.get(cellKey(t, grid.cells[i * 2]! + 1, grid.cells[i * 2 + 1]!));
    if (other === undefined || Number.isNaN(values[other]!)) continue;
    const level = Math.max(levelOf(look, values[i]!), levelOf(look, values[other]!));
    const key = `${t}/${level}`;
    if (levelOf(look, values[i]!) === levelOf(look, values[other]!) || written.has(key)) continue;
    written.add(key);
    const [a, b] = sharedEdge(result, i, 1);
    const at = surfaces[t]!.at([(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], LIFT_M);
    const value = look.min + (level / count) * (look.max - look.min);
    labels.push({ text: readMeasure(measure, value), at: [...at], className: 'value contour' });
  }
  return labels;
}

/** The edge that a cell shares with its neighbour to the right (dc = 1) or above. */
function sharedEdge(result: StudyResult, i: number, dc: number): [Point2, Point2] {
  const { grid, targets } = result;
  const target = targets[grid.target[i]!]!;
  const [x0, y0, x1, y1] = cellBox(target, grid.cells[i * 2]!, grid.cells[i * 2 + 1]!);
  return [
    [dc === 1 ? x1 : x0, dc === 1 ? y0 : y1],
    [x1, y1],
  ];
}

/** How far off a target a place may lie to be on it, metres. */
const NEAR_M = 0.2;

/** The sensor whose cell holds a place on one of the targets, or null. */
export function sensorAt(
  result: StudyResult,
  index: ReadonlyMap<string, number>,
  place: Point3,
  ground: Ground,
): number | null {
  for (let t = 0; t < result.targets.length; t++) {
    const target = result.targets[t]!;
    const { p, offM } = targetSurface(target, ground).under(place);
    if (Math.abs(offM) > NEAR_M) continue;
    const { column, row } = cellAt(target, p);
    const found = index.get(cellKey(t, column, row));
    if (found !== undefined) return found;
  }
  return null;
}
