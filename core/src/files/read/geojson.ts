import { InputError } from '../../errors';
import { type Point2, signedArea } from '../../geometry';
import { isGeographic, type MapSystem, mapSystem } from '../../site';
import { areDegrees, DEGREE_M, ELSEWHERE_M, type GeoJsonOptions, type GeoPlace, takeOrder } from './degrees';
import {
  blankModel,
  checkSize,
  cleanName,
  counted,
  freshName,
  type ModelFile,
  type ModelFootprint,
  parseJson,
  leftOut,
} from '../model-file';
import { metresOf } from '../model-units';
import { farthestLeftOut, MAX_FOOTPRINTS, median, nearestOf } from './nearest';
import { takeHeights } from '../heights/outline-heights';
import { statedThing, THING_KEY } from '../bring/things';
import { LINE_KEY } from '../out/outlines-out';

/** Properties of an outline that are kept. */
const MAX_PROPERTIES = 120;

/**
 * Reads the polygons of a GeoJSON file (RFC 7946: longitude and latitude; or of a sequence of features, RFC 8142). A `crs` of
 * before that standard is gone by; without one, coordinates that are no longitude and latitude are taken as those of a plan.
 * Each polygon becomes an outline with its properties; of more than can be brought in, those nearest to a place are read.
 * Throws InputError `geojson`, `too-large` or `empty`.
 */
export function readGeoJson(bytes: Uint8Array, options: GeoJsonOptions = {}): ModelFile {
  checkSize(bytes);
  const model = blankModel('geojson');
  const values = parseJson(bytes, 'geojson', 'a GeoJSON file', model.notes) as { crs?: unknown }[];
  model.up = 'z';
  const reading: Reading = {
    model,
    taken: new Set(),
    isPlan: null,
    empty: 0,
    lowZ: Infinity,
    highZ: -Infinity,
  };
  const queue: { geometry: unknown; properties: unknown }[] = [];
  const push = (item: unknown, properties: unknown = {}) => queue.push({ geometry: item, properties });
  for (const value of values) {
    if (typeof value !== 'object' || value === null)
      throw new InputError('geojson', 'This is not a GeoJSON file: it does not hold one object.');
    push(value);
  }
  const system = systemOf(values[0]!.crs, reading);
  const others = new Map<string, number>();
  for (let i = 0; i < queue.length; i++) {
    if (queue.length > 200_000) throw new InputError('geojson', 'The file holds too many features.');
    const { geometry, properties } = queue[i]!;
    const item = geometry as Record<string, unknown> | null;
    if (typeof item !== 'object' || item === null) {
      if (item === null) reading.empty++;
      continue;
    }
    if (item.type === 'FeatureCollection' && Array.isArray(item.features))
      for (const feature of item.features) push(feature);
    else if (item.type === 'Feature') {
      if (!addThing(reading, item.geometry, item.properties))
        push(item.geometry ?? null, { id: item.id, ...(item.properties as object | null) });
    } else if (item.type === 'GeometryCollection' && Array.isArray(item.geometries))
      for (const part of item.geometries) push(part, properties);
    else if (item.type === 'Polygon') add(reading, item.coordinates, properties);
    else if (item.type === 'MultiPolygon' && Array.isArray(item.coordinates))
      for (const part of item.coordinates) add(reading, part, properties);
    else {
      const kind = typeof item.type === 'string' ? item.type : 'nothing known';
      others.set(kind, (others.get(kind) ?? 0) + 1);
    }
  }
  if (model.footprints.length === 0)
    throw new InputError(
      'geojson',
      'The file holds no polygons; only polygons can become buildings or areas.',
    );
  model.geographic = reading.isPlan === null ? areDegrees(model) : !reading.isPlan;
  if (model.geographic) takeOrder(model, options);
  model.unit = model.geographic || !system ? 'm' : system.metres === 1 ? 'm' : 'us-ft';
  if (!model.geographic && model.system === null)
    model.notes.push(
      'The coordinates are no longitude and latitude, and the file names no map system; they are taken as metres of a plan.',
    );
  keepNearest(model, options.near ?? null);
  if (model.geographic) model.site = middleOf(model.footprints);
  takeHeights(model.footprints, model.geographic ? 1 : metresOf(model.unit));
  const dropped = [...others.values()].reduce((sum, count) => sum + count, 0);
  const kinds = [...others].map(([kind, count]) => `${count.toLocaleString('en')} ${cleanName(kind, '?')}`);
  if (dropped > 0)
    model.notes.push(
      `${counted(dropped, 'feature that is no polygon is', 'features that are no polygons are')} left out: ${kinds.slice(0, 8).join(', ')}.`,
    );
  if (reading.lowZ !== Infinity)
    model.notes.push(
      `Heights of corners (${spreadOf(reading.lowZ, reading.highZ)} m) are passed over: outlines stand on the ground.`,
    );
  model.notes.push(
    ...leftOut(
      reading.empty,
      'feature without a geometry, or with one of no area,',
      'features without a geometry, or with one of no area,',
    ),
  );
  return model;
}

/** What is being read: whether its coordinates are those of a plan, once that is known. */
interface Reading {
  model: ModelFile;
  taken: Set<string>;
  isPlan: boolean | null;
  empty: number;
  /** Least and greatest third coordinate, where any is not 0. */
  lowZ: number;
  highZ: number;
}

/** The map system that a file names, if it is known; null for longitude and latitude, and where it says nothing. */
function systemOf(crs: unknown, reading: Reading): MapSystem | null {
  const named = ((crs as { properties?: { name?: unknown } } | null)?.properties ?? {}).name;
  if (typeof named !== 'string' || named.trim() === '') return null;
  const system = mapSystem(named);
  if (system && isGeographic(system)) {
    reading.isPlan = false;
    return null;
  }
  reading.isPlan = true;
  reading.model.system = cleanName(named, 'unknown');
  return system;
}

const spreadOf = (low: number, high: number) => {
  const [from, to] = [low, high].map((z) => Number(z.toFixed(2)));
  return from === to ? `${from}` : `${from} to ${to}`;
};

function middleOf(footprints: readonly ModelFootprint[]): ModelFile['site'] {
  const points = footprints.flatMap(({ outer }) => outer);
  const mean = (k: 0 | 1) => points.reduce((sum, p) => sum + p[k], 0) / points.length;
  return { longitudeDeg: mean(0), latitudeDeg: mean(1), elevationM: null };
}

function add(reading: Reading, coordinates: unknown, raw: unknown): void {
  const { model, taken } = reading;
  const number = model.footprints.length + 1;
  if (!Array.isArray(coordinates)) throw new InputError('geojson', `Polygon ${number} has no coordinates.`);
  const rings = coordinates.map((ring) => readRing(ring, number, reading));
  if (!rings[0]) {
    reading.empty++;
    return;
  }
  const properties = plainProperties(raw);
  const thing = statedThing((raw as Record<string, unknown> | null)?.[THING_KEY]);
  model.footprints.push({
    name: freshName(cleanName(properties.name ?? properties.id, `Outline ${number}`), taken),
    layer: cleanName(properties.building ?? properties.layer ?? properties.type, 'polygons'),
    outer: rings[0]!,
    holes: rings.slice(1).filter((ring) => ring !== null),
    height: null,
    ...(thing?.kind === 'building' && { thing }),
    properties,
  });
}

/** A tree, fence or wall that says so; false where a feature does not, or has not the shape that it must have. */
function addThing(reading: Reading, rawGeometry: unknown, rawProperties: unknown): boolean {
  const properties = (rawProperties ?? {}) as Record<string, unknown>;
  const thing = statedThing(properties[THING_KEY]);
  if (!thing || thing.kind === 'building') return false;
  const { type, coordinates } = (rawGeometry ?? {}) as { type?: unknown; coordinates?: unknown };
  const number = reading.model.footprints.length + 1;
  const line = thing.kind === 'wall' ? listIn(properties[LINE_KEY]) : coordinates;
  const ring =
    type === 'Polygon'
      ? (coordinates as unknown[] | null)?.[0]
      : type === 'MultiPolygon'
        ? (coordinates as unknown[][] | null)?.[0]?.[0]
        : null;
  const isLine = thing.kind === 'wall' || (thing.kind === 'fence' && type === 'LineString');
  const outer = thing.kind === 'tree' ? Array.isArray(ring) && readRing(ring, number, reading) : null;
  const path = isLine && Array.isArray(line) && line.length >= 2 ? readCorners(line, number, reading) : null;
  if (!outer && !path) return false;
  reading.model.footprints.push({
    name: freshName(cleanName(properties.name, `Outline ${number}`), reading.taken),
    layer: `${thing.kind}s`,
    outer: outer || path!,
    ...{ holes: [], height: null, thing, properties: plainProperties(properties) },
  });
  return true;
}

/** A list that some programs keep as text. */
function listIn(raw: unknown): unknown {
  if (typeof raw !== 'string') return raw;
  try {
    return JSON.parse(raw);
  } catch {
    return null;
  }
}

/** Of more outlines than can be brought in, keeps those nearest to the place, or to the middle of the file. */
function keepNearest(model: ModelFile, near: GeoPlace | null): void {
  const { footprints, geographic } = model;
  if (footprints.length <= MAX_FOOTPRINTS) return;
  const middle: Point2 = [
    median(footprints.map(({ outer }) => outer[0]![0])),
    median(footprints.map(({ outer }) => outer[0]![1])),
  ];
  const across = geographic ? DEGREE_M * Math.cos((middle[1] * Math.PI) / 180) : metresOf(model.unit ?? 'm');
  const along = geographic ? DEGREE_M : across;
  const metres = ([x, y]: Point2, from: Point2) => Math.hypot((x - from[0]) * across, (y - from[1]) * along);
  const place: Point2 | null = geographic && near ? [near.longitudeDeg, near.latitudeDeg] : null;
  const isHere = place !== null && metres(place, middle) < ELSEWHERE_M;
  const from = isHere ? place : middle;
  const { kept, reachM } = nearestOf(footprints, ({ outer }) => metres(outer[0]!, from), MAX_FOOTPRINTS);
  model.footprints = kept;
  model.notes.push(
    farthestLeftOut(
      footprints.length - kept.length,
      isHere ? 'the place of the project' : 'the middle of the file',
      reachM,
    ),
  );
}

/** A ring; null where it is empty or has no area. */
function readRing(raw: unknown, number: number, reading: Reading): Point2[] | null {
  if (!Array.isArray(raw))
    throw new InputError('geojson', `Polygon ${number} has a ring that is not a list.`);
  if (raw.length > 20_000) throw new InputError('geojson', `Polygon ${number} has more than 20,000 corners.`);
  const ring = readCorners(raw, number, reading);
  const last = ring.at(-1);
  if (ring.length > 1 && last![0] === ring[0]![0] && last![1] === ring[0]![1]) ring.pop();
  const distinct = new Set(ring.map(([x, y]) => `${x},${y}`));
  return distinct.size < 3 || signedArea(ring) === 0 ? null : ring;
}

function readCorners(raw: readonly unknown[], number: number, reading: Reading): Point2[] {
  return raw.map((p): Point2 => {
    const [x, y, z] = Array.isArray(p) ? (p as unknown[]) : [];
    if (typeof x !== 'number' || typeof y !== 'number' || !Number.isFinite(x) || !Number.isFinite(y))
      throw new InputError('geojson', `Polygon ${number} has a corner that is not a pair of numbers.`);
    if (typeof z === 'number' && Number.isFinite(z) && z !== 0) {
      reading.lowZ = Math.min(reading.lowZ, z);
      reading.highZ = Math.max(reading.highZ, z);
    }
    return [x, y];
  });
}

function plainProperties(raw: unknown): Record<string, string | number> {
  const plain: Record<string, string | number> = {};
  const note = (key: string, value: unknown) => {
    if (Object.keys(plain).length >= MAX_PROPERTIES || key in plain) return;
    if (typeof value === 'number' && Number.isFinite(value)) plain[key.slice(0, 60)] = value;
    else if (typeof value === 'string') plain[key.slice(0, 60)] = value.slice(0, 200);
  };
  const all = Object.entries((raw ?? {}) as object);
  for (const [key, value] of all) note(key, value);
  // Tags within: as an object, or as text, "height"=>"10".
  for (const [key, value] of all)
    if (/tags$/i.test(key) && typeof value === 'object' && value !== null)
      for (const [tag, inner] of Object.entries(value as object)) note(tag, inner);
    else if (/tags$/i.test(key) && typeof value === 'string')
      for (const [, tag, inner] of value.matchAll(/"([^"]+)"\s*=>\s*"([^"]*)"/g)) note(tag!, inner);
  return plain;
}
