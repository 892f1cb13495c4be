import type { Mesh, MeshStore } from '../../geometry';
import { type Project, standingBodies, standingNeighbours, type Thing } from '../../project';
import { assembleScene, type Layer, type Piece, type SurfaceKind } from '../../scene';
import { massLevels } from '../../form';
import { weldMesh } from '../mesh-gather';
import { cleanName, freshName } from '../model-file';
import { thingOf } from '../bring/things';

/** What a body of an option is. */
export type BodyKind = 'building' | 'mesh' | 'tree' | 'wall' | 'fence' | 'device';

/** A body of an option as a mesh of its own, metres, z up. */
export interface OutPart {
  name: string;
  mesh: Mesh;
  /** Kind of surface of each triangle. */
  kinds: SurfaceKind[];
  layer: Layer;
  kind: BodyKind;
  /** The body; or what belongs to one: its parapet, or the floors, partitions and furniture in it. */
  of: { role: 'body' } | { role: 'parapet' | 'inside'; name: string };
  /** What it says of itself. */
  thing: Thing | null;
  /** Height over its floor and storeys above it, of masses. */
  heightM: number | null;
  storeys: number | null;
  /** Id in the project. */
  id: string;
}

type Role = OutPart['of']['role'];

/**
 * Everything that stands in an option but the ground, a part an owner, corners welded, names told apart. The body of a
 * building is closed by its panes and doors; what has no thickness, a parapet, floors and partitions, is a part of its own.
 */
export function optionParts(project: Project, optionId: string, meshes: MeshStore): OutPart[] {
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  const names = new Set<string>();
  const known = thingsStanding(project, optionId);
  return owners.flatMap((owner, i): OutPart[] => {
    if (owner.layer === 'ground') return [];
    const about = owner.layer === 'devices' ? null : (known.get(owner.id) ?? null);
    const body = freshName(cleanName(owner.name, owner.id), names);
    const kind = owner.layer === 'devices' ? ('device' as const) : (about?.kind ?? 'mesh');
    const of = { kind, layer: owner.layer, id: owner.id };
    const piece = pieces[i]!;
    return (['body', 'parapet', 'inside'] as const).flatMap((role): OutPart[] => {
      const mine = trianglesOf(piece, kind === 'building' ? role : null, role);
      if (mine.length === 0) return [];
      const { positions, surfaceOf, surfaces } = piece;
      const loose = new Float64Array(mine.length * 9);
      mine.forEach((t, k) => loose.set(positions.subarray(t * 9, t * 9 + 9), k * 9));
      return [
        {
          ...of,
          name: role === 'body' ? body : freshName(`${body} ${role}`, names),
          of: role === 'body' ? { role } : { role, name: body },
          mesh: welded(loose),
          kinds: mine.map((t) => surfaces[surfaceOf[t]!]!.kind),
          thing: role === 'body' ? (about?.thing ?? null) : null,
          heightM: role === 'body' ? (about?.heightM ?? null) : null,
          storeys: role === 'body' ? (about?.storeys ?? null) : null,
        },
      ];
    });
  });
}

/** The triangles of a piece that belong to a part of a building; all of what is none. */
function trianglesOf({ surfaceOf, surfaces }: Piece, of: Role | null, role: Role): number[] {
  if (of === null && role !== 'body') return [];
  const roles = surfaces.map(({ kind, isSheet }): Role => {
    if (kind === 'furniture' || kind === 'partition') return 'inside';
    return isSheet ? (kind === 'wall' ? 'parapet' : 'inside') : 'body';
  });
  return [...surfaceOf.keys()].filter((t) => of === null || roles[surfaceOf[t]!] === of);
}

/** Corners nearer than this are one, metres: what sums of levels leave in their last digits. */
const SNAP_M = 1e-6;

function welded(positions: Float64Array): Mesh {
  for (let i = 0; i < positions.length; i++) positions[i] = Math.round(positions[i]! / SNAP_M) * SNAP_M;
  return weldMesh({ positions, triangles: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k) });
}

/** What stands in an option, by its id: what it is, and how high. */
function thingsStanding(project: Project, optionId: string) {
  const { ground, north } = project.site;
  const found = new Map<string, Pick<OutPart, 'kind' | 'thing' | 'heightM' | 'storeys'>>();
  for (const one of standingNeighbours(project, optionId))
    if (one.kind !== 'building')
      found.set(one.id, {
        kind: one.kind,
        thing: thingOf(one, north.trueNorthDeg),
        ...{ heightM: null, storeys: null },
      });
  for (const body of standingBodies(project, optionId)) {
    const { topM, floorM } = massLevels(body, ground);
    found.set(body.id, {
      kind: 'building',
      thing: thingOf({ ...body, kind: 'building' }, north.trueNorthDeg),
      ...{ heightM: topM - floorM, storeys: body.storeys.length },
    });
  }
  return found;
}
