import { InputError } from '../errors';
import type { Mesh } from '../geometry';
import { MAX_COORDINATE_M } from '../project';

/** Units that a model file may be in, with their length in metres. */
export const MODEL_UNITS = [
  { id: 'm', name: 'metres', metres: 1 },
  { id: 'cm', name: 'centimetres', metres: 0.01 },
  { id: 'mm', name: 'millimetres', metres: 0.001 },
  { id: 'ft', name: 'feet', metres: 0.3048 },
  { id: 'in', name: 'inches', metres: 0.0254 },
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

/** The unit in which the model is most likely to be a building or a neighbourhood: height nearest to 12 m on a log scale. */
export function likelyUnit(mesh: Mesh, up: UpAxis): ModelUnit {
  const { min, max } = extentOf(mesh.positions);
  const axis = up === 'z' ? 2 : 1;
  const height = Math.max(1e-9, max[axis]! - min[axis]!);
  const candidates = MODEL_UNITS.filter(({ id }) => id !== 'in');
  const score = (metres: number) => Math.abs(Math.log((height * metres) / 12));
  const metres = score(1);
  if (metres < Math.log(4)) return 'm';
  return candidates.reduce((best, unit) => (score(unit.metres) < score(best.metres) ? unit : best)).id;
}
