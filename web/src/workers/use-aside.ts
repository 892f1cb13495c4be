import { useEffect, useState } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, useDocument } from '../state/project-store';
import { lightParts } from '../studies/use-probe-year';
import { computeAside } from './compute';

/** The worker that answers what may take a moment. */
type Aside = ReturnType<typeof computeAside>;

/**
 * What the worker says of the model as it stands, asked anew a little after anything that light depends on has changed;
 * null before it has answered, where it refuses, and without a question.
 * @param about what else the question depends on
 */
export function useAside<T extends object>(
  ask: ((worker: Aside) => Promise<T | { refused: string } | null>) | null,
  about: readonly unknown[],
  afterMs = 200,
): T | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [found, setFound] = useState<T | null>(null);
  useEffect(() => {
    if (!ask) return;
    let isWanted = true;
    const timer = setTimeout(() => {
      void ask(computeAside(currentProject(), meshes)).then((answer) => {
        if (isWanted) setFound(answer && 'refused' in answer ? null : answer);
      });
    }, afterMs);
    return () => {
      isWanted = false;
      clearTimeout(timer);
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [ask === null, meshes, ...about, ...lightParts(project)]);
  return found;
}
