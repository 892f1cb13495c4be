import type { Point3 } from '../../../geometry';
import { counted, type ModelFile } from '../../model-file';
import type { PlacedShape } from './dxf-blocks';
import { perLayer } from './dxf-rings';

type Path = Extract<PlacedShape, { kind: 'path' }>;

const CONTOUR_NAMES =
  /contour|höhenlin|hoehenlin|h-?linien|isohyps|isoh|curvas? ?de ?nivel|courbes? ?de ?niveau|break ?line|bruchkant/i;

/** So many corners have lines that follow the ground; outlines of buildings have fewer. */
const MANY_CORNERS = 10;
/** Contour lines of a layer lie at so many levels at the least, evenly spaced. */
const LEVELS = 3;
/** Heights that are a terrain rather than a few marks. */
export const FEW_SPOTS = 10;

/** The level of a line; null where its corners differ. */
function levelOf({ points }: Path): number | null {
  const [first] = points;
  return first && points.every((p) => Math.abs(p[2] - first[2]) <= 1e-6 * Math.max(1, Math.abs(first[2])))
    ? first[2]
    : null;
}

/** Whether the lines of a layer are contour lines: named so, or at evenly spaced levels, and open or of many corners. */
function areContours(layer: string, paths: readonly Path[]): boolean {
  const levels = paths.map(levelOf);
  const own = [...new Set(levels.filter((level) => level !== null))].sort((a, b) => a - b);
  if (CONTOUR_NAMES.test(layer)) return own.some((level) => level !== 0) || levels.includes(null);
  if (own.length < LEVELS || levels.includes(null)) return false;
  const steps = own.slice(1).map((level, i) => level - own[i]!);
  const step = Math.min(...steps);
  const isEven = steps.every((one) => Math.abs(one / step - Math.round(one / step)) < 0.02);
  const corners = paths.map(({ points }) => points.length).sort((a, b) => a - b);
  const open = paths.filter(({ isClosed }) => !isClosed).length;
  return isEven && corners[corners.length >> 1]! >= (open > 0 ? MANY_CORNERS / 2 : MANY_CORNERS);
}

/**
 * Takes what tells heights out of the shapes of a drawing: points with a height, and lines of layers of contours. Gives the
 * other shapes.
 */
export function takeContours(model: ModelFile, shapes: readonly PlacedShape[]): PlacedShape[] {
  const heights = new Map<string, number[]>();
  const note = (layer: string, points: readonly Point3[]) => {
    const known = heights.get(layer);
    if (known) for (const p of points) known.push(...p);
    else heights.set(layer, points.flat());
  };
  const isPath = (shape: PlacedShape): shape is Path => shape.kind === 'path';
  const isLine = (shape: PlacedShape): shape is Path =>
    isPath(shape) && shape.thickness === 0 && !['HATCH', 'SOLID', 'TRACE', 'CIRCLE'].includes(shape.type);
  const contours = new Set<string>();
  for (const [layer, paths] of perLayer(shapes.filter(isLine)))
    if (areContours(layer, paths)) {
      contours.add(layer);
      for (const { points } of paths) note(layer, points);
      const levels = paths.flatMap(({ points }) => points.map((p) => p[2]));
      const [low, high] = levels.reduce(
        ([a, b], z) => [Math.min(a, z), Math.max(b, z)],
        [Infinity, -Infinity],
      );
      model.notes.push(
        `${counted(paths.length, 'line', 'lines')} of “${layer}”, at ${Number(low!.toFixed(2))} to ${Number(high!.toFixed(2))}, ${paths.length === 1 ? 'is a contour line' : 'are contour lines'}: they are heights of the terrain.`,
      );
    }
  let flat = 0;
  const rest = shapes.filter((shape) => {
    if (shape.kind === 'spot') {
      if (shape.points[0]![2] === 0) flat++;
      else note(shape.layer, shape.points);
      return false;
    }
    return !(isLine(shape) && contours.has(shape.layer));
  });
  if (flat > 0)
    model.notes.push(
      `${counted(flat, 'point without a height is', 'points without a height are')} left out.`,
    );
  for (const [name, positions] of heights)
    model.spots.push({
      name,
      positions: Float64Array.from(positions),
      ...(!contours.has(name) && positions.length / 3 < FEW_SPOTS && { isFew: true }),
    });
  return rest;
}
