import {
  change,
  changeOwner,
  findOwner,
  type Model,
  type Neighbour,
  type OwnerRef,
  placeModel,
  TODAY,
} from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { edit, useDocument } from '../state/project-store';
import { FaceTargetButton } from './face-target-button';

/** What can be typed about a chosen wall, fence, tree or imported mesh. */
export function NeighbourSection({ owner }: { owner: OwnerRef }) {
  const project = useDocument();
  const found = findOwner(project, owner);
  if (!found || 'footprint' in found) return null;
  return (
    <Section title={found.name} name="neighbour">
      <TextField
        label="Name"
        value={found.name}
        commit={(name) => edit(`rename ${found.name}`, changeOwner(owner, { name }), { quiet: true })}
      />
      {'mesh' in found ? <ModelFields owner={owner} model={found} /> : <NeighbourFields neighbour={found} />}
      {(owner.optionId === null || owner.optionId === TODAY) && (
        <label className="d-flex gap-2 align-items-center mb-2">
          <input
            type="checkbox"
            checked={found.demolished}
            onChange={(event) =>
              edit(`demolish ${found.name}`, changeOwner(owner, { demolished: event.target.checked }))
            }
          />
          Taken down when an option is built
        </label>
      )}
    </Section>
  );
}

function NeighbourFields({ neighbour }: { neighbour: Exclude<Neighbour, { kind: 'building' | 'mesh' }> }) {
  const set = (fields: Partial<Neighbour>) =>
    edit(`change ${neighbour.name}`, change('neighbours', neighbour.id, fields), { quiet: true });
  const share = (label: string, key: 'openness' | 'leafOpenness' | 'bareOpenness', value: number) => (
    <NumberField
      label={label}
      unit="%"
      digits={1}
      value={value * 100}
      commit={(percent) => set({ [key]: percent / 100 } as Partial<Neighbour>)}
    />
  );
  switch (neighbour.kind) {
    case 'wall':
      return (
        <>
          <LengthField label="Height" value={neighbour.heightM} commit={(heightM) => set({ heightM })} />
          <LengthField
            label="Thickness"
            value={neighbour.thicknessM}
            commit={(thicknessM) => set({ thicknessM })}
          />
        </>
      );
    case 'fence':
      return (
        <>
          <LengthField label="Height" value={neighbour.heightM} commit={(heightM) => set({ heightM })} />
          {share('Lets pass', 'openness', neighbour.openness)}
        </>
      );
    case 'tree':
      return (
        <>
          <LengthField label="Height" value={neighbour.heightM} commit={(heightM) => set({ heightM })} />
          <LengthField
            label="Width of the crown"
            value={neighbour.crownM}
            commit={(crownM) => set({ crownM })}
          />
          <LengthField label="Clear below it" value={neighbour.clearM} commit={(clearM) => set({ clearM })} />
          <ChoiceField
            label="Crown"
            value={neighbour.crown}
            choices={[
              { value: 'round', name: 'Round' },
              { value: 'cone', name: 'Cone' },
              { value: 'column', name: 'Column' },
            ]}
            commit={(crown) => void set({ crown })}
          />
          {share('Lets pass in leaf', 'leafOpenness', neighbour.leafOpenness)}
          {share('Lets pass bare', 'bareOpenness', neighbour.bareOpenness)}
          <TextField
            label="In leaf from (MM-DD)"
            value={neighbour.leafFrom}
            commit={(leafFrom) => set({ leafFrom: leafFrom.trim() })}
          />
          <TextField
            label="until"
            value={neighbour.leafUntil}
            commit={(leafUntil) => set({ leafUntil: leafUntil.trim() })}
          />
        </>
      );
  }
}

/** Where an imported mesh stands, and what can become of its faces. */
function ModelFields({ owner, model }: { owner: OwnerRef; model: Model }) {
  const place = (fields: Parameters<typeof placeModel>[1]) =>
    edit(`move ${model.name}`, placeModel(owner, fields), { quiet: true });
  return (
    <>
      {(['Moved right', 'Moved up', 'Raised'] as const).map((label, k) => (
        <LengthField
          key={label}
          label={label}
          value={model.move[k]!}
          commit={(value) => {
            const move = [...model.move] as [number, number, number];
            move[k] = value;
            return place({ move });
          }}
        />
      ))}
      <NumberField
        label="Turned by"
        unit="° ccw"
        value={model.turnDeg}
        commit={(turnDeg) => place({ turnDeg })}
      />
      <NumberField
        label="Lets pass"
        unit="%"
        digits={1}
        value={model.openness * 100}
        commit={(percent) =>
          edit(`change ${model.name}`, changeOwner(owner, { openness: percent / 100 }), { quiet: true })
        }
      />
      {owner.optionId !== null && owner.optionId !== TODAY && (
        <CheckField
          label="It is a shading device"
          checked={'device' in model && model.device === true}
          change={(device) => edit(`mark ${model.name}`, changeOwner(owner, { device }))}
        />
      )}
      <dl className="facts">
        <dt>Triangles</dt>
        <dd>{model.triangles.toLocaleString('en')}</dd>
      </dl>
      <FaceTargetButton study={undefined} />
    </>
  );
}
