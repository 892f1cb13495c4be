import { faceOfOwner, findOpenable, type OpeningRule, SECTORS, wallName } from '@dial-shade/core';
import { TextField } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

type Scope = OpeningRule['scope'];

/** Which bodies and which of their walls a rule is for: taken in and left out by what is chosen on the board. */
export function ScopeFields({
  optionId,
  scope,
  set,
}: {
  optionId: string | null;
  scope: Scope;
  set: (scope: Scope) => void;
}) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const selection = useView((v) => v.selection);
  const own = selection?.optionId === optionId ? selection : null;
  const body = own && findOpenable(project, own);
  const face = own?.face && faceOfOwner(project, own, own.face, meshes);
  const wall = face ? wallName(own.id, face.host) : null;
  return (
    <>
      <Picked
        said={
          scope.owners
            ? `Only of ${scope.owners.map((id) => findOpenable(project, { optionId, id })?.name ?? id).join(', ')}`
            : 'Of every mass and building'
        }
        list={scope.owners}
        item={body ? { key: body.id, name: `“${body.name}”` } : null}
        all="All bodies"
        set={(owners) => set({ ...scope, owners })}
      />
      <Picked
        said={
          scope.walls
            ? `${scope.walls.length} picked ${scope.walls.length === 1 ? 'wall' : 'walls'}`
            : 'All walls of these'
        }
        list={scope.walls}
        item={wall ? { key: wall, name: 'the chosen wall' } : null}
        all="All walls"
        set={(walls) => set({ ...scope, walls })}
      />
      {scope.except.length > 0 && (
        <div className="with-button">
          <span className="visually-quiet">
            {scope.except.length} {scope.except.length === 1 ? 'wall' : 'walls'} left alone
          </span>
          <button className="btn btn-sm btn-quiet" onClick={() => set({ ...scope, except: [] })}>
            Take them in again
          </button>
        </div>
      )}
    </>
  );
}

/** Which way walls face, and in which storeys they are. */
export function WallFields({ scope, set }: { scope: Scope; set: (scope: Scope) => string | null }) {
  return (
    <>
      <fieldset className="chips">
        <legend>Walls that face</legend>
        {SECTORS.map((sector) => {
          const on = !scope.sectors || scope.sectors.includes(sector);
          return (
            <button
              key={sector}
              aria-pressed={on}
              onClick={() => {
                const now = scope.sectors ?? [...SECTORS];
                const next = on ? now.filter((s) => s !== sector) : [...now, sector];
                set({ ...scope, sectors: next.length === 4 ? null : next });
              }}
            >
              {sector}
            </button>
          );
        })}
      </fieldset>
      <TextField
        label="Storeys"
        value={scope.storeys ? scope.storeys.map((s) => s + 1).join(', ') : ''}
        placeholder="all, or 1, 2, 4"
        commit={(text) => {
          const storeys =
            text.trim() === '' || text.trim() === 'all'
              ? null
              : text
                  .split(/[\s,]+/)
                  .filter(Boolean)
                  .map(Number);
          if (storeys?.some((s) => !Number.isInteger(s) || s < 1))
            return 'Storeys are whole numbers from 1, such as 1, 2, 4.';
          return set({ ...scope, storeys: storeys && storeys.map((s) => s - 1) });
        }}
      />
    </>
  );
}

/** A list that is null for “all”: what it says, and buttons that put the chosen thing in or take it out. */
function Picked({
  said,
  list,
  item,
  all,
  set,
}: {
  said: string;
  list: string[] | null;
  item: { key: string; name: string } | null;
  all: string;
  set: (list: string[] | null) => void;
}) {
  const isIn = item !== null && (list?.includes(item.key) ?? false);
  const toggle = (key: string) => {
    const next = isIn ? (list ?? []).filter((k) => k !== key) : [...(list ?? []), key];
    set(next.length ? next : null);
  };
  return (
    <div className="mb-2">
      <p className="visually-quiet mb-1">{said}</p>
      {(item ?? list) && (
        <div className="tool-row">
          {item && (
            <button className="btn btn-sm btn-quiet" onClick={() => toggle(item.key)}>
              {isIn ? 'Without' : list ? 'Also' : 'Only'} {item.name}
            </button>
          )}
          {list && (
            <button className="btn btn-sm btn-quiet" onClick={() => set(null)}>
              {all}
            </button>
          )}
        </div>
      )}
    </div>
  );
}
