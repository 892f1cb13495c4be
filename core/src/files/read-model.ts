import { InputError } from '../errors';
import { readCityJson } from './cityjson';
import { readDxf } from './dxf';
import { readGeoJson } from './geojson';
import { readGlb } from './glb';
import { type IfcReader, readIfc } from './ifc';
import { blankModel, checkSize, type ModelFile, type ModelFormat, type ReadProgress } from './model-file';
import { readObj } from './obj';
import { readStl } from './stl';

/** Formats by the usual endings of their file names. */
export const MODEL_ENDINGS: Record<string, ModelFormat> = {
  obj: 'obj',
  stl: 'stl',
  glb: 'glb',
  geojson: 'geojson',
  cityjson: 'cityjson',
  json: 'cityjson',
  ifc: 'ifc',
  dxf: 'dxf',
};

/** What a file is, by its first bytes where they tell, else by the ending of its name; null when neither does. */
export function modelFormat(bytes: Uint8Array, name: string): ModelFormat | null {
  const head = new TextDecoder().decode(bytes.subarray(0, 4096)).trimStart();
  if (head.startsWith('glTF')) return 'glb';
  if (head.startsWith('ISO-10303-21')) return 'ifc';
  if (head.startsWith('{')) {
    if (/"type"\s*:\s*"CityJSON"/.test(head)) return 'cityjson';
    if (/"type"\s*:\s*"(FeatureCollection|Feature|GeometryCollection|(Multi)?Polygon)"/.test(head))
      return 'geojson';
  }
  return MODEL_ENDINGS[/\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''] ?? null;
}

/**
 * Reads a model file of any format. `ifc` starts the library that reads IFC; it is only called for such a file.
 * Throws InputError with a sentence for whatever cannot be read.
 */
export async function readModelFile(
  bytes: Uint8Array,
  name: string,
  ifc: () => Promise<IfcReader>,
  progress?: ReadProgress,
): Promise<ModelFile> {
  checkSize(bytes);
  switch (modelFormat(bytes, name)) {
    case 'obj':
      return objModel(bytes, progress);
    case 'stl':
      return readStl(bytes, progress);
    case 'glb':
      return readGlb(bytes, progress);
    case 'geojson':
      return readGeoJson(bytes);
    case 'cityjson':
      return readCityJson(bytes, progress);
    case 'dxf':
      return readDxf(bytes);
    case 'ifc':
      return readIfc(bytes, await ifc(), progress);
    default:
      throw new InputError(
        'format',
        `“${name}” is of no kind that can be read; use OBJ, STL, GLB, GeoJSON, CityJSON, IFC or DXF.`,
      );
  }
}

function objModel(bytes: Uint8Array, progress?: ReadProgress): ModelFile {
  const { mesh, groups, flatFaces } = readObj(bytes, progress);
  const model = blankModel('obj');
  model.mesh = mesh;
  model.groups = groups.length ? groups : [{ name: 'Model', firstTriangle: 0 }];
  if (flatFaces) model.notes.push(`${flatFaces} faces without area are left out.`);
  return model;
}
