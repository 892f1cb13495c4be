import { InputError } from '../errors';
import type { Mesh, Point3 } from '../geometry';
import { MeshGather } from './mesh-gather';
import {
  blankModel,
  checkSize,
  cleanName,
  freshName,
  type ModelFile,
  parseJson,
  type ReadProgress,
} from './model-file';

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
 * Reads a CityJSON file (1.0, 1.1, 2.0): the surfaces of every city object in its finest level of detail, one group an
 * object. Throws InputError `cityjson`, `too-large`, `empty` or `too-many-triangles`.
 */
export function readCityJson(bytes: Uint8Array, progress?: ReadProgress): ModelFile {
  checkSize(bytes);
  const json = parseJson(bytes, 'cityjson', 'a CityJSON file') as Json;
  if (typeof json !== 'object' || json === null || json.type !== 'CityJSON')
    throw new InputError('cityjson', 'This is not a CityJSON file: its “type” is not “CityJSON”.');
  const vertices = readVertices(json);
  const objects = Object.entries((json.CityObjects ?? {}) as Record<string, Json | null>);
  const gather = new MeshGather();
  const names = new Set<string>();
  let skipped = 0;
  objects.forEach(([key, object], i) => {
    if ((i & 63) === 0 && progress?.(i / objects.length) === false)
      throw new InputError('stopped', 'Reading was stopped.');
    const geometry = finest(object?.geometry);
    if (!geometry) return;
    const depth = DEPTH[String(geometry.type)];
    if (!depth) {
      skipped++;
      return;
    }
    const attributes = (object?.attributes ?? {}) as Json;
    gather.group(freshName(cleanName(attributes.name ?? key, `Object ${i + 1}`), names), {
      kind: cleanName(object?.type, 'object')
        .replace(/([a-z])([A-Z])/g, '$1 $2')
        .toLowerCase(),
    });
    for (const surface of surfacesIn(geometry.boundaries, depth)) addSurface(gather, surface, vertices, key);
  });
  const model = blankModel('cityjson');
  model.mesh = gather.mesh('cityjson', 'The file holds no surfaces; export buildings with their geometry.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.unit = 'm';
  model.up = 'z';
  if (gather.flat) model.notes.push(`${gather.flat} faces without area are left out.`);
  if (skipped) model.notes.push(`${skipped} objects that are only points or lines are left out.`);
  return model;
}

function readVertices(json: Json): Point3[] {
  const raw = json.vertices;
  if (!Array.isArray(raw)) throw new InputError('cityjson', 'The file has no list of vertices.');
  const transform = (json.transform ?? {}) as Json;
  const triple = (value: unknown, otherwise: Point3): Point3 =>
    Array.isArray(value) &&
    value.length === 3 &&
    value.every((v) => typeof v === 'number' && Number.isFinite(v))
      ? (value as unknown as Point3)
      : otherwise;
  const scale = triple(transform.scale, [1, 1, 1]);
  const move = triple(transform.translate, [0, 0, 0]);
  return raw.map((p, i): Point3 => {
    if (!Array.isArray(p) || p.length < 3 || !p.every((v) => typeof v === 'number' && Number.isFinite(v)))
      throw new InputError('cityjson', `Vertex ${i} is not three numbers.`);
    return [p[0] * scale[0] + move[0], p[1] * scale[1] + move[1], p[2] * scale[2] + move[2]];
  });
}

function finest(raw: unknown): Json | null {
  if (!Array.isArray(raw)) return null;
  let best: Json | null = null;
  for (const geometry of raw as (Json | null)[]) {
    if (typeof geometry !== 'object' || geometry === null || !DEPTH[String(geometry.type)]) continue;
    if (!best || Number(geometry.lod) > Number(best.lod)) best = geometry;
  }
  return best ?? ((raw as (Json | null)[]).find((g) => typeof g === 'object' && g !== null) || null);
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

/** A body for a CityJSON file. */
export interface CityBody {
  name: string;
  mesh: Mesh;
  /** Class of each triangle: RoofSurface, WallSurface, GroundSurface, Window, Door or OuterFloorSurface. */
  classes: string[];
}

/** Bodies (metres, z up) as a CityJSON 2.0 file, kept to the tenth of a millimetre, one Building a body. */
export function writeCityJson(bodies: readonly CityBody[]): Uint8Array {
  const SCALE = 0.0001;
  const vertices: number[][] = [];
  const numbers = new Map<string, number>();
  const CityObjects: Json = {};
  const names = new Set<string>();
  for (const { name, mesh, classes } of bodies) {
    const corner = (i: number): number => {
      const at = [0, 1, 2].map((k) => Math.round(mesh.positions[i * 3 + k]! / SCALE));
      const key = at.join();
      let number = numbers.get(key);
      if (number === undefined) {
        number = vertices.length;
        numbers.set(key, number);
        vertices.push(at);
      }
      return number;
    };
    const kinds = [...new Set(classes)];
    const boundaries: number[][][] = [];
    for (let t = 0; t < mesh.triangles.length; t += 3)
      boundaries.push([
        [corner(mesh.triangles[t]!), corner(mesh.triangles[t + 1]!), corner(mesh.triangles[t + 2]!)],
      ]);
    CityObjects[freshName(name, names)] = {
      type: 'Building',
      attributes: { name },
      geometry: [
        {
          type: 'MultiSurface',
          lod: '2.2',
          boundaries,
          semantics: {
            surfaces: kinds.map((type) => ({ type })),
            values: classes.map((kind) => kinds.indexOf(kind)),
          },
        },
      ],
    };
  }
  const json = {
    type: 'CityJSON',
    version: '2.0',
    transform: { scale: [SCALE, SCALE, SCALE], translate: [0, 0, 0] },
    CityObjects,
    vertices,
  };
  return new TextEncoder().encode(JSON.stringify(json));
}
