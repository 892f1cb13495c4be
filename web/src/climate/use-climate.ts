import { useEffect, useState } from 'react';
import type { Remote } from 'comlink';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { computeWith } from '../workers/compute';
import type { ComputeWorker } from '../workers/compute-worker';

/** What the worker finds of the project's weather; asked again when the weather, the place or one of `also` changes. */
export function useClimate<T>(
  ask: (worker: Remote<ComputeWorker>) => Promise<T>,
  also: readonly unknown[] = [],
): T | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const { weather, place, year } = project.site;
  const [found, setFound] = useState<T | null>(null);
  useEffect(() => {
    if (!weather) return;
    let isWanted = true;
    void ask(computeWith(project, meshes)).then((answer) => {
      if (isWanted) setFound(answer);
    });
    return () => {
      isWanted = false;
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [weather, place, year, ...also]);
  return weather ? found : null;
}
