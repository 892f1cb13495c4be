import { useEffect } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { lightParts, obstructionsOf, type ShownYear } from '../studies/use-probe-year';
import { computeWith } from '../workers/compute';
import { useRooms } from './rooms-store';

/** The year of the pane or table that is asked for in the chosen room, traced anew whenever the model changes. */
export function useSurfaceYear(wanted: boolean): ShownYear | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const { chosen, yearOf, year } = useRooms();
  const isAsked = wanted && chosen !== null && yearOf !== null;
  useEffect(() => {
    if (!isAsked) return;
    let isCurrent = true;
    const timer = setTimeout(() => {
      void computeWith(project, meshes)
        .surfaceYear(optionId, chosen, yearOf)
        .then((found) => {
          if (!isCurrent) return;
          useRooms.setState({
            year: found && { year: found.year, obstructions: obstructionsOf(found.year, found.owners) },
          });
        });
    }, 120);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [isAsked, chosen, yearOf, optionId, meshes, ...lightParts(project)]);
  return isAsked ? year : null;
}
