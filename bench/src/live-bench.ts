import {
  meshesNamed,
  moveOwner,
  planStudy,
  type Project,
  requireStudy,
  runStudy,
  TODAY,
} from '@dial-shade/core';
import { SAMPLES } from '@dial-shade/samples';

const ROUNDS = 15;

/** Plans and runs a study from the document alone, as the page does for small ones; gives milliseconds. */
function timed(project: Project, optionId: string, studyId: string): { ms: number; rays: number } {
  const began = performance.now();
  const plan = planStudy(project, optionId, requireStudy(project, studyId), new Map());
  runStudy(project, plan, new Map());
  return { ms: performance.now() - began, rays: plan.rays };
}

/**
 * Times every small study of the samples: the first time (nothing compiled, nothing cached), then after each step of a
 * mass that is moved, as a live study follows it. Assembly, tree, sensors, tracing and weighing are all counted.
 */
export function liveBench(): void {
  for (const [id, make] of Object.entries(SAMPLES)) {
    let project = make();
    if (meshesNamed(project).size > 0) continue;
    const option = project.options.find((o) => o.id !== TODAY && o.masses.length > 0)!;
    const owner = { optionId: option.id, id: option.masses[0]!.id };
    for (const study of project.studies) {
      const first = timed(project, option.id, study.id);
      if (first.rays > 2_000_000) continue;
      const times: number[] = [];
      for (let i = 0; i < ROUNDS; i++) {
        project = moveOwner(owner, i % 2 ? -0.25 : 0.25, 0)(project);
        times.push(timed(project, option.id, study.id).ms);
      }
      times.sort((a, b) => a - b);
      const at = (share: number) => times[Math.floor(share * (ROUNDS - 1))]!.toFixed(0);
      console.log(
        `${id}, ${study.name}: ${first.rays} rays; first ${first.ms.toFixed(0)} ms, following a moved mass ${at(0.5)} ms (median), ${at(1)} ms (most)`,
      );
    }
  }
}
