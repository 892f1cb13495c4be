import { useEffect } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { lightParts, obstructionsOf, type ShownYear } from '../studies/use-probe-year';
import { computeWith } from '../workers/compute';
import { useGlass } from './glass-store';

/** The year of the window that is looked at, where it is to stand on the almanac; traced anew whenever the model changes. */
export function useWindowYear(wanted: boolean): ShownYear | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const optionId = useView((view) => view.optionId);
  const { chosen, shows, year } = useGlass();
  const isAsked = wanted && shows === 'shaders' && chosen !== null;
  useEffect(() => {
    if (!isAsked) return;
    let isCurrent = true;
    const timer = setTimeout(() => {
      void computeWith(project, meshes)
        .yearOfWindow(optionId, chosen)
        .then((found) => {
          if (!isCurrent) return;
          useGlass.setState({
            year:
              'refused' in found
                ? null
                : { year: found.year, obstructions: obstructionsOf(found.year, found.owners) },
          });
        });
    }, 120);
    return () => {
      isCurrent = false;
      clearTimeout(timer);
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [isAsked, chosen, optionId, meshes, ...lightParts(project)]);
  return isAsked ? year : null;
}
