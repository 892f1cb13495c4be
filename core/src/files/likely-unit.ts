import { longSide, type Mesh, type Point2 } from '../geometry';
import type { ModelFile } from './model-file';
import { extentOf, metresOf, type ModelUnit, upwards, type UpAxis } from './model-units';

/** Likely heights of buildings and sizes of their outlines, and what most are near to, metres. */
const HEIGHTS = { least: 2, most: 400, usual: 12 };
const OUTLINES = { least: 2, most: 250 };
/** Beyond these a unit that a drawing states cannot be meant: nothing, or everything, would be a building. */
const STATED = { least: 0.6, most: 600, mostOfFeet: 250, mostOfFeetInMetric: 60, mostOfSurfaces: 20_000 };
/** A drawing of rooms and furniture in millimetres has outlines over this many of them; a plan in metres has none. */
const MILLIMETRES_FROM = 2500;
/** Units that are guessed: never feet, since metres look like feet too easily. */
const GUESSED: readonly ModelUnit[] = ['m', 'cm', 'mm'];
const FEET: readonly ModelUnit[] = ['in', 'ft', 'us-ft', 'us-in', 'mil', 'uin'];

const isWithin = (size: number, { least, most }: { least: number; most: number }) =>
  size >= least && size <= most;

/** The unit that a file is most likely in where it states none: of drawings by their outlines, else by the surfaces. */
export function likelyUnitOf(
  model: Pick<ModelFile, 'format' | 'mesh' | 'footprints' | 'spots' | 'geographic'>,
  up: UpAxis,
): ModelUnit {
  if (!model.mesh && model.footprints.length === 0 && model.spots.length > 0 && !model.geographic)
    return spotUnit(model.spots);
  const outlines = model.footprints.map(({ outer }) => outer);
  if (model.mesh && !(model.format === 'dxf' && outlines.length > 0)) return likelyUnit(model.mesh, up);
  return model.geographic ? 'm' : likelyOutlineUnit(outlines);
}

/** A terrain reaches no further in metres. */
const TERRAIN_M = 50_000;

/** Heights over more than a terrain reaches are in millimetres. */
function spotUnit(spots: ModelFile['spots']): ModelUnit {
  let most = 0;
  for (const { positions } of spots) {
    const { min, max } = extentOf(positions);
    most = Math.max(most, max[0] - min[0], max[1] - min[1]);
  }
  return most > TERRAIN_M ? 'mm' : 'm';
}

/**
 * The unit in which a model is most likely to be a building or a neighbourhood: by its height, of the corners that
 * surfaces use; of flat ones by their size in plan. Metres where they are likely.
 */
export function likelyUnit({ positions, triangles }: Mesh, up: UpAxis): ModelUnit {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as [number[], number[]];
  for (const i of triangles)
    upwards(positions, i * 3, 1, up).forEach((v, k) => {
      if (v < low[k]!) low[k] = v;
      if (v > high[k]!) high[k] = v;
    });
  const [dx, dy, dz] = [0, 1, 2].map((k) => high[k]! - low[k]!) as [number, number, number];
  const plan = Math.max(dx, dy);
  // A wide terrain may be low for its size.
  const isHigh = dz > plan / 1000 || isWithin(dz, HEIGHTS);
  const [size, range] = isHigh ? [dz, HEIGHTS] : [plan, { ...OUTLINES, usual: 15 }];
  const off = (unit: ModelUnit) => Math.abs(Math.log(Math.max(1e-9, size * metresOf(unit)) / range.usual));
  if (isWithin(size, range)) return 'm';
  const all = GUESSED.filter((unit) => isWithin(size * metresOf(unit), range));
  return (all.length > 0 ? all : GUESSED).reduce((best, unit) => (off(unit) < off(best) ? unit : best));
}

/**
 * The unit in which outlines are most likely those of buildings and rooms. What most of the drawn area belongs to tells
 * more than the middle outline: floor plans are full of furniture, columns and swings of doors.
 */
export function likelyOutlineUnit(outlines: readonly (readonly Point2[])[]): ModelUnit {
  const sizes = sizesOf(outlines);
  const [size, middle] = [weightySize(sizes), sizes[Math.floor(sizes.length / 2)]];
  if (size === null || middle === undefined) return 'm';
  if (isWithin(size, OUTLINES) || (isWithin(middle, OUTLINES) && size <= MILLIMETRES_FROM)) return 'm';
  if (size > MILLIMETRES_FROM) return 'mm';
  return isWithin(size * metresOf('cm'), OUTLINES) ? 'cm' : 'm';
}

/**
 * Whether a drawing can be meant in the unit that it states: in others its outlines, or its surfaces, would be no buildings.
 * Inches and feet are believed less of a drawing that says elsewhere that it is metric.
 */
export function canBeIn(
  unit: ModelUnit,
  outlines: readonly (readonly Point2[])[],
  mesh: Mesh | null,
  isMetric = false,
): boolean {
  const size = weightySize(sizesOf(outlines));
  if (size !== null) {
    const mostOfFeet = isMetric ? STATED.mostOfFeetInMetric : STATED.mostOfFeet;
    const most = FEET.includes(unit) ? mostOfFeet : STATED.most;
    return isWithin(size * metresOf(unit), { least: STATED.least, most });
  }
  if (!mesh) return true;
  const { min, max } = extentOf(mesh.positions);
  const longest = Math.max(...[0, 1, 2].map((k) => max[k]! - min[k]!));
  return isWithin(longest * metresOf(unit), { least: STATED.least, most: STATED.mostOfSurfaces });
}

/** The longest sides of the boxes of lines, the largest first. */
function sizesOf(outlines: readonly (readonly Point2[])[]): number[] {
  return outlines
    .map(longSide)
    .filter((size) => size > 0)
    .sort((a, b) => b - a);
}

/** The size at which half of all the area (as squares) is reached, but for a frame round all the others; null without any. */
function weightySize(sizes: readonly number[]): number | null {
  const own = sizes.length >= 4 && sizes[0]! > 3 * sizes[1]! ? sizes.slice(1) : sizes;
  const half = own.reduce((sum, size) => sum + size * size, 0) / 2;
  let sum = 0;
  return own.find((size) => (sum += size * size) >= half) ?? null;
}
