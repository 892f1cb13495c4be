import { runStudy, type StudyPlan } from '@dial-shade/core';
import { progressLine } from './progress-line';

type Arguments = Parameters<typeof runStudy>;

/** Runs a study and tells on a terminal how far it is. */
export function runOnTerminal(
  project: Arguments[0],
  plan: StudyPlan,
  meshes: Arguments[2],
  masks?: NonNullable<Arguments[3]>['masks'],
): ReturnType<typeof runStudy> {
  const line = progressLine(`Running “${plan.study.name}”`);
  const sensors = plan.grid.count;
  try {
    return runStudy(project, plan, meshes, {
      ...(masks && { masks }),
      progress: (done) => line.tell(sensors > 0 ? done / sensors : 1),
    });
  } finally {
    line.end();
  }
}
