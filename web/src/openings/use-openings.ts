import { openingsIn, type OpeningsOf, type Project } from '@dial-shade/core';
import { useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

/** The openings of an option as the document stands. */
export function useOpenings(optionId: string): OpeningsOf {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  return useMemo(() => openingsIn(project, optionId, meshes), [project, optionId, meshes]);
}

/** The same for a document that an edit is about to change, in the option on the board. */
export function openingsNow(project: Project): OpeningsOf {
  return openingsIn(project, useView.getState().optionId, useMeshes.getState().meshes);
}
