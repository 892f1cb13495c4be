import { InputError } from '../errors';
import { massLevels, normalFootprint } from '../form';
import type { Mesh, MeshStore } from '../geometry';
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
}

/** Everything that stands in an option but the ground, one part an owner, corners welded, names told apart. */
export function optionParts(project: Project, optionId: string, meshes: MeshStore): OutPart[] {
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  const names = new Set<string>();
  return owners.flatMap((owner, i): OutPart[] => {
    if (owner.layer === 'ground') return [];
    const { positions, surfaceOf, surfaces } = pieces[i]!;
    const loose = { positions, triangles: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k) };
    return [
      {
        name: freshName(cleanName(owner.name, owner.id), names),
        mesh: weldMesh(loose),
        kinds: Array.from(surfaceOf, (s) => surfaces[s]!.kind),
      },
    ];
  });
}

/**
 * An option as a file of an open format. OBJ, STL and CityJSON are in metres with z up, in the project frame; GLB in
 * metres with y up; GeoJSON holds the footprints in longitude and latitude with `height`, `base` and `name`.
 * Throws InputError `empty-option` when nothing stands in it, `too-many-openings` or `too-many-triangles` when too much does.
 */
export async function writeOption(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  format: OutFormat,
): Promise<Uint8Array> {
  refuseTooLarge(project, optionId, meshes);
  if (format === 'geojson') return writeFootprints(project, optionId);
  const parts = optionParts(project, optionId, meshes);
  if (parts.length === 0) throw nothing();
  if (format === 'obj') return writeObj(parts);
  if (format === 'glb') return writeGlb(parts);
  if (format === 'stl') return writeStl(joined(parts), cleanName(project.name, 'project'));
  return writeCityJson(
    parts.map(({ name, mesh, kinds }) => ({
      name,
      mesh,
      classes: kinds.map((kind) => CITY_CLASSES[kind] ?? 'WallSurface'),
    })),
  );
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

function writeFootprints(project: Project, optionId: string): Uint8Array {
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
  if (bodies.length === 0) throw nothing();
  const features = bodies.map(({ body, layer }) => {
    const { outer, holes } = normalFootprint(body.footprint);
    const levels = massLevels(body, ground);
    const ring = (points: readonly (readonly [number, number])[]) =>
      [...points, points[0]!].map((p) => frame.toGeographic(p));
    return {
      type: 'Feature',
      properties: {
        name: body.name,
        layer,
        height: round(levels.topM - levels.floorM),
        eaves: round(levels.eavesM - levels.floorM),
        base: round(levels.floorM - groundLevel(ground, outer[0]!)),
        storeys: body.storeys.length,
      },
      geometry: { type: 'Polygon', coordinates: [ring(outer), ...holes.map(ring)] },
    };
  });
  return new TextEncoder().encode(JSON.stringify({ type: 'FeatureCollection', features }));
}

function round(metres: number): number {
  return Math.round(metres * 1e4) / 1e4;
}
