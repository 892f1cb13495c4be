import { change, changeOwner, findOwner, type Neighbour, type OwnerRef } from '@dial-shade/core';
import { ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { edit, useDocument } from '../state/project-store';

/** What can be typed about a chosen wall, fence, tree or imported mesh. */
export function NeighbourSection({ owner }: { owner: OwnerRef }) {
  const project = useDocument();
  const found = findOwner(project, owner);
  if (!found || 'footprint' in found) return null;
  return (
    <Section title={found.name}>
      <TextField
        label="Name"
        value={found.name}
        commit={(name) => edit(`rename ${found.name}`, changeOwner(owner, { name }), { quiet: true })}
      />
      {owner.optionId === null ? <NeighbourFields neighbour={found as Neighbour} /> : null}
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
    </Section>
  );
}

function NeighbourFields({ neighbour }: { neighbour: Neighbour }) {
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
    case 'mesh':
      return (
        <>
          {(['Moved right', 'Moved up', 'Raised'] as const).map((label, k) => (
            <LengthField
              key={label}
              label={label}
              value={neighbour.move[k]!}
              commit={(value) => {
                const move = [...neighbour.move] as [number, number, number];
                move[k] = value;
                return set({ move });
              }}
            />
          ))}
          <NumberField
            label="Turned by"
            unit="° ccw"
            value={neighbour.turnDeg}
            commit={(turnDeg) => set({ turnDeg })}
          />
          {share('Lets pass', 'openness', neighbour.openness)}
        </>
      );
    default:
      return null;
  }
}
