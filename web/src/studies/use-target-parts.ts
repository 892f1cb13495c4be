import { type FlatTarget, partsOfTarget } from '@dial-shade/core';
import { useMemo } from 'react';
import { useActiveStudy } from '../state/active-study';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

/** Targets as they lie in the option on the board: all that are drawn, and by rule those of the study at hand. */
export function useTargetParts(): FlatTarget[] {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const meshes = useMeshes((state) => state.meshes);
  const study = useActiveStudy();
  return useMemo(
    () =>
      project.targets.flatMap((target) =>
        target.kind === 'ground' || target.kind === 'plane' || study?.targets.includes(target.id)
          ? partsOfTarget(project, optionId, target, meshes)
          : [],
      ),
    [project, optionId, meshes, study],
  );
}
