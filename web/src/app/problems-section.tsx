import {
  editOpenings,
  modelProblems,
  type ModelProblem,
  type Opening,
  reshapeBody,
  TODAY,
} from '@dial-shade/core';
import { CircleAlert, MessageCircleQuestionMark } from 'lucide-react';
import { useMemo } from 'react';
import { focusedView } from '../board/pane-registry';
import { useMeshes } from '../state/mesh-cache';
import { edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import { Section } from './fields';

/** Everything in the option that cannot be built or is probably not meant; each line flies there, and offers what helps. */
export function ProblemsSection({ optionId }: { optionId: string }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const found = useMemo(() => modelProblems(project, optionId, meshes), [project, optionId, meshes]);
  if (found.length === 0) return null;
  return (
    <Section title={`To look at (${found.length})`} name="To look at">
      <ul className="problems">
        {found.slice(0, 30).map((problem, i) => (
          <li key={i} className={problem.weight}>
            <button className="name" onClick={() => flyTo(problem)}>
              {problem.weight === 'wrong' ? (
                <CircleAlert size={14} />
              ) : (
                <MessageCircleQuestionMark size={14} />
              )}
              {problem.sentence}
            </button>
            <Remedies problem={problem} />
          </li>
        ))}
      </ul>
      {found.length > 30 && <p className="visually-quiet">and {found.length - 30} more</p>}
    </Section>
  );
}

function flyTo({ at, sizeM, owner, opening }: ModelProblem): void {
  focusedView()?.flyTo(at, Math.max(6, sizeM));
  setView({
    selection: {
      ...owner,
      layer: owner.optionId === null ? 'neighbours' : owner.optionId === TODAY ? 'today' : 'option',
      wallBearingDeg: null,
    },
    also: [],
    opening: opening?.id ?? null,
  });
}

function Remedies({ problem }: { problem: ModelProblem }) {
  const { opening, owner, factors } = problem;
  const changeOpenings = (name: string, change: (openings: Opening[]) => Opening[]) =>
    edit(name, editOpenings(owner, change));
  return (
    <div className="remedies">
      {opening?.nearest && (
        <button
          className="btn btn-sm btn-quiet"
          onClick={() =>
            changeOpenings('move an opening to where it fits', (list) =>
              list.map((o) => (o.id === opening.id ? { ...o, outline: opening.nearest! } : o)),
            )
          }
        >
          Move to where it fits
        </button>
      )}
      {opening && (
        <button
          className="btn btn-sm btn-quiet"
          onClick={() =>
            changeOpenings('remove an opening', (list) => list.filter((o) => o.id !== opening.id))
          }
        >
          Remove it
        </button>
      )}
      {factors?.map(({ unit, factor }) => (
        <button
          key={unit}
          className="btn btn-sm btn-quiet"
          onClick={() =>
            edit(
              `read heights as ${unit}`,
              reshapeBody(owner, (b) => ({
                ...b,
                storeys: b.storeys.map((s) => ({
                  ...s,
                  heightM: Math.round(s.heightM * factor * 1e4) / 1e4,
                })),
              })),
            )
          }
        >
          {unit[0]!.toUpperCase() + unit.slice(1)} were meant
        </button>
      ))}
    </div>
  );
}
