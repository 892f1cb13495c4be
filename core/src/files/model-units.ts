import { InputError } from '../errors';
import type { Mesh } from '../geometry';
import { MAX_COORDINATE_M } from '../project';

/** Units that a model file may be in, with their length in metres: the first ones can be chosen, rare ones only stated. */
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
  // Rare ones, that drawings may state.
  { id: 'us-in', name: 'US survey inches', metres: 100 / 3937 },
  { id: 'us-yd', name: 'US survey yards', metres: 3600 / 3937 },
  { id: 'us-mi', name: 'US survey miles', metres: 6336000 / 3937 },
  { id: 'dam', name: 'decametres', metres: 10 },
  { id: 'hm', name: 'hectometres', metres: 100 },
  { id: 'um', name: 'microns', metres: 1e-6 },
  { id: 'nm', name: 'nanometres', metres: 1e-9 },
  { id: 'mil', name: 'mils', metres: 2.54e-5 },
  { id: 'uin', name: 'microinches', metres: 2.54e-8 },
] as const;

/** How many of them can be chosen. */
export const COMMON_UNITS = 10;

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

/** Metres of a unit. */
export const metresOf = (unit: ModelUnit): number => MODEL_UNITS.find(({ id }) => id === unit)!.metres;
