import { useEffect } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { forgetWithProject, isDragging, useDocument } from '../state/project-store';
import { runHere } from '../state/result-state';
import { useView } from '../state/view-store';

/** How often it is looked whether a drag has ended, ms. */
const LOOK_MS = 120;

let isBusy = false;
/** What is to be computed next; only the newest wish counts. */
let wish: { studyId: string; optionId: string } | null = null;

/** The study of which it was said last that it cannot be live. */
let told: string | null = null;

/** Grows with every project: what was asked in another is not answered any more. */
let turn = 0;
forgetWithProject(() => {
  isBusy = false;
  wish = null;
  told = null;
  turn++;
});

/** Computes the newest wish, coarse while something is dragged, whole when it rests. */
async function follow(): Promise<void> {
  if (isBusy) return;
  isBusy = true;
  const began = turn;
  try {
    while (wish) {
      const { studyId, optionId } = wish;
      const isCoarse = isDragging();
      const mine = wish;
      const found = await runHere(studyId, optionId, { coarse: isCoarse, isLive: true });
      if (turn !== began) return;
      if (found === false && told !== studyId) {
        told = studyId;
        notify(
          'This study has too many points and directions to follow every change: run it, or make its grid coarser.',
          true,
        );
      }
      if (found !== true && wish === mine) wish = null;
      else if (wish === mine && isCoarse) await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
      else if (wish === mine) wish = null;
    }
  } finally {
    if (turn === began) isBusy = false;
  }
}

/** While live, a study of the option on the board follows every change of the document. */
export function useLiveStudy(studyId: string, optionId: string): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const isLive = useView((view) => view.live);
  useEffect(() => {
    if (!isLive) told = null;
    wish = isLive ? { studyId, optionId } : null;
    if (wish) void follow();
  }, [isLive, studyId, optionId, project, meshes]);
  useEffect(() => () => void (wish = null), []);
}
