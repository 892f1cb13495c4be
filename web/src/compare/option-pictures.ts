import { DEFAULT_DRAWING } from '@dial-shade/core';
import { useEffect, useRef, useState } from 'react';
import { viewOf } from '../board/pane-registry';
import { pictureMaker } from '../pictures/picture-maker';
import { viewFrom } from '../pictures/views-now';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, useDocument } from '../state/project-store';
import { usePanes } from '../state/panes-store';

/** An option at a moment, as a picture is asked for. */
export interface PictureWish {
  optionId: string;
  date: string;
  minutes: number;
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
  const [drawn, setDrawn] = useState<{ key: string; urls: (string | null)[] }>({ key: '', urls: [] });
  /** Those of before, to be let go of. */
  const old = useRef<string[]>([]);
  const key = JSON.stringify([wishes, width, height]);
  useEffect(() => {
    let isWanted = true;
    const made: string[] = [];
    const letGo = old.current;
    const asked = JSON.parse(key) as [PictureWish[], number, number];
    const camera = viewOf(focused)?.look.camera ?? pane?.camera;
    void (async () => {
      if (!camera || width < 64 || height < 64) return;
      const from = { name: 'board', camera, drawing: pane?.drawing ?? DEFAULT_DRAWING, hidden: [] };
      const urls: (string | null)[] = asked[0].map(() => null);
      for (const [i, { optionId, date, minutes }] of asked[0].entries()) {
        const view = viewFrom(from, optionId, { date, minutes });
        const style = { width, height, paper: 'paper' as const, strip: false };
        const { picture } = await pictureMaker.with(currentProject(), meshes).picture([view], style);
        if (!isWanted) return;
        letGo.splice(0).forEach((url) => URL.revokeObjectURL(url));
        urls[i] = URL.createObjectURL(picture);
        made.push(urls[i]);
        setDrawn({ key, urls: [...urls] });
      }
    })();
    return () => {
      isWanted = false;
      // They are shown until others are drawn.
      letGo.push(...made);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, project, meshes, focused, pane?.drawing]);
  useEffect(() => {
    const { current } = old;
    // Cleanups run in order: by then all that was drawn is among them.
    return () => current.splice(0).forEach((url) => URL.revokeObjectURL(url));
  }, []);
  return drawn.key === key ? drawn.urls : wishes.map(() => null);
}
