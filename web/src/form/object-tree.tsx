import { formatLength, massLevels, type Project, removeOwners, TODAY } from '@dial-shade/core';
import { Eye, EyeOff, Focus, Lock, LockOpen, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Section } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { ownerKey } from '../board/use-scene';
import { edit, useDocument } from '../state/project-store';
import { type Selection, setView, useView } from '../state/view-store';

/** Something that stands in the scene, as a line of the tree. */
interface ListedObject {
  selection: Selection;
  name: string;
  figure?: string;
  kind: string;
}

function objectsOf(project: Project, optionId: string): { title: string; objects: ListedObject[] }[] {
  const { ground } = project.site;
  const select = (id: string, of: string | null): Selection => ({
    id,
    optionId: of,
    layer: of === null ? 'neighbours' : of === TODAY ? 'today' : 'option',
    wallBearingDeg: null,
  });
  const high = (body: Parameters<typeof massLevels>[0]) => {
    const { topM, floorM } = massLevels(body, ground);
    return `${formatLength(topM - floorM, project.units, 1)} high`;
  };
  const inOption = (id: string) => {
    const option = project.options.find((o) => o.id === id)!;
    return {
      title: `${option.letter} ${option.name}`,
      objects: [
        ...option.masses.map((m) => ({
          selection: select(m.id, id),
          name: m.name,
          figure: high(m),
          kind: 'mass',
        })),
        ...option.models.map((m) => ({
          selection: select(m.id, id),
          name: m.name,
          figure: `${m.triangles.toLocaleString('en')} triangles`,
          kind: 'model',
        })),
      ],
    };
  };
  return [
    ...(optionId === TODAY ? [] : [inOption(optionId)]),
    inOption(TODAY),
    {
      title: 'Neighbours',
      objects: project.neighbours.map((n) => ({
        selection: select(n.id, null),
        name: n.name,
        kind: n.kind,
        figure:
          n.kind === 'building'
            ? high(n)
            : n.kind === 'mesh'
              ? `${n.triangles.toLocaleString('en')} triangles`
              : `${n.kind}, ${formatLength(n.heightM, project.units, 1)}`,
      })),
    },
  ];
}

/** Lines shown of a long group before the rest is asked for. */
const FEW = 40;

/** A tree of everything that stands, to search, choose, hide, isolate and lock. */
export function ObjectTree({ optionId }: { optionId: string }) {
  const project = useDocument();
  const selection = useView((v) => v.selection);
  const also = useView((v) => v.also);
  const hidden = useView((v) => v.hidden);
  const locked = useView((v) => v.locked);
  const [search, setSearch] = useState('');
  const groups = objectsOf(project, optionId);
  const all = groups.flatMap(({ objects }) => objects);
  const wanted = search.trim().toLowerCase();
  const chosen = selection ? [selection, ...also] : [];
  const isChosen = (one: Selection) => chosen.some((c) => ownerKey(c) === ownerKey(one));
  const flip = (set: ReadonlySet<string>, key: string) => {
    const next = new Set(set);
    if (!next.delete(key)) next.add(key);
    return next;
  };
  const isolate = () =>
    setView({ hidden: new Set(all.filter((t) => !isChosen(t.selection)).map((t) => ownerKey(t.selection))) });

  return (
    <Section
      title="Everything here"
      aside={
        <>
          <IconButton icon={Focus} label="Show only what is chosen" disabled={!selection} onClick={isolate} />
          <IconButton
            icon={Eye}
            label="Show everything"
            disabled={hidden.size === 0}
            onClick={() => setView({ hidden: new Set() })}
          />
        </>
      }
    >
      <input
        className="form-control mb-1"
        type="search"
        placeholder="Search by name or kind"
        aria-label="Search in the model"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      {hidden.size > 0 && <p className="visually-quiet">What is hidden still casts its shade.</p>}
      {groups.map(({ title, objects }) => {
        const found = objects.filter(
          (t) => !wanted || t.name.toLowerCase().includes(wanted) || t.kind.includes(wanted),
        );
        if (found.length === 0 && (wanted || title === 'Neighbours')) return null;
        return (
          <details
            key={title}
            open={wanted !== '' || title !== 'Neighbours' || found.some((t) => isChosen(t.selection))}
          >
            <summary>
              {title} <span className="figure">{found.length}</span>
            </summary>
            <ul className="objects">
              {found.slice(0, wanted ? 200 : FEW).map((thing) => {
                const key = ownerKey(thing.selection);
                return (
                  <ThingRow
                    key={key}
                    name={thing.name}
                    figure={thing.figure}
                    chosen={isChosen(thing.selection)}
                    onChoose={(event) =>
                      event.shiftKey && selection && key !== ownerKey(selection)
                        ? setView({
                            also: isChosen(thing.selection)
                              ? also.filter((s) => ownerKey(s) !== key)
                              : [...also, thing.selection],
                          })
                        : setView({ selection: thing.selection, also: [], opening: null })
                    }
                  >
                    <IconButton
                      icon={hidden.has(key) ? EyeOff : Eye}
                      label={`${hidden.has(key) ? 'Show' : 'Hide'} ${thing.name}`}
                      pressed={hidden.has(key)}
                      onClick={() => setView({ hidden: flip(hidden, key) })}
                    />
                    <IconButton
                      icon={locked.has(key) ? Lock : LockOpen}
                      label={`${locked.has(key) ? 'Unlock' : 'Lock'} ${thing.name}`}
                      pressed={locked.has(key)}
                      onClick={() => setView({ locked: flip(locked, key) })}
                    />
                    <IconButton
                      icon={Trash2}
                      label={`Remove ${thing.name}`}
                      disabled={locked.has(key)}
                      onClick={() => edit(`remove ${thing.name}`, removeOwners([thing.selection]))}
                    />
                  </ThingRow>
                );
              })}
            </ul>
            {!wanted && found.length > FEW && (
              <p className="visually-quiet">and {found.length - FEW} more; search to find them</p>
            )}
          </details>
        );
      })}
    </Section>
  );
}
