import { useEffect, useState } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { currentProject } from '../state/project-store';
import { useRuns } from '../state/run-store';
import { UNMEASURED_RAYS_PER_SECOND } from '../studies/estimate';
import { computeAside } from '../workers/compute';
import type { Standing } from './use-compared';

/** Seconds that each run takes besides its rays. */
const EACH_S = 0.3;

/** About how long it takes to run what is missing; null until that is reckoned, or where nothing is. */
export function useSecondsOf(late: readonly Standing[]): number | null {
  const raysPerSecond = useRuns((state) => state.raysPerSecond) ?? UNMEASURED_RAYS_PER_SECOND;
  const meshes = useMeshes((state) => state.meshes);
  const key = JSON.stringify(late.map(({ study, variant }) => [study.id, variant.id]));
  const [found, setFound] = useState<{ key: string; rays: number } | null>(null);
  useEffect(() => {
    let isWanted = true;
    const asked = JSON.parse(key) as [string, string][];
    void (async () => {
      let rays = 0;
      for (const [studyId, variantId] of asked) {
        const project = currentProject();
        const study = project.studies.find(({ id }) => id === studyId);
        if (!study || !isWanted) return;
        rays += (await computeAside(project, meshes).plan(variantId, study)).rays;
      }
      if (isWanted) setFound({ key, rays });
    })();
    return () => {
      isWanted = false;
    };
  }, [key, meshes]);
  if (late.length === 0 || found?.key !== key) return null;
  return found.rays / raysPerSecond + late.length * EACH_S;
}
