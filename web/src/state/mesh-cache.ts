import { type Mesh, meshesNamed, type Project } from '@dial-shade/core';
import { create } from 'zustand';
import { api } from './api';

/** The meshes that have been loaded so far, by content hash. */
export const useMeshes = create<{ meshes: ReadonlyMap<string, Mesh> }>(() => ({ meshes: new Map() }));

export function rememberMesh(hash: string, mesh: Mesh): void {
  useMeshes.setState(({ meshes }) => ({ meshes: new Map(meshes).set(hash, mesh) }));
}

/** Loads the meshes that a project names and that are not here yet. */
export async function loadMeshes(project: Project): Promise<void> {
  for (const hash of meshesNamed(project).keys())
    if (!useMeshes.getState().meshes.has(hash)) rememberMesh(hash, await api.mesh(hash));
}
