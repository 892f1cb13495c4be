import {
  extentOf,
  faultSentences,
  type IfcReader,
  meshFaults,
  type ModelFile,
  modelFormat,
  modelRows,
  readModelFile,
  weldMesh,
} from '@dial-shade/core';
import { Command } from 'commander';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { GuardedIfc } from './guarded-ifc';
import { readBytes } from './project-file';

/** A model file of any format. Throws InputError. */
export async function readModel(path: string): Promise<ModelFile> {
  const bytes = await readBytes(path);
  if (modelFormat(bytes, path) !== 'ifc')
    return readModelFile(bytes, path, (): Promise<IfcReader> => Promise.reject(new Error('asked for IFC')));
  const guard = new GuardedIfc(dirname(fileURLToPath(import.meta.url)));
  try {
    return await guard.read(bytes);
  } finally {
    await guard.close();
  }
}

/** `model`: what a model file holds, before anything is done with it. */
export function modelCommand(): Command {
  return new Command('model')
    .description('what a model file holds: OBJ, STL, GLB, GeoJSON, CityJSON, IFC or DXF')
    .argument('<file>', 'model file')
    .action(async (path: string) => {
      const model = await readModel(path);
      const extent = model.mesh ? extentOf(model.mesh.positions) : null;
      console.log(
        JSON.stringify(
          {
            format: model.format,
            unit: model.unit,
            up: model.up,
            triangles: model.mesh ? model.mesh.triangles.length / 3 : 0,
            vertices: model.mesh ? model.mesh.positions.length / 3 : 0,
            min: extent?.min ?? null,
            max: extent?.max ?? null,
            groups: model.groups,
            rows: modelRows(model),
            footprints: model.footprints,
            rooms: model.rooms,
            site: model.site,
            trueNorthDeg: model.trueNorthDeg,
            faults: model.mesh ? meshFaults(weldMesh(model.mesh)) : null,
            notes: [...model.notes, ...(model.mesh ? faultSentences(meshFaults(weldMesh(model.mesh))) : [])],
          },
          null,
          1,
        ),
      );
    });
}
