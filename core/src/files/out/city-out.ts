import type { Point3 } from '../../geometry';
import type { Project } from '../../project';
import type { SurfaceKind } from '../../scene';
import { freshName } from '../model-file';
import { THING_KEY } from '../bring/things';
import { solidRuns } from './solid-runs';
import { mapFrame } from './map-frame';
import type { BodyKind, OutPart } from './out-parts';

type Json = Record<string, unknown>;

/** What a city model calls what stands in an option. */
const TYPES: Record<BodyKind, string> = {
  building: 'Building',
  mesh: 'Building',
  tree: 'SolitaryVegetationObject',
  wall: 'OtherConstruction',
  fence: 'OtherConstruction',
  device: 'OtherConstruction',
};

/** What belongs to a building without being its body. */
const ROLES = { parapet: 'BuildingInstallation', inside: 'BuildingConstructiveElement' } as const;

const CLASSES: Partial<Record<SurfaceKind, string>> = {
  roof: 'RoofSurface',
  floor: 'GroundSurface',
  glazing: 'Window',
  door: 'Door',
};

/** Coordinates are kept to this, metres. */
const SCALE = 0.0001;

/**
 * Parts as a CityJSON 2.0 file, kept to the tenth of a millimetre, one city object a part: solids where they are closed, with
 * a semantic surface for each triangle; in the map system of the project, or the zone of UTM that its confirmed place lies in.
 */
export function writeCityJson(
  parts: readonly OutPart[],
  project: Pick<Project, 'name' | 'site'>,
): Uint8Array {
  const frame = mapFrame(project.site, { orUtm: true });
  const unitM = frame.system?.metres ?? 1;
  const placed = parts.map(({ mesh: { positions: p } }) => {
    const moved = new Float64Array(p.length);
    for (let i = 0; i < p.length; i += 3) moved.set(frame.toMap([p[i]!, p[i + 1]!, p[i + 2]!]), i);
    return unitM === 1 ? moved : moved.map((v) => v / unitM);
  });
  const [low, high] = extent(placed);
  const translate = frame.isSurvey ? low.map(Math.floor) : [0, 0, 0];
  const vertices: number[][] = [];
  const numbers = new Map<string, number>();
  const corner = (p: Float64Array, i: number): number => {
    const at = [0, 1, 2].map((k) => Math.round((p[i * 3 + k]! - translate[k]!) / SCALE));
    const key = at.join();
    let number = numbers.get(key);
    if (number === undefined) {
      number = vertices.length;
      numbers.set(key, number);
      vertices.push(at);
    }
    return number;
  };
  const at = (i: number) => vertices[i]!.map((v) => v * SCALE) as unknown as Point3;
  const CityObjects: Record<string, Json> = {};
  const names = new Set<string>();
  const keys = new Map<string, string>();
  parts.forEach((part, i) => {
    const { name, mesh, kind, of, kinds } = part;
    const key = freshName(name, names);
    if (of.role === 'body') keys.set(name, key);
    const triangles: number[] = [];
    const kept: SurfaceKind[] = [];
    for (let t = 0; t < mesh.triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => corner(placed[i]!, mesh.triangles[t + k]!)) as [
        number,
        number,
        number,
      ];
      // What is thinner than the grain of the file has no area in it.
      if (a === b || b === c || a === c) continue;
      triangles.push(a, b, c);
      kept.push(kinds[t / 3]!);
    }
    const parent = of.role === 'body' ? undefined : keys.get(of.name);
    // Without its body, as in a model of sheets only, it stands alone.
    const type = of.role === 'body' || parent === undefined ? TYPES[kind] : ROLES[of.role];
    CityObjects[key] = {
      type,
      attributes: attributesOf(part),
      ...(parent !== undefined && { parents: [parent] }),
      geometry: triangles.length === 0 ? [] : [geometryOf(triangles, kept, kind !== 'tree', at)],
    };
    const holder = parent === undefined ? undefined : CityObjects[parent];
    if (holder) holder.children = [...((holder.children as string[] | undefined) ?? []), key];
  });
  const json = {
    type: 'CityJSON',
    version: '2.0',
    metadata: {
      title: project.name,
      geographicalExtent: [...low, ...high],
      ...(frame.system && {
        referenceSystem: `https://www.opengis.net/def/crs/${frame.system.code.replace(':', '/0/')}`,
      }),
    },
    transform: { scale: [SCALE, SCALE, SCALE], translate },
    CityObjects,
    vertices,
  };
  return new TextEncoder().encode(JSON.stringify(json));
}

function extent(all: readonly Float64Array[]): [low: number[], high: number[]] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const p of all)
    for (let i = 0; i < p.length; i++) {
      low[i % 3] = Math.min(low[i % 3]!, p[i]!);
      high[i % 3] = Math.max(high[i % 3]!, p[i]!);
    }
  return [low, high];
}

/** Name, heights under their usual names, and what it says of itself. */
function attributesOf({ name, kind, thing, heightM, storeys }: OutPart): Json {
  return {
    name,
    ...(heightM !== null && { measuredHeight: Number(heightM.toFixed(3)) }),
    ...(storeys !== null && { storeysAboveGround: storeys }),
    ...(thing?.kind === 'tree' && { height: thing.heightM, crownDiameter: thing.crownM }),
    ...(kind === 'device' && { function: 'shading device' }),
    ...(thing && thing.kind !== 'building' && { [THING_KEY]: thing }),
  };
}

/** Triangles as solids where they are closed, else as surfaces. A plant has no roof and no wall. */
function geometryOf(
  triangles: readonly number[],
  kinds: readonly SurfaceKind[],
  hasClasses: boolean,
  at: (corner: number) => Point3,
): Json {
  const classes = kinds.map((kind) => CLASSES[kind] ?? 'WallSurface');
  const surfaces = [...new Set(classes)];
  const ends = solidRuns(triangles, at);
  const faces = kinds.map((_, t) => [triangles.slice(t * 3, t * 3 + 3)]);
  const values = classes.map((one) => surfaces.indexOf(one));
  const begins = [0, ...(ends ?? [])];
  const runs = <T>(list: readonly T[]) => (ends ?? []).map((end, r) => [list.slice(begins[r], end)]);
  const [type, nested] =
    ends === null
      ? ['MultiSurface', <T>(list: T[]): unknown => list]
      : ends.length === 1
        ? ['Solid', <T>(list: T[]): unknown => runs(list)[0]]
        : ['MultiSolid', <T>(list: T[]): unknown => runs(list)];
  return {
    type,
    lod: '2.2',
    boundaries: nested(faces),
    ...(hasClasses && {
      semantics: { surfaces: surfaces.map((one) => ({ type: one })), values: nested(values) },
    }),
  };
}
