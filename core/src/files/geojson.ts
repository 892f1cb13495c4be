import { InputError } from '../errors';
import type { Point2 } from '../geometry';
import {
  blankModel,
  checkSize,
  cleanName,
  freshName,
  type ModelFile,
  type ModelFootprint,
  parseJson,
} from './model-file';

/** Outlines that one file may bring. */
export const MAX_FOOTPRINTS = 5000;

/** Names under which heights are usually kept, the likeliest first. */
const HEIGHT_NAMES = [
  'height',
  'building:height',
  'height_m',
  'heightm',
  'building_height',
  'bldg_height',
  'measuredheight',
  'hoehe',
  'hauteur',
  'altura',
  'altezza',
  'hoogte',
  'roof_height',
  'z_height',
  'h',
];
const STOREY_NAMES = ['building:levels', 'levels', 'storeys', 'stories', 'floors', 'num_floors'];
const STOREY_M = 3;

/**
 * Reads the polygons of a GeoJSON file (RFC 7946: longitude and latitude). Each becomes an outline with its properties.
 * Throws InputError `geojson`, `too-large` or `empty`.
 */
export function readGeoJson(bytes: Uint8Array): ModelFile {
  checkSize(bytes);
  const json = parseJson(bytes, 'geojson', 'a GeoJSON file') as { type?: unknown };
  const model = blankModel('geojson');
  model.geographic = true;
  model.unit = 'm';
  model.up = 'z';
  const taken = new Set<string>();
  let others = 0;
  const queue: { geometry: unknown; properties: unknown }[] = [];
  const push = (item: unknown, properties: unknown = {}) => queue.push({ geometry: item, properties });
  if (typeof json !== 'object' || json === null)
    throw new InputError('geojson', 'This is not a GeoJSON file: it does not hold one object.');
  push(json);
  for (let i = 0; i < queue.length; i++) {
    if (queue.length > 200_000) throw new InputError('geojson', 'The file holds too many features.');
    const { geometry, properties } = queue[i]!;
    const item = geometry as Record<string, unknown> | null;
    if (typeof item !== 'object' || item === null) continue;
    if (item.type === 'FeatureCollection' && Array.isArray(item.features))
      for (const feature of item.features) push(feature);
    else if (item.type === 'Feature')
      push(item.geometry, { id: item.id, ...(item.properties as object | null) });
    else if (item.type === 'GeometryCollection' && Array.isArray(item.geometries))
      for (const part of item.geometries) push(part, properties);
    else if (item.type === 'Polygon') add(model, taken, item.coordinates, properties);
    else if (item.type === 'MultiPolygon' && Array.isArray(item.coordinates))
      for (const part of item.coordinates) add(model, taken, part, properties);
    else others++;
  }
  if (model.footprints.length === 0)
    throw new InputError(
      'geojson',
      'The file holds no polygons; only polygons can become buildings or areas.',
    );
  if (others) model.notes.push(`${others} features that are not polygons are left out.`);
  return model;
}

function add(model: ModelFile, taken: Set<string>, coordinates: unknown, raw: unknown): void {
  if (model.footprints.length >= MAX_FOOTPRINTS)
    throw new InputError(
      'geojson',
      `The file holds more than ${MAX_FOOTPRINTS.toLocaleString('en')} polygons; leave out what is far from the site.`,
    );
  const number = model.footprints.length + 1;
  if (!Array.isArray(coordinates) || coordinates.length === 0)
    throw new InputError('geojson', `Polygon ${number} has no coordinates.`);
  const rings = coordinates.map((ring) => readRing(ring, number));
  const properties = plainProperties(raw);
  model.footprints.push({
    name: freshName(cleanName(properties.name ?? properties.id, `Outline ${number}`), taken),
    layer: cleanName(properties.building ?? properties.layer ?? properties.type, 'polygons'),
    outer: rings[0]!,
    holes: rings.slice(1),
    height: guessHeight(properties),
    properties,
  });
}

function readRing(raw: unknown, number: number): Point2[] {
  if (!Array.isArray(raw))
    throw new InputError('geojson', `Polygon ${number} has a ring that is not a list.`);
  if (raw.length > 20_000) throw new InputError('geojson', `Polygon ${number} has more than 20,000 corners.`);
  const ring = raw.map((p): Point2 => {
    const [x, y] = Array.isArray(p) ? (p as unknown[]) : [];
    if (typeof x !== 'number' || typeof y !== 'number' || !Number.isFinite(x) || !Number.isFinite(y))
      throw new InputError('geojson', `Polygon ${number} has a corner that is not a pair of numbers.`);
    if (Math.abs(x) > 180 || Math.abs(y) > 90)
      throw new InputError(
        'geojson',
        `Polygon ${number} has a corner at ${x}, ${y}, which is no longitude and latitude; export the file in WGS 84.`,
      );
    return [x, y];
  });
  const last = ring.at(-1);
  if (ring.length > 1 && last![0] === ring[0]![0] && last![1] === ring[0]![1]) ring.pop();
  if (ring.length < 3) throw new InputError('geojson', `Polygon ${number} has fewer than three corners.`);
  return ring;
}

function plainProperties(raw: unknown): Record<string, string | number> {
  const plain: Record<string, string | number> = {};
  for (const [key, value] of Object.entries((raw ?? {}) as object).slice(0, 60))
    if (typeof value === 'number' && Number.isFinite(value)) plain[key.slice(0, 60)] = value;
    else if (typeof value === 'string') plain[key.slice(0, 60)] = value.slice(0, 200);
  return plain;
}

/** A number at the start of a property: 12, "12.5", "12 m". */
export function numberIn(value: string | number | undefined): number | null {
  if (typeof value === 'number') return value;
  const match = /^\s*(-?\d+(?:[.,]\d+)?)/.exec(value ?? '');
  return match ? Number(match[1]!.replace(',', '.')) : null;
}

/** The property that most likely holds heights, among those that any outline has; null when none looks like it. */
export function likelyHeightProperty(footprints: readonly ModelFootprint[]): string | null {
  const keys = new Set(footprints.flatMap(({ properties }) => Object.keys(properties)));
  const plain = (key: string) => key.toLowerCase().replace(/[\s-]+/g, '_');
  for (const wanted of HEIGHT_NAMES) for (const key of keys) if (plain(key) === wanted) return key;
  for (const key of keys) if (/height|hoehe|höhe/i.test(key)) return key;
  return null;
}

function guessHeight(properties: Record<string, string | number>): number | null {
  const key = likelyHeightProperty([{ name: '', layer: '', outer: [], holes: [], height: null, properties }]);
  const height = key === null ? null : numberIn(properties[key]);
  if (height !== null && height > 0) return height;
  for (const [name, value] of Object.entries(properties)) {
    const storeys = STOREY_NAMES.includes(name.toLowerCase()) ? numberIn(value) : null;
    if (storeys !== null && storeys > 0) return storeys * STOREY_M;
  }
  return null;
}
