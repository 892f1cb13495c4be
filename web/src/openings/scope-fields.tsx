import { faceOfOwner, findOpenable, type OpeningRule, wallName } from '@dial-shade/core';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

type Scope = OpeningRule['scope'];

/** Which bodies and which of their walls a rule is for: taken in and left out by what is chosen on the board. */
export function ScopeFields({
  optionId,
  rule: { scope },
  set,
}: {
  optionId: string | null;
  rule: OpeningRule;
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
