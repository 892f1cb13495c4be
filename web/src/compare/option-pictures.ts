import { DEFAULT_DRAWING, type MeshStore, type Project } from '@dial-shade/core';
import { useEffect, useRef, useState } from 'react';
import { viewOf } from '../board/pane-registry';
import { pictureMaker } from '../pictures/picture-maker';
import { resultOf, viewFrom } from '../pictures/views-now';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, useDocument } from '../state/project-store';
import { usePanes } from '../state/panes-store';
import { useRuns } from '../state/run-store';

/** An option at a moment, as a picture is asked for. */
export interface PictureWish {
  optionId: string;
  date: string;
  minutes: number;
  /** The study whose result lies on it, and all options that share its scale. */
  study?: { id: string; beside: readonly string[] };
}

/** From where the pane with the focus looks, and how it is drawn; null while it has not been framed. */
function lookNow() {
  const { panes, focused } = usePanes.getState();
  const pane = panes.find(({ id }) => id === focused);
  const camera = viewOf(focused)?.look.camera ?? pane?.camera;
  return camera ? { name: 'board', camera, drawing: pane?.drawing ?? DEFAULT_DRAWING, hidden: [] } : null;
}

/** Draws what is wished for, one after another, until it is not wanted any more. */
export async function drawOptions(
  wishes: readonly PictureWish[],
  { width, height }: { width: number; height: number },
  project: Project,
  meshes: MeshStore,
  drawn: (at: number, picture: Blob) => boolean,
): Promise<void> {
  const from = lookNow();
  if (!from || width < 64 || height < 64) return;
  for (const [i, { optionId, date, minutes, study }] of wishes.entries()) {
    const view = viewFrom(from, optionId, { date, minutes });
    if (study) view.result = resultOf(project, study.id, optionId, study.beside, from.drawing.map);
    const style = { width, height, paper: 'paper' as const, strip: false };
    const { picture } = await pictureMaker.with(project, meshes).picture([view], style);
    if (!drawn(i, picture)) return;
  }
}

/**
 * Pictures of options from where the pane with the focus looks, drawn one after another, as addresses of images in the order
 * of the wishes; null while it is not drawn yet.
 */
export function useOptionPictures(
  wishes: readonly PictureWish[],
  width: number,
  height: number,
): (string | null)[] {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const focused = usePanes((state) => state.focused);
  const pane = usePanes((state) => state.panes.find(({ id }) => id === focused));
  const results = useRuns((state) => state.results);
  const withResults = wishes.some(({ study }) => study) ? results : null;
  const [drawn, setDrawn] = useState<{ key: string; urls: (string | null)[] }>({ key: '', urls: [] });
  /** Those of before, to be let go of. */
  const old = useRef<string[]>([]);
  const key = JSON.stringify([wishes, width, height]);
  useEffect(() => {
    let isWanted = true;
    const made: string[] = [];
    const letGo = old.current;
    const asked = JSON.parse(key) as [PictureWish[], number, number];
    const urls: (string | null)[] = asked[0].map(() => null);
    void drawOptions(asked[0], { width, height }, currentProject(), meshes, (at, picture) => {
      if (!isWanted) return false;
      letGo.splice(0).forEach((url) => URL.revokeObjectURL(url));
      const url = URL.createObjectURL(picture);
      urls[at] = url;
      made.push(url);
      setDrawn({ key, urls: [...urls] });
      return true;
    });
    return () => {
      isWanted = false;
      // They are shown until others are drawn.
      letGo.push(...made);
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [key, project, meshes, focused, pane?.drawing, withResults]);
  useEffect(() => {
    const { current } = old;
    // Cleanups run in order: by then all that was drawn is among them.
    return () => current.splice(0).forEach((url) => URL.revokeObjectURL(url));
  }, []);
  return drawn.key === key ? drawn.urls : wishes.map(() => null);
}
