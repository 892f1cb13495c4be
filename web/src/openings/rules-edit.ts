import { editRules, type OpeningRule, type Project, withOpeningsKept } from '@dial-shade/core';
import { useMeshes } from '../state/mesh-cache';

/** Changes the rules of an option, or of the neighbours; what devices hang on one by one is found again where it was. */
export function changeRules(optionId: string | null, change: (rules: OpeningRule[]) => OpeningRule[]) {
  return (project: Project): Project => {
    const changed = editRules(optionId, change)(project);
    if (optionId === null) return changed;
    return withOpeningsKept(project, changed, optionId, useMeshes.getState().meshes);
  };
}
