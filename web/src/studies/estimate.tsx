import { durationInWords } from '../almanac/wording';
import { MAX_AT_ONCE_RAYS, type Study, STUDY_KINDS } from '@dial-shade/core';
import { useEffect, useState } from 'react';
import { useDocument } from '../state/project-store';
import { useMeshes } from '../state/mesh-cache';
import { useRuns } from '../state/run-store';
import { useView } from '../state/view-store';
import { computeWith } from '../workers/compute';
import type { PlanFigures } from '../workers/compute-worker';

/** Rays a second to reckon with before anything has been measured here. */
export const UNMEASURED_RAYS_PER_SECOND = 1_500_000;

/** What a run would cost, before it starts. */
export function Estimate({ study }: { study: Study }) {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const meshes = useMeshes((state) => state.meshes);
  const raysPerSecond = useRuns((state) => state.raysPerSecond);
  const [plan, setPlan] = useState<PlanFigures | null>(null);

  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(() => {
      void computeWith(project, meshes)
        .plan(optionId, study)
        .then((found) => wanted && setPlan(found));
    }, 150);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [project, optionId, study, meshes]);

  if (!plan) return <div className="estimate visually-quiet">Reckoning …</div>;
  if (plan.refused)
    return (
      <div className="estimate" data-testid="estimate">
        <span className="wrong">{plan.refused}</span>
      </div>
    );
  const seconds = plan.rays / (raysPerSecond ?? UNMEASURED_RAYS_PER_SECOND) + 0.5;
  return (
    <div className="estimate" data-testid="estimate">
      {plan.sensors.toLocaleString('en')} points × {plan.directions.toLocaleString('en')}{' '}
      {STUDY_KINDS[study.kind].directionsAre}
      <br />
      <span className="visually-quiet">
        {(plan.rays / 1e6).toFixed(plan.rays < 1e6 ? 2 : 1)} million rays,{' '}
        {plan.rays <= MAX_AT_ONCE_RAYS
          ? 'at once'
          : seconds < 2
            ? 'a second or two'
            : `about ${durationInWords(seconds)}`}
      </span>
      {plan.notes.map((note) => (
        <div key={note}>{note}</div>
      ))}
    </div>
  );
}
