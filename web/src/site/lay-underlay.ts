import { add, cutText, formatLength, newUnderlay, type Point2, type Project } from '@dial-shade/core';
import { rememberUnderlay } from '../board/underlay-images';
import { siteCircle } from '../board/scene-look';
import { api } from '../state/api';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, edit } from '../state/project-store';
import { readPicture } from './underlay-file';
import { useUnderlays } from './underlay-store';

/** Lays a picture on the ground in the middle of the site. Gives a sentence where it cannot be. */
export async function layUnderlay(
  file: Blob,
  name: string,
  /** How much of the ground a pixel of the file covers, where that is known. */
  metresPerPixel?: number,
): Promise<string | null> {
  try {
    const { bytes, widthPx, heightPx, pixelsOfFile, note } = await readPicture(file);
    const { hash } = await api.putUnderlay(bytes);
    rememberUnderlay(hash, bytes);
    const project = currentProject();
    const underlay = newUnderlay(
      project,
      {
        ...{ name: cutText(name, 80) || 'Picture', picture: hash, widthPx, heightPx },
        ...(metresPerPixel !== undefined && { metresPerPixel: metresPerPixel * pixelsOfFile }),
      },
      middleOf(project),
    );
    const refused = edit(`lay ${underlay.name} on the ground`, add('underlays', underlay), { quiet: true });
    if (refused) return refused;
    useUnderlays.setState({ chosen: underlay.id });
    const size = [widthPx, heightPx]
      .map((px) => formatLength(px * underlay.metresPerPixel, project.units))
      .join(' × ');
    const said = underlay.scaled
      ? `“${underlay.name}” lies on the ground: ${size}.`
      : `“${underlay.name}” lies on the ground, ${size} for now: scale it by two points.`;
    notify([said, ...(note ? [note] : [])].join(' '));
    return null;
  } catch (error) {
    return (error as Error).message;
  }
}

function middleOf(project: Project): Point2 {
  const { centre } = siteCircle(project, useMeshes.getState().meshes);
  return [Math.round(centre[0]), Math.round(centre[1])];
}
