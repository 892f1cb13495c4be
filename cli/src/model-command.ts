import {
  counted,
  extentOf,
  extentOfAll,
  likelyUnitOf,
  metresOf,
  MODEL_UNITS,
  type ModelUnit,
  type UpAxis,
  faultSentences,
  type IfcReader,
  meshFaults,
  type ModelFile,
  modelFormat,
  emptyProject,
  modelRows,
  placing,
  readModelFile,
  weldMesh,
} from '@dial-shade/core';
import { Command } from 'commander';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';
import { setFlagsFromString } from 'node:v8';
import { GuardedIfc } from './guarded-ifc';
import { progressLine } from './progress-line';
import { readBytes } from './project-file';

/** From here on memory counts more than time: what the engine has not cleared yet is twice of what a file needs. */
const LARGE_BYTES = 8 * 1024 * 1024;
const SMALL_HEAP = '--heap-growing-percent=20';

/** A model file of any format; for `joinM` and `near` see `readModelFile`. Throws InputError. */
export async function readModel(
  path: string,
  options: NonNullable<Parameters<typeof readModelFile>[4]> = {},
): Promise<ModelFile> {
  const bytes = await readBytes(path);
  if (bytes.length > LARGE_BYTES) setFlagsFromString(SMALL_HEAP);
  const line = progressLine(`Reading “${basename(path)}”`);
  try {
    if (modelFormat(bytes, path) === 'ifc') return await readGuarded(bytes);
    const noIfc = (): Promise<IfcReader> => Promise.reject(new Error('asked for IFC'));
    return await readModelFile(bytes, path, noIfc, line.tell, options);
  } finally {
    line.end();
  }
}

async function readGuarded(bytes: Uint8Array): Promise<ModelFile> {
  // Beside the bundles of the command line, whichever of them or their chunks this lies in.
  const guard = new GuardedIfc(fileURLToPath(new URL('../cli', import.meta.url)));
  try {
    return await guard.read(bytes);
  } finally {
    await guard.close();
  }
}

/** Width, depth and height in metres of all that a file holds in a unit; null of a geographic one. */
function sizeOf(model: ModelFile, unit: ModelUnit, up: UpAxis): [number, number, number] | null {
  if (model.geographic) return null;
  const { min, max } = extentOfAll(model, { up }, metresOf(unit));
  const span = (k: 0 | 1 | 2) => (Number.isFinite(min[k]) ? Number((max[k] - min[k]).toFixed(3)) : 0);
  return [span(0), span(1), span(2)];
}

/** The unit that is gone by, where it comes from, and how large the file is in it. */
export function sizeInWords(model: ModelFile, unit: ModelUnit, up: UpAxis, isTyped: boolean): string {
  const size = sizeOf(model, unit, up);
  if (!size) return `${counted(model.footprints.length, 'outline', 'outlines')} in longitude and latitude.`;
  const { name } = MODEL_UNITS.find(({ id }) => id === unit)!;
  const from = isTyped ? 'as asked' : model.unit === null ? 'guessed by size' : 'as the file states';
  const [width, depth, height] = size;
  return `In ${name} (${from}): ${width} × ${depth} m in plan${height > 0 ? `, ${height} m high` : ''}.`;
}

/** What is guessed of a model where the file does not state it, and that it would not stay where its coordinates are. */
function guessedInWords(model: ModelFile, unit: ModelUnit, up: UpAxis): string[] {
  const said: string[] = [];
  const { name } = MODEL_UNITS.find(({ id }) => id === unit)!;
  // A drawing says it itself.
  if (model.mesh && model.unit === null && model.format !== 'dxf')
    said.push(`The file states no unit; by its size it is taken as ${name}.`);
  if (model.mesh && model.up === null) said.push('The file states no axis that points up; it is taken as z.');
  const found = placing(emptyProject('', 2026), model, { unit, up, centre: false });
  return [...said, ...found.notes.map((note) => `In an empty project: ${note}`)];
}

/** `model`: what a model file holds, before anything is done with it. */
export function modelCommand(): Command {
  return new Command('model')
    .description(
      'what a model file holds: OBJ, STL, GLB, GeoJSON, CityJSON, IFC, DXF, or heights (ASC, XYZ, GeoTIFF, LandXML)',
    )
    .argument('<file>', 'model file')
    .action(async (path: string) => {
      const model = await readModel(path);
      const up = model.up ?? 'z';
      const unit = model.unit ?? likelyUnitOf(model, up);
      const faults = model.mesh ? meshFaults(weldMesh(model.mesh)) : null;
      const extent = model.mesh ? extentOf(model.mesh.positions) : null;
      console.log(
        JSON.stringify(
          {
            format: model.format,
            unit: model.unit,
            likely_unit: unit,
            size_m: sizeOf(model, unit, up),
            system: model.system,
            up: model.up,
            triangles: model.mesh ? model.mesh.triangles.length / 3 : 0,
            vertices: model.mesh ? model.mesh.positions.length / 3 : 0,
            min: extent?.min ?? null,
            max: extent?.max ?? null,
            groups: model.groups,
            rows: modelRows(model),
            footprints: model.footprints,
            rooms: model.rooms,
            spots: model.spots.map(({ name, positions }) => ({
              name,
              heights: positions.length / 3,
              ...extentOf(positions),
            })),
            site: model.site,
            trueNorthDeg: model.trueNorthDeg,
            faults,
            notes: [
              ...model.notes,
              ...guessedInWords(model, unit, up),
              ...(faults ? faultSentences(faults) : []),
            ],
          },
          null,
          1,
        ),
      );
    });
}
