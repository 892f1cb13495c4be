import { InputError } from '../errors';
import type { Mesh, Point2 } from '../geometry';
import { MAX_COORDINATE_M } from '../project';

/** Units that a model file may be in, with their length in metres. */
export const MODEL_UNITS = [
  { id: 'm', name: 'metres', metres: 1 },
  { id: 'cm', name: 'centimetres', metres: 0.01 },
  { id: 'mm', name: 'millimetres', metres: 0.001 },
  { id: 'ft', name: 'feet', metres: 0.3048 },
  { id: 'in', name: 'inches', metres: 0.0254 },
  { id: 'dm', name: 'decimetres', metres: 0.1 },
  { id: 'km', name: 'kilometres', metres: 1000 },
  { id: 'yd', name: 'yards', metres: 0.9144 },
  { id: 'mi', name: 'miles', metres: 1609.344 },
  { id: 'us-ft', name: 'US survey feet', metres: 1200 / 3937 },
] as const;

export type ModelUnit = (typeof MODEL_UNITS)[number]['id'];
export type UpAxis = 'z' | 'y';

/** Least and greatest coordinates. */
export interface Extent {
  min: [number, number, number];
  max: [number, number, number];
}

export function extentOf(positions: Float64Array): Extent {
  const extent: Extent = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3;
    const value = positions[i]!;
    if (value < extent.min[axis]!) extent.min[axis] = value;
    if (value > extent.max[axis]!) extent.max[axis] = value;
  }
  return extent;
}

/** A corner of a mesh in metres with z up. `at` is the place of its x among the positions. */
export function upwards(
  positions: Float64Array,
  at: number,
  metres: number,
  up: UpAxis,
): [number, number, number] {
  const [x, y, z] = [positions[at]! * metres, positions[at + 1]! * metres, positions[at + 2]! * metres];
  return up === 'z' ? [x, y, z] : [x, -z, y];
}

/** The model in metres with z up. Throws InputError `model-size` when it would reach beyond the project's bounds. */
export function modelInMetres(mesh: Mesh, unit: ModelUnit, up: UpAxis): Mesh {
  const { metres } = MODEL_UNITS.find((item) => item.id === unit)!;
  const positions = new Float64Array(mesh.positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    const x = mesh.positions[i]! * metres;
    const y = mesh.positions[i + 1]! * metres;
    const z = mesh.positions[i + 2]! * metres;
    positions[i] = x;
    positions[i + 1] = up === 'z' ? y : -z;
    positions[i + 2] = up === 'z' ? z : y;
  }
  const extent = extentOf(positions);
  for (let axis = 0; axis < 3; axis++)
    if (extent.max[axis]! - extent.min[axis]! > MAX_COORDINATE_M)
      throw new InputError(
        'model-size',
        `In ${MODEL_UNITS.find((item) => item.id === unit)!.name} this model would be ${Math.round((extent.max[axis]! - extent.min[axis]!) / 1000)} km long; choose a smaller unit.`,
      );
  return { positions, triangles: mesh.triangles };
}

/** Likely heights of buildings and sizes of their outlines, and what most are near to, metres. */
const HEIGHTS = { least: 2, most: 400, usual: 12 };
const OUTLINES = { least: 2, most: 250, usual: 15 };
/** Units that are guessed: never feet, since metres look like feet too easily. */
const GUESSED: readonly ModelUnit[] = ['m', 'cm', 'mm'];

/** Metres where they are likely, else of the units in which a size is likely the one in which it is the most usual. */
function likelyBy(size: number, { least, most, usual }: typeof HEIGHTS): ModelUnit {
  const lengthIn = (unit: ModelUnit) => size * metresOf(unit);
  const off = (unit: ModelUnit) => Math.abs(Math.log(Math.max(1e-9, lengthIn(unit)) / usual));
  const isLikely = (unit: ModelUnit) => lengthIn(unit) >= least && lengthIn(unit) <= most;
  if (isLikely('m')) return 'm';
  const all = GUESSED.filter(isLikely);
  return (all.length > 0 ? all : GUESSED).reduce((best, unit) => (off(unit) < off(best) ? unit : best));
}

/** Metres of a unit. */
export const metresOf = (unit: ModelUnit): number => MODEL_UNITS.find(({ id }) => id === unit)!.metres;

/**
 * The unit in which a model is most likely to be a building or a neighbourhood: by its height, of the corners that
 * surfaces use; of flat ones by their size in plan.
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
  const isHigh = dz > plan / 1000 || (dz >= HEIGHTS.least && dz <= HEIGHTS.most);
  return isHigh ? likelyBy(dz, HEIGHTS) : likelyBy(plan, OUTLINES);
}

/** The unit in which outlines are most likely footprints: by the longest side of the middle one of them. */
export function likelyOutlineUnit(outlines: readonly (readonly Point2[])[]): ModelUnit {
  const size = middleSize(outlines);
  return size === null ? 'm' : likelyBy(size, OUTLINES);
}

/** Whether outlines could be footprints in a unit at all. */
export function isLikelyOutlineUnit(outlines: readonly (readonly Point2[])[], unit: ModelUnit): boolean {
  const size = middleSize(outlines);
  if (size === null) return true;
  const length = size * metresOf(unit);
  return length >= OUTLINES.least && length <= OUTLINES.most;
}

/** The longest side of the box of the middle outline; null without any. */
function middleSize(outlines: readonly (readonly Point2[])[]): number | null {
  const sizes = outlines
    .map((ring) => {
      const of = (k: 0 | 1) => ring.map((p) => p[k]);
      const span = (values: number[]) =>
        values.reduce((a, b) => Math.max(a, b), -Infinity) -
        values.reduce((a, b) => Math.min(a, b), Infinity);
      return Math.max(span(of(0)), span(of(1)));
    })
    .filter((size) => size > 0)
    .sort((a, b) => a - b);
  return sizes[Math.floor(sizes.length / 2)] ?? null;
}
