import { assembleScene, planStudy, sceneLayers, STUDY_KINDS, StudyTracer } from '@dial-shade/core';
import { document } from './study-bench';

/** Sensors that are weighed. */
const SENSORS = 20_000;
const ROUNDS = 9;

/** Weighing again what was traced, on one thread: a new window, weather, threshold or component of a whole year. */
export function weighBench(): void {
  const { project, meshes } = document();
  const side = Math.sqrt(SENSORS);
  const target = { ...project.targets[0]!, spacingM: 70.7 / side };
  const fine = { ...project, targets: [target as (typeof project.targets)[number]] };
  const studies = [...project.studies, { ...project.studies[0]!, id: 'sun', kind: 'probable-sun' as const }];
  for (const study of studies) {
    const plan = planStudy(fine, 'a', study, meshes);
    const tracer = new StudyTracer(plan, sceneLayers(assembleScene(fine, 'a', meshes)));
    const open = tracer.open(0, plan.grid.count);
    const at = { ...plan.grid, targets: plan.targets };
    const times: number[] = [];
    for (let i = 0; i < ROUNDS; i++) {
      const began = performance.now();
      STUDY_KINDS[study.kind].weigh(open, plan.directions, at);
      times.push(performance.now() - began);
    }
    times.sort((a, b) => a - b);
    console.log(
      `${STUDY_KINDS[study.kind].name}: ${plan.grid.count} sensors × ${plan.directions.count} directions weighed in ${times[0]!.toFixed(0)} ms at best, ${times[ROUNDS >> 1]!.toFixed(0)} ms in the middle of ${ROUNDS} rounds`,
    );
  }
}
