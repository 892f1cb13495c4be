import { InputError } from '../../errors';
import type { Point3 } from '../../geometry';
import { isGeographic, mapSystem } from '../../site';
import { MeshGather } from '../mesh-gather';
import {
  blankModel,
  checkSize,
  cleanName,
  freshName,
  leftOut,
  type ModelFile,
  parseJson,
  type ReadProgress,
} from '../model-file';
import { statedThing, THING_KEY } from '../bring/things';

type Json = Record<string, unknown>;

/** Depth of the list of a boundary, from solids of shells down to rings of vertex numbers. */
const DEPTH: Record<string, number> = {
  MultiSurface: 3,
  CompositeSurface: 3,
  Solid: 4,
  MultiSolid: 5,
  CompositeSolid: 5,
};

/**
 * Reads a CityJSON file (1.0, 1.1, 2.0), or a sequence of a CityJSON and its features, a line each: the surfaces of every
 * city object in its finest level of detail, one group an object. Templates are placed; what a building holds itself is left
 * out where its parts hold it too. Throws InputError `cityjson`, `too-large`, `empty` or `too-many-triangles`.
 */
export function readCityJson(bytes: Uint8Array, progress?: ReadProgress): ModelFile {
  checkSize(bytes);
  const model = blankModel('cityjson');
  const values = parseJson(bytes, 'cityjson', 'a CityJSON file', model.notes);
  const head = values[0] as Json;
  if (typeof head !== 'object' || head === null || head.type !== 'CityJSON')
    throw new InputError('cityjson', 'This is not a CityJSON file: its “type” is not “CityJSON”.');
  const transform = transformOf(head);
  const city: City = {
    gather: new MeshGather(),
    names: new Set(),
    templates: templatesOf(head),
    ...{ pointsOnly: 0, unknown: 0, twice: 0 },
  };
  values.forEach((value, i) => {
    const part = value as Json;
    if (i > 0 && part?.type !== 'CityJSONFeature') {
      city.unknown++;
      return;
    }
    readObjects(part, readVertices(part, transform), city, (share) =>
      progress?.((i + share) / values.length),
    );
  });
  const { gather } = city;
  model.mesh = gather.mesh('cityjson', 'The file holds no surfaces; export buildings with their geometry.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.up = 'z';
  const named = ((head.metadata ?? {}) as Json).referenceSystem;
  model.system = typeof named === 'string' && named.trim() ? cleanName(named, 'unknown') : null;
  const system = model.system === null ? null : mapSystem(model.system);
  if (system && isGeographic(system))
    throw new InputError(
      'cityjson',
      `The file is in degrees (${system.code}); export it in a projected system, as the national grid.`,
    );
  model.unit = system && system.metres !== 1 ? 'us-ft' : 'm';
  model.notes.push(...leftOut(gather.flat, 'face without area', 'faces without area'));
  if (city.pointsOnly)
    model.notes.push(`${city.pointsOnly} objects that are only points or lines are left out.`);
  if (city.twice)
    model.notes.push(`${city.twice} objects are left out: their parts hold the same in as much detail.`);
  model.notes.push(...leftOut(city.unknown, 'line that is no feature', 'lines that are no features'));
  return model;
}

/** What is gathered over all parts of a file. */
interface City {
  gather: MeshGather;
  names: Set<string>;
  templates: { geometries: (Json | null)[]; vertices: Point3[] };
  pointsOnly: number;
  unknown: number;
  twice: number;
}

function readObjects(
  json: Json,
  vertices: Point3[],
  city: City,
  progress: (share: number) => boolean | void,
): void {
  const objects = (json.CityObjects ?? {}) as Record<string, Json | null>;
  const entries = Object.entries(objects);
  entries.forEach(([key, object], i) => {
    if ((i & 63) === 0 && progress(i / entries.length) === false)
      throw new InputError('stopped', 'Reading was stopped.');
    const all = finest(object?.geometry);
    if (all.length === 0) {
      if (Array.isArray(object?.geometry) && object.geometry.length > 0) city.pointsOnly++;
      return;
    }
    const children = (Array.isArray(object?.children) ? object.children : []) as unknown[];
    const lod = Number(all[0]!.lod);
    const isInParts = children.some((child) => {
      const inside = finest(objects[String(child)]?.geometry);
      // What else hangs on a building, as its balconies, does not stand for it.
      const isPart = /part$/i.test(String(objects[String(child)]?.type));
      return isPart && inside.length > 0 && !(Number(inside[0]!.lod) < lod);
    });
    if (isInParts) {
      city.twice++;
      return;
    }
    const attributes = (object?.attributes ?? {}) as Json;
    const thing = statedThing(attributes[THING_KEY]);
    city.gather.group(freshName(cleanName(attributes.name ?? key, `Object ${i + 1}`), city.names), {
      ...(thing && thing.kind !== 'building' && { thing }),
      kind:
        thing?.kind ??
        cleanName(object?.type, 'object')
          .replace(/([a-z])([A-Z])/g, '$1 $2')
          .toLowerCase(),
    });
    for (const geometry of all) addGeometry(geometry, vertices, city, key);
  });
}

function addGeometry(geometry: Json, vertices: Point3[], { gather, templates }: City, key: string): void {
  const fail = (what: string): never => {
    throw new InputError('cityjson', `Object “${cleanName(key, '?')}”: ${what}.`);
  };
  if (geometry.type !== 'GeometryInstance') {
    for (const surface of surfacesIn(geometry.boundaries, DEPTH[String(geometry.type)]!))
      addSurface(gather, surface, vertices, key);
    return;
  }
  const template = templates.geometries[Number(geometry.template)];
  const depth = template ? DEPTH[String(template.type)] : undefined;
  if (!template || !depth) fail(`it names template ${String(geometry.template)}, which there is not`);
  const at = vertices[Number((geometry.boundaries as unknown[] | undefined)?.[0])];
  const m = geometry.transformationMatrix as number[] | undefined;
  if (!at) return fail('its template has no reference point');
  if (!Array.isArray(m) || m.length !== 16 || !m.every((v) => typeof v === 'number'))
    return fail('its template has no matrix of sixteen numbers');
  const placed = templates.vertices.map(([x, y, z]): Point3 => {
    const row = (r: number) => m[r * 4]! * x + m[r * 4 + 1]! * y + m[r * 4 + 2]! * z + m[r * 4 + 3]!;
    return [row(0) + at[0], row(1) + at[1], row(2) + at[2]];
  });
  for (const surface of surfacesIn(template!.boundaries, depth!)) addSurface(gather, surface, placed, key);
}

function templatesOf(json: Json): City['templates'] {
  const raw = (json['geometry-templates'] ?? {}) as Json;
  return {
    geometries: Array.isArray(raw.templates) ? (raw.templates as (Json | null)[]) : [],
    vertices: Array.isArray(raw['vertices-templates'])
      ? pointsOf(raw['vertices-templates'], [1, 1, 1], [0, 0, 0])
      : [],
  };
}

/** Scale and shift of the vertices of a file and of the features that follow it. */
function transformOf(json: Json): { scale: Point3; move: Point3 } {
  const transform = (json.transform ?? {}) as Json;
  const triple = (value: unknown, otherwise: Point3): Point3 =>
    Array.isArray(value) &&
    value.length === 3 &&
    value.every((v) => typeof v === 'number' && Number.isFinite(v))
      ? (value as unknown as Point3)
      : otherwise;
  return { scale: triple(transform.scale, [1, 1, 1]), move: triple(transform.translate, [0, 0, 0]) };
}

function readVertices(json: Json, { scale, move }: { scale: Point3; move: Point3 }): Point3[] {
  if (!Array.isArray(json?.vertices)) throw new InputError('cityjson', 'The file has no list of vertices.');
  return pointsOf(json.vertices, scale, move);
}

function pointsOf(raw: unknown[], scale: Point3, move: Point3): Point3[] {
  return raw.map((p, i): Point3 => {
    if (!Array.isArray(p) || p.length < 3 || !p.every((v) => typeof v === 'number' && Number.isFinite(v)))
      throw new InputError('cityjson', `Vertex ${i} is not three numbers.`);
    return [p[0] * scale[0] + move[0], p[1] * scale[1] + move[1], p[2] * scale[2] + move[2]];
  });
}

/** All geometries with surfaces in the finest level of detail that there is. */
function finest(raw: unknown): Json[] {
  if (!Array.isArray(raw)) return [];
  const all = (raw as (Json | null)[]).filter(
    (geometry): geometry is Json =>
      typeof geometry === 'object' &&
      geometry !== null &&
      (geometry.type === 'GeometryInstance' || DEPTH[String(geometry.type)] !== undefined),
  );
  const lodOf = ({ lod }: Json) => (Number.isFinite(Number(lod)) ? Number(lod) : 0);
  const best = Math.max(...all.map(lodOf));
  return all.filter((geometry) => lodOf(geometry) === best);
}

function surfacesIn(raw: unknown, depth: number): unknown[] {
  if (!Array.isArray(raw)) throw new InputError('cityjson', 'A geometry has no list of boundaries.');
  return depth === 3 ? raw : raw.flatMap((part) => surfacesIn(part, depth - 1));
}

function addSurface(gather: MeshGather, raw: unknown, vertices: Point3[], key: string): void {
  const fail = (what: string): never => {
    throw new InputError('cityjson', `Object “${cleanName(key, '?')}”: ${what}.`);
  };
  if (!Array.isArray(raw)) return fail('a surface is not a list of rings');
  const rings = (raw as unknown[]).map((ring): Point3[] => {
    if (!Array.isArray(ring)) return fail('a ring is not a list of vertex numbers');
    return (ring as unknown[]).map((index): Point3 => {
      const vertex = typeof index === 'number' ? vertices[index] : undefined;
      return vertex ?? fail(`a surface names vertex ${String(index)}, but there are ${vertices.length}`);
    });
  });
  const [outer, ...holes] = rings.filter((ring) => ring.length >= 3);
  if (outer) gather.polygon(outer, holes);
}
