import { polygonHull } from 'd3-polygon';
import { InputError } from '../errors';
import { massLevels, normalFootprint } from '../form';
import { type Mesh, type MeshStore, type Point2, type Polygon, signedArea, unitePolygons } from '../geometry';
import {
  type MassShape,
  type Project,
  requireOption,
  standingMasses,
  standingNeighbours,
  TODAY,
} from '../project';
import { assembleScene, refuseTooLarge, type SurfaceKind } from '../scene';
import { groundLevel, localFrame } from '../site';
import { writeCityJson } from './cityjson';
import { writeGlb } from './glb';
import { weldMesh } from './mesh-gather';
import { cleanName, freshName } from './model-file';
import { writeStl } from './stl';

/** Formats in which an option can be sent out. */
export const OUT_FORMATS = ['obj', 'stl', 'glb', 'geojson', 'cityjson'] as const;
export type OutFormat = (typeof OUT_FORMATS)[number];

/** A body of an option as a mesh of its own, metres, z up. */
export interface OutPart {
  name: string;
  mesh: Mesh;
  /** Kind of surface of each triangle. */
  kinds: SurfaceKind[];
  /** What a city model calls it. */
  cityType: 'Building' | 'SolitaryVegetationObject' | 'OtherConstruction';
}

/** Everything that stands in an option but the ground, one part an owner, corners welded, names told apart. */
export function optionParts(project: Project, optionId: string, meshes: MeshStore): OutPart[] {
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  const names = new Set<string>();
  const kindOf = kindsOf(project, optionId);
  return owners.flatMap((owner, i): OutPart[] => {
    if (owner.layer === 'ground') return [];
    const { positions, surfaceOf, surfaces } = pieces[i]!;
    const loose = { positions, triangles: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k) };
    return [
      {
        name: freshName(cleanName(owner.name, owner.id), names),
        mesh: weldMesh(loose),
        kinds: Array.from(surfaceOf, (s) => surfaces[s]!.kind),
        cityType: cityTypeOf(owner.layer === 'devices' ? 'device' : kindOf.get(owner.id)),
      },
    ];
  });
}

/**
 * An option as a file of an open format. OBJ, STL and CityJSON are in metres with z up, in the project frame; GLB in
 * metres with y up; GeoJSON holds footprints, and what else stands by its outline in plan, in longitude and latitude with `height`, `base`, `kind` and `name`.
 * Throws InputError `empty-option` when nothing stands in it, `too-many-openings` or `too-many-triangles` when too much does.
 */
export async function writeOption(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  format: OutFormat,
): Promise<Uint8Array> {
  refuseTooLarge(project, optionId, meshes);
  if (format === 'geojson') return writeFootprints(project, optionId, meshes);
  const parts = optionParts(project, optionId, meshes);
  if (parts.length === 0) throw nothing();
  if (format === 'obj') return writeObj(parts);
  if (format === 'glb') return writeGlb(parts);
  if (format === 'stl') return writeStl(joined(parts), cleanName(project.name, 'project'));
  return writeCityJson(
    parts.map(({ name, mesh, kinds, cityType }) => ({
      name,
      mesh,
      type: cityType,
      classes: kinds.map((kind) => CITY_CLASSES[kind] ?? 'WallSurface'),
    })),
  );
}

function cityTypeOf(kind: string | undefined): OutPart['cityType'] {
  if (kind === 'tree') return 'SolitaryVegetationObject';
  return kind === 'wall' || kind === 'fence' || kind === 'device' ? 'OtherConstruction' : 'Building';
}

function nothing(): InputError {
  return new InputError('empty-option', 'Nothing stands in this option; there is nothing to send out.');
}

const CITY_CLASSES: Partial<Record<SurfaceKind, string>> = {
  roof: 'RoofSurface',
  floor: 'GroundSurface',
  glazing: 'Window',
  door: 'Door',
};

function joined(parts: readonly OutPart[]): Mesh {
  const positions = new Float64Array(parts.reduce((sum, { mesh }) => sum + mesh.positions.length, 0));
  const triangles = new Uint32Array(parts.reduce((sum, { mesh }) => sum + mesh.triangles.length, 0));
  let vertex = 0;
  let index = 0;
  for (const { mesh } of parts) {
    positions.set(mesh.positions, vertex * 3);
    for (const i of mesh.triangles) triangles[index++] = i + vertex;
    vertex += mesh.positions.length / 3;
  }
  return { positions, triangles };
}

/** Named meshes as an OBJ text file: metres, z up, one `o` line a part; coordinates as JavaScript writes doubles. */
export function writeObj(parts: readonly Pick<OutPart, 'name' | 'mesh'>[]): Uint8Array {
  const lines = ['# Dial Shade: metres, z up'];
  let first = 1;
  for (const { name, mesh } of parts) {
    lines.push(`o ${name.replace(/#/g, '')}`);
    const { positions: p, triangles } = mesh;
    for (let i = 0; i < p.length; i += 3) lines.push(`v ${p[i]} ${p[i + 1]} ${p[i + 2]}`);
    for (let i = 0; i < triangles.length; i += 3)
      lines.push(`f ${triangles[i]! + first} ${triangles[i + 1]! + first} ${triangles[i + 2]! + first}`);
    first += p.length / 3;
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

function writeFootprints(project: Project, optionId: string, meshes: MeshStore): Uint8Array {
  const option = requireOption(project, optionId);
  const { ground } = project.site;
  const frame = localFrame(project.site);
  const bodies: { body: MassShape; layer: string }[] = [
    ...standingNeighbours(project, optionId).flatMap((n) =>
      n.kind === 'building' ? [{ body: n, layer: 'neighbour' }] : [],
    ),
    ...standingMasses(project, optionId).map((body) => ({ body, layer: 'today' })),
    ...(optionId === TODAY ? [] : option.masses.map((body) => ({ body, layer: 'option' }))),
  ];
  const others = otherOutlines(project, optionId, meshes, new Set(bodies.map(({ body }) => body.id)));
  if (bodies.length + others.length === 0) throw nothing();
  const features: object[] = bodies.map(({ body, layer }) => {
    const { outer, holes } = normalFootprint(body.footprint);
    const levels = massLevels(body, ground);
    const ring = (points: readonly (readonly [number, number])[]) =>
      [...points, points[0]!].map((p) => frame.toGeographic(p));
    return {
      type: 'Feature',
      properties: {
        name: body.name,
        layer,
        kind: 'building',
        height: round(levels.topM - levels.floorM),
        eaves: round(levels.eavesM - levels.floorM),
        base: round(levels.floorM - groundLevel(ground, outer[0]!)),
        storeys: body.storeys.length,
      },
      geometry: { type: 'Polygon', coordinates: [ring(outer), ...holes.map(ring)] },
    };
  });
  for (const { name, layer, kind, lowM, highM, polygons, line } of others) {
    const ring = (points: readonly (readonly [number, number])[]) =>
      [...points, points[0]!].map((p) => frame.toGeographic(p));
    const coordinates = polygons.map(({ outer, holes }) => [ring(outer), ...holes.map(ring)]);
    const at = polygons[0]?.outer[0] ?? line?.[0]?.[0];
    if (!at) continue;
    const base = round(lowM - groundLevel(ground, at));
    features.push({
      type: 'Feature',
      properties: { name, layer, kind, height: round(highM - lowM), base },
      geometry: line
        ? { type: 'MultiLineString', coordinates: line.map((ends) => ends.map((p) => frame.toGeographic(p))) }
        : { type: 'MultiPolygon', coordinates },
    });
  }
  return new TextEncoder().encode(JSON.stringify({ type: 'FeatureCollection', features }));
}

/** Triangles of a body up to which its outline is that of all of them; of more it is the hull around them. */
const MAX_UNITED = 20_000;

/** What an owner is by its id: trees, walls and fences of the neighbours, meshes. */
function kindsOf(project: Project, optionId: string): Map<string, 'mesh' | 'tree' | 'wall' | 'fence'> {
  const kinds = new Map<string, 'mesh' | 'tree' | 'wall' | 'fence'>();
  for (const one of standingNeighbours(project, optionId))
    if (one.kind !== 'building') kinds.set(one.id, one.kind);
  for (const { models } of project.options) for (const { id } of models) kinds.set(id, 'mesh');
  return kinds;
}

/** Outlines in plan of all that has no footprint of its own: meshes, trees, walls, fences, devices. */
function otherOutlines(project: Project, optionId: string, meshes: MeshStore, known: ReadonlySet<string>) {
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  const kinds = kindsOf(project, optionId);
  return owners.flatMap((owner, i) => {
    const { positions: p } = pieces[i]!;
    if (owner.layer === 'ground' || p.length === 0) return [];
    const isBody = owner.layer !== 'devices' && known.has(owner.id) && !kinds.has(owner.id);
    if (isBody) return [];
    let [lowM, highM] = [Infinity, -Infinity];
    for (let k = 2; k < p.length; k += 3) {
      lowM = Math.min(lowM, p[k]!);
      highM = Math.max(highM, p[k]!);
    }
    const polygons = outlineInPlan(p);
    const layer = owner.layer === 'neighbours' ? 'neighbour' : owner.layer;
    const kind = owner.layer === 'devices' ? 'device' : (kinds.get(owner.id) ?? 'mesh');
    // What is upright and thin, as a fence, is a line.
    const line = polygons.length > 0 ? null : lineInPlan(p);
    return [{ name: owner.name, layer, kind, lowM, highM, polygons, line }];
  });
}

/** The stretches in plan of upright triangles, each once. */
function lineInPlan(p: Float64Array): [Point2, Point2][] {
  const stretches = new Map<string, [Point2, Point2]>();
  for (let t = 0; t < p.length; t += 9) {
    const corners: Point2[] = [0, 3, 6].map((k) => [p[t + k]!, p[t + k + 1]!]);
    const pairs = [
      [0, 1],
      [1, 2],
      [2, 0],
    ].map(([i, j]): [Point2, Point2] => [corners[i!]!, corners[j!]!]);
    const length = ([a, b]: [Point2, Point2]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
    const longest = pairs.reduce((best, pair) => (length(pair) > length(best) ? pair : best));
    if (length(longest) < 1e-6) continue;
    const ends = longest.map(([x, y]) => `${round(x)},${round(y)}`).sort();
    stretches.set(ends.join('|'), longest);
  }
  return [...stretches.values()];
}

/** What triangles cover in plan. */
function outlineInPlan(p: Float64Array): Polygon[] {
  const flat: Polygon[] = [];
  for (let t = 0; t < p.length; t += 9) {
    const ring: Point2[] = [0, 3, 6].map((k) => [p[t + k]!, p[t + k + 1]!]);
    const area = signedArea(ring);
    if (Math.abs(area) > 1e-8) flat.push({ outer: area > 0 ? ring : ring.reverse(), holes: [] });
  }
  if (flat.length <= MAX_UNITED) return unitePolygons(flat);
  const hull = polygonHull(flat.flatMap(({ outer }) => outer.map(([x, y]): [number, number] => [x, y])));
  return hull ? [{ outer: hull, holes: [] }] : [];
}

function round(metres: number): number {
  return Math.round(metres * 1e4) / 1e4;
}
