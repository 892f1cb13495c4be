import { type Project, type Source, TODAY } from '@dial-shade/core';
import { X } from 'lucide-react';
import { useMemo } from 'react';
import { IconButton, ThingRow } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { type Selection, setView, useView } from '../state/view-store';

/** Files that were brought in, each with what is still here of it: chosen with a click, or no longer remembered. */
export function SourceFiles() {
  const project = useDocument();
  const chosen = useView((v) => v.selection);
  const also = useView((v) => v.also);
  const bodies = useMemo(() => bodiesOf(project), [project]);
  if (project.sources.length === 0) return null;
  const ids = new Set([chosen, ...also].flatMap((one) => one?.id ?? []));
  return (
    <>
      <p className="visually-quiet mb-1 mt-2">Files brought in</p>
      <ul className="objects" aria-label="Files brought in">
        {project.sources.map((source) => {
          const here = source.parts.flatMap(({ owner }) => bodies.get(owner) ?? []);
          return (
            <ThingRow
              key={source.id}
              name={source.file}
              figure={`${here.length} here`}
              chosen={here.length > 0 && here.every(({ id }) => ids.has(id))}
              onChoose={() => setView({ selection: here[0] ?? null, also: here.slice(1) })}
            >
              <IconButton
                icon={X}
                label={`Forget where the parts of ${source.file} came from; they stay`}
                onClick={() => forget(source)}
              />
            </ThingRow>
          );
        })}
      </ul>
    </>
  );
}

/** Bodies of a project as they can be chosen on the board, by their ids. */
function bodiesOf({ neighbours, options }: Project): Map<string, Selection> {
  const inOptions = options.flatMap(({ id: optionId, masses, models }) =>
    [...masses, ...models].map(({ id }) => ({
      ...{ id, optionId, wallBearingDeg: null },
      layer: optionId === TODAY ? ('today' as const) : ('option' as const),
    })),
  );
  const around = neighbours.map(({ id }) => ({
    ...{ id, optionId: null, wallBearingDeg: null },
    layer: 'neighbours' as const,
  }));
  return new Map([...around, ...inOptions].map((one) => [one.id, one]));
}

function forget(source: Source): void {
  edit(`forget ${source.file}`, (project) => ({
    ...project,
    sources: project.sources.filter(({ id }) => id !== source.id),
  }));
}
