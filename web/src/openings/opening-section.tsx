import {
  cutText,
  detachRule,
  findOpenable,
  fitOutline,
  formatArea,
  moveOutline,
  newId,
  type Opening,
  outlineArea,
  outlineBox,
  rulesFor,
} from '@dial-shade/core';
import { Scissors } from 'lucide-react';
import { useState } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { currentProject, edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { type Facade, placeOpening, defaultGlazing, useFacade } from './use-facade';
import { openingsNow } from './use-openings';

/** What can be typed about the chosen opening. */
export function OpeningSection() {
  const facade = useFacade();
  const project = useDocument();
  const openingId = useView((v) => v.opening);
  const made = facade?.fitted.byFace.get(facade.face.key)?.find((o) => o.id === openingId && o.rule !== null);
  const ruleName =
    made && facade
      ? (rulesFor(project, facade.owner.optionId).find((r) => r.id === made.rule)?.name ?? '')
      : '';
  if (facade && made)
    return (
      <Section title={made.name} name="opening">
        <p className="visually-quiet">
          Made by the rule “{ruleName}”. Break the rule to change this opening by itself.
        </p>
        <button className="btn btn-sm btn-quiet" onClick={() => detachHere(facade, made.rule!, ruleName)}>
          <Scissors size={14} /> Break it on this wall only
        </button>
      </Section>
    );
  const opening = facade?.body.openings.find((o) => o.id === openingId);
  if (!facade || !opening) return null;
  const set = (name: string, fields: Partial<Opening>) => {
    placeOpening(facade, { ...opening, ...fields }, `${name} ${opening.name}`);
    return null;
  };
  const { u0, v0, u1, v1 } = outlineBox(opening.outline);
  const fit = (box: Partial<{ u0: number; v0: number; u1: number; v1: number }>) =>
    set('size', { outline: fitOutline(opening.outline, { u0, v0, u1, v1, ...box }) });
  return (
    <Section title={opening.name} name="opening">
      <TextField label="Name" value={opening.name} commit={(name) => set('rename', { name })} />
      <LengthField
        label="From the left"
        value={u0}
        commit={(u) => set('move', { outline: moveOutline(opening.outline, u - u0, 0) })}
      />
      <LengthField
        label="Sill"
        value={v0}
        commit={(v) => set('move', { outline: moveOutline(opening.outline, 0, v - v0) })}
      />
      <LengthField label="Head" value={v1} commit={(v) => fit({ v1: Math.max(v0 + 0.05, v) })} />
      <LengthField label="Width" value={u1 - u0} commit={(w) => fit({ u1: u0 + Math.max(0.05, w) })} />
      <ChoiceField<Opening['kind']>
        label="Is a"
        value={opening.kind}
        choices={[
          { value: 'window', name: 'Window' },
          { value: 'door', name: 'Door' },
          { value: 'void', name: 'Hole without a pane' },
        ]}
        commit={(kind) =>
          set('kind of', {
            kind,
            glazing: kind === 'window' ? (opening.glazing ?? defaultGlazing()) : null,
            grid: kind === 'window' ? opening.grid : null,
          })
        }
      />
      {opening.kind !== 'void' && (
        <>
          <ChoiceField
            label="Pane"
            value={opening.glazing ?? ''}
            choices={[
              ...(opening.kind === 'door' ? [{ value: '', name: 'Opaque' }] : []),
              ...project.glazings.map((g) => ({ value: g.id, name: g.name })),
            ]}
            commit={(glazing) => set('pane of', { glazing: glazing || null })}
          />
          <LengthField
            label="Reveal"
            value={opening.revealM}
            commit={(revealM) => set('reveal of', { revealM })}
          />
          <CheckField
            label="Can be opened"
            checked={opening.openable}
            change={(is) => set('change', { openable: is })}
          />
        </>
      )}
      {opening.outline.kind === 'rectangle' && opening.glazing && <GridFields opening={opening} set={set} />}
      <ArrayFields facade={facade} opening={opening} />
      <dl className="facts">
        <dt>Area</dt>
        <dd>{formatArea(outlineArea(opening.outline), project.units)}</dd>
      </dl>
    </Section>
  );
}

/** What a rule makes on this face becomes single openings; on the others the rule stays. */
function detachHere({ owner, face }: Facade, ruleId: string, name: string): void {
  edit(`break ${name} on one wall`, (project) =>
    detachRule(project, openingsNow(project), owner.optionId, ruleId, { ownerId: owner.id, face }),
  );
}

/** The bars of a curtain wall. */
function GridFields({
  opening,
  set,
}: {
  opening: Opening;
  set: (name: string, fields: Partial<Opening>) => null;
}) {
  const { grid } = opening;
  return (
    <>
      <label className="d-flex gap-2 align-items-center mb-2">
        <input
          type="checkbox"
          checked={grid !== null}
          onChange={(event) =>
            set('grid of', { grid: event.target.checked ? { columns: 3, rows: 2, barM: 0.06 } : null })
          }
        />
        Curtain-wall grid
      </label>
      {grid && (
        <>
          <NumberField
            label="Panes across"
            value={grid.columns}
            commit={(columns) => set('grid of', { grid: { ...grid, columns } })}
          />
          <NumberField
            label="Panes high"
            value={grid.rows}
            commit={(rows) => set('grid of', { grid: { ...grid, rows } })}
          />
          <LengthField
            label="Bars"
            value={grid.barM}
            commit={(barM) => set('grid of', { grid: { ...grid, barM } })}
          />
        </>
      )}
    </>
  );
}

function ArrayFields({ facade, opening }: { facade: Facade; opening: Opening }) {
  const [spacing, setSpacing] = useState(2);
  const array = () => {
    const { lengthM } = facade.face;
    const box = outlineBox(opening.outline);
    let made = 0;
    for (let k = 1; box.u1 + k * spacing <= lengthM; k++) {
      const id = newId('opening');
      const copy = {
        ...opening,
        id,
        name: cutText(`${opening.name} ${k + 1}`, 80),
        outline: moveOutline(opening.outline, k * spacing, 0),
      };
      const now = { ...facade, body: findOpenable(currentProject(), facade.owner) ?? facade.body };
      if (!placeOpening(now, copy, `array ${opening.name}`)) break;
      made++;
    }
    return made;
  };
  return (
    <div className="with-button">
      <LengthField
        label="Repeat every"
        value={spacing}
        commit={(value) => {
          if (value < 0.1) return 'The spacing must be at least 0.1 m.';
          setSpacing(value);
          return null;
        }}
      />
      <button className="btn btn-sm btn-quiet" onClick={array}>
        Array to the right
      </button>
    </div>
  );
}
