import { readMeasure, STUDY_KINDS, worstPlaces } from '@dial-shade/core';
import { Crosshair } from 'lucide-react';
import { useMemo } from 'react';
import { Section } from '../app/fields';
import { useResultState } from '../state/result-state';
import { useView } from '../state/view-store';
import { flyTo } from './probe-section';

/** The points with the least of what is measured, each a click away. */
export function WorstPlaces({ studyId }: { studyId: string }) {
  const optionId = useView((view) => view.optionId);
  const { result } = useResultState(studyId, optionId);
  const worst = useMemo(
    () => (result ? worstPlaces(result.summary.kind, result.grid.positions, result.values) : []),
    [result],
  );
  if (!result) return null;
  const p = result.grid.positions;
  const [measure] = STUDY_KINDS[result.summary.kind].measures;
  const values = result.values[measure.key]!;
  return (
    <Section title="Worst places">
      <ul className="objects">
        {worst.map((i, rank) => (
          <li key={i}>
            <button className="name" onClick={() => flyTo([p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!])}>
              {rank + 1}. {result.targets[result.grid.target[i]!]!.name}
            </button>
            <span className="figure">
              {readMeasure(measure, values[i]!)} {measure.unit}
            </span>
            <Crosshair size={13} aria-hidden />
          </li>
        ))}
      </ul>
    </Section>
  );
}
