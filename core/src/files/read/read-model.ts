import { InputError } from '../../errors';
import { readCityJson } from './cityjson';
import { type DrawingOptions, readDxf } from './dxf/read-dxf';
import type { GeoJsonOptions } from './degrees';
import { readGeoJson } from './geojson';
import { readGeoTiff } from './geotiff';
import { readGlb } from './glb';
import { readHeights } from './heights-file';
import { type IfcReader, readIfc } from './ifc';
import {
  blankModel,
  checkSize,
  type ModelFile,
  type ModelFormat,
  type ReadProgress,
  leftOut,
} from '../model-file';
import { readLandXml } from './landxml';
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
  jsonl: 'cityjson',
  geojsonl: 'geojson',
  geojsons: 'geojson',
  ifc: 'ifc',
  dxf: 'dxf',
  ...{ asc: 'heights', grd: 'heights', xyz: 'heights', pts: 'heights', txt: 'heights', csv: 'heights' },
  ...{ tif: 'geotiff', tiff: 'geotiff', xml: 'landxml', landxml: 'landxml' },
};

/** What to do with common kinds that are not read. */
const INSTEAD: Readonly<Record<string, string>> = {
  gltf: 'export it as GLB, which holds everything in one file',
  dwg: 'save the drawing as DXF (text)',
  zip: 'unpack it first',
  ifczip: 'unpack it first',
  gz: 'unpack it first',
  ...{ shp: 'export it as GeoJSON', gpkg: 'export it as GeoJSON', kml: 'export it as GeoJSON' },
  ...{
    gml: 'export it as CityJSON',
    fbx: 'export it as GLB',
    dae: 'export it as GLB',
    '3ds': 'export it as GLB',
  },
  ply: 'export it as OBJ or STL',
  ...{
    png: 'lay it on the ground as a picture, to trace over it',
    jpg: 'lay it on the ground as a picture, to trace over it',
    jpeg: 'lay it on the ground as a picture, to trace over it',
    pdf: 'lay a page of it on the ground as a picture, to trace over it',
  },
};

/** What a file is, by its first bytes where they tell, else by the ending of its name; null when neither does. */
export function modelFormat(bytes: Uint8Array, name: string): ModelFormat | null {
  const isWide = bytes[0] === 0xff && bytes[1] === 0xfe;
  const begin = new TextDecoder(isWide ? 'utf-16le' : 'utf-8').decode(bytes.subarray(0, 4096));
  // Records of a sequence may begin with a separator.
  const head = (begin.split('\u001e').find((part) => part.trim() !== '') ?? '').trimStart();
  if (head.startsWith('glTF')) return 'glb';
  // TIFF, in either order of bytes, and its large form.
  if (/^(?:II[*+]\0|MM\0[*+])/.test(head)) return 'geotiff';
  if (/^<[\s\S]*<(?:\w+:)?LandXML/.test(head)) return 'landxml';
  if (/^ncols\s/i.test(head)) return 'heights';
  if (head.startsWith('ISO-10303-21')) return 'ifc';
  if (head.startsWith('{')) {
    if (/"type"\s*:\s*"CityJSON(Feature)?"/.test(head)) return 'cityjson';
    if (/"type"\s*:\s*"(FeatureCollection|Feature|GeometryCollection|(Multi)?Polygon)"/.test(head))
      return 'geojson';
    // Written with its keys in order, a file says last what it is.
    const end = new TextDecoder().decode(bytes.subarray(-4096));
    const last = /"type"\s*:\s*"(FeatureCollection|GeometryCollection|CityJSON)"/.exec(end)?.[1];
    if (last) return last === 'CityJSON' ? 'cityjson' : 'geojson';
  }
  return MODEL_ENDINGS[ending(name)] ?? null;
}

const ending = (name: string): string => /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';

/** How a file is read: of a drawing; and where the project lies, should a file hold more than can be brought in. */
export interface ReadOptions extends DrawingOptions, GeoJsonOptions {}

/**
 * Reads a model file of any format. `ifc` starts the library that reads IFC; it is only called for such a file.
 * Throws InputError with a sentence for whatever cannot be read.
 */
export async function readModelFile(
  raw: Uint8Array,
  name: string,
  ifc: () => Promise<IfcReader>,
  progress?: ReadProgress,
  { near, latitudeFirst, ...drawing }: ReadOptions = {},
): Promise<ModelFile> {
  checkSize(raw);
  // A byte-order mark is no part of a text.
  const isMarked = raw[0] === 0xef && raw[1] === 0xbb && raw[2] === 0xbf;
  const bytes = isMarked ? raw.subarray(3) : raw;
  switch (modelFormat(bytes, name)) {
    case 'obj':
      return objModel(bytes, progress);
    case 'stl':
      return readStl(bytes, progress);
    case 'glb':
      return readGlb(bytes, progress);
    case 'geojson':
      return readGeoJson(bytes, { near: near ?? null, latitudeFirst: latitudeFirst ?? null });
    case 'cityjson':
      return readCityJson(bytes, progress);
    case 'dxf':
      return readDxf(bytes, drawing);
    case 'heights':
      return readHeights(bytes);
    case 'geotiff':
      return readGeoTiff(bytes);
    case 'landxml':
      return readLandXml(bytes);
    case 'ifc':
      return readIfc(bytes, await ifc(), progress);
    default:
      throw new InputError(
        'format',
        `“${name}” is of no kind that can be read; ${
          INSTEAD[ending(name)] ??
          'use OBJ, STL, GLB, GeoJSON, CityJSON, IFC, DXF, or heights as ASC, XYZ, GeoTIFF or LandXML'
        }.`,
      );
  }
}

function objModel(bytes: Uint8Array, progress?: ReadProgress): ModelFile {
  const { mesh, groups, flatFaces } = readObj(bytes, progress);
  const model = blankModel('obj');
  model.mesh = mesh;
  model.groups = groups.length ? groups : [{ name: 'Model', firstTriangle: 0 }];
  model.notes.push(...leftOut(flatFaces, 'face without area', 'faces without area'));
  return model;
}
