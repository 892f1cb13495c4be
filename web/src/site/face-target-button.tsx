import {
  add,
  change,
  cutText,
  faceOfOwner,
  findOwner,
  newId,
  type Study,
  targetOfFace,
} from '@dial-shade/core';
import { SquareDashedMousePointer } from 'lucide-react';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

/** Turns the chosen flat face of an imported mesh into a target; only there when one is chosen. */
export function FaceTargetButton({ study }: { study: Study | undefined }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const selection = useView((v) => v.selection);
  const owner = selection && findOwner(project, selection);
  const face =
    owner && 'mesh' in owner && selection.face
      ? faceOfOwner(project, selection, selection.face, meshes)
      : null;
  if (!owner || !face) return null;
  const measure = () => {
    const name = cutText(`Face of ${owner.name}`, 80);
    const refused = edit(`measure a face of ${owner.name}`, (now) => {
      const id = newId('face');
      const of = { optionId: selection.optionId, id: selection.id };
      const withTarget = add('targets', targetOfFace(face, id, name, of))(now);
      return study
        ? change('studies', study.id, { targets: [...study.targets, id] })(withTarget)
        : withTarget;
    });
    if (!refused)
      notify(`“${name}” is now a target${study ? ` of “${study.name}”` : ' on the Studies stage'}.`);
  };
  return (
    <button className="btn btn-quiet btn-sm" onClick={measure}>
      <SquareDashedMousePointer size={14} /> Measure the chosen face
    </button>
  );
}
