import { formatLength, massLevels, type Project, removeOwners, TODAY } from '@dial-shade/core';
import { Eye, EyeOff, Focus, Lock, LockOpen, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Section } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { showOnlyChosen } from '../board/isolate';
import { useScene } from '../board/use-scene';
import { ownerKey } from '../board/scene-look';
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
  const [search, setSearch] = useState('');
  const groups = objectsOf(project, optionId);
  const wanted = search.trim().toLowerCase();
  const chosen = selection ? [selection, ...also] : [];
  const isChosen = (one: Selection) => chosen.some((c) => ownerKey(c) === ownerKey(one));
  const { scene } = useScene(optionId, false, null);

  return (
    <Section
      title="Everything here"
      aside={
        <>
          <IconButton
            icon={Focus}
            label="Show only what is chosen"
            disabled={!selection}
            onClick={() => showOnlyChosen(scene)}
          />
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
              {found.slice(0, wanted ? 200 : FEW).map((object) => (
                <ObjectRow
                  key={ownerKey(object.selection)}
                  object={object}
                  chosen={isChosen(object.selection)}
                />
              ))}
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

/** The set with the key added, or without it when it was there. */
function flipped(set: ReadonlySet<string>, key: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
}

/** Chooses one object; with Shift it is added to what is chosen, or left out of it. */
function chooseRow(object: ListedObject, chosen: boolean, add: boolean): void {
  const { selection, also } = useView.getState();
  const key = ownerKey(object.selection);
  if (!add || !selection || key === ownerKey(selection))
    setView({ selection: object.selection, also: [], opening: null });
  else setView({ also: chosen ? also.filter((s) => ownerKey(s) !== key) : [...also, object.selection] });
}

/** A line of the tree: choose, hide, lock, remove. */
function ObjectRow({ object, chosen }: { object: ListedObject; chosen: boolean }) {
  const key = ownerKey(object.selection);
  const hidden = useView((v) => v.hidden);
  const locked = useView((v) => v.locked);
  const [isHidden, isLocked] = [hidden.has(key), locked.has(key)];
  const { name, figure } = object;
  return (
    <ThingRow
      name={name}
      figure={figure}
      chosen={chosen}
      onChoose={(event) => chooseRow(object, chosen, event.shiftKey)}
    >
      <IconButton
        icon={isHidden ? EyeOff : Eye}
        label={`${isHidden ? 'Show' : 'Hide'} ${name}`}
        pressed={isHidden}
        onClick={() => setView({ hidden: flipped(hidden, key) })}
      />
      <IconButton
        icon={isLocked ? Lock : LockOpen}
        label={`${isLocked ? 'Unlock' : 'Lock'} ${name}`}
        pressed={isLocked}
        onClick={() => setView({ locked: flipped(locked, key) })}
      />
      <IconButton
        icon={Trash2}
        label={`Remove ${name}`}
        disabled={isLocked}
        onClick={() => edit(`remove ${name}`, removeOwners([object.selection]))}
      />
    </ThingRow>
  );
}
