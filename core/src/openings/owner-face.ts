import { type Face, meshFace, openableFaces } from '../form';
import type { MeshStore } from '../geometry';
import { findOpenable, type OwnerRef, type Project } from '../project';

/** The face of a body or an imported mesh with this key, or null where it no longer exists. */
export function faceOfOwner(project: Project, owner: OwnerRef, key: string, meshes: MeshStore): Face | null {
  const found = findOpenable(project, owner);
  if (!found) return null;
  if (!('mesh' in found))
    return openableFaces(found, project.site.ground).find((face) => face.key === key) ?? null;
  const mesh = meshes.get(found.mesh);
  return mesh && key.startsWith('mesh/') ? meshFace(found, mesh, Number(key.slice(5))) : null;
}
