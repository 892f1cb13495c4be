import {
  planStudy,
  requireStudy,
  type StudyResult,
  studyResult,
  whoTakes,
  type WhoTakes,
} from '@dial-shade/core';
import type { Asked } from './scene-now';

/** Who takes what, and where on the massing, as a result that lies on its faces. */
export interface TakesFound {
  told: Omit<WhoTakes, 'massing'>;
  massing: StudyResult | null;
}

/** Tells the losses of a study of the document at hand to their owners. Throws InputError. */
export function takesOf({ project, meshes, optionId }: Asked, studyId: string): TakesFound {
  const plan = planStudy(project, optionId, requireStudy(project, studyId), meshes);
  const { massing, ...told } = whoTakes(project, plan, meshes);
  if (!massing) return { told, massing: null };
  const { targets, grid, values } = massing;
  const { summary } = studyResult(
    { ...plan, targets, grid },
    {
      ...Object.fromEntries([[told.measure, values]]),
    },
  );
  return {
    told,
    massing: {
      summary,
      targets,
      grid,
      values: { [told.measure]: values },
      shown: {
        measure: {
          key: 'taken',
          label: 'Taken by the massing',
          unit: '%/m²',
          heading: '',
          digits: 2,
          definition:
            'Where on its faces the rays that only the option’s own massing blocks meet it first: share of all that it takes, per m² of its face. What lies above a level gives back what it holds when it is cut off.',
        },
        values,
      },
    },
  };
}
