import { editSite, type Site } from '@dial-shade/core';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { edit } from '../state/project-store';

const NAMES = [
  ['facades', 'Facades, roofs'],
  ['glass', 'Glass, outside'],
  ['devices', 'Devices'],
  ['crowns', 'Trees'],
] as const;

/** Light that the ground and what stands about throw back: how it is taken, and how much. */
export function ThrownBackSection({ site: { albedo, thrownBack, reflectances } }: { site: Site }) {
  const set = (change: Partial<Site>) =>
    edit('change what is thrown back', editSite(change), { quiet: true });
  const isTraced = thrownBack === 'traced';
  return (
    <Section title="Light thrown back" name="thrown-back">
      <ChoiceField
        label="Taken"
        value={thrownBack}
        choices={[
          { value: 'traced', name: 'as it is traced' },
          { value: 'open', name: 'off open ground' },
        ]}
        commit={(next) => set({ thrownBack: next })}
      />
      <div className="pair even">
        <NumberField
          label="Ground, albedo"
          unit="%"
          digits={1}
          value={albedo * 100}
          commit={(share) => set({ albedo: share / 100 })}
        />
        {isTraced &&
          NAMES.map(([key, name]) => (
            <NumberField
              key={key}
              label={name}
              unit="%"
              digits={1}
              value={reflectances[key] * 100}
              commit={(share) => set({ reflectances: { ...reflectances, [key]: share / 100 } })}
            />
          ))}
      </div>
      <p className="visually-quiet mb-1">
        {isTraced
          ? 'Ground, facades and devices throw back, once, what sun and sky give where they stand: past everything that stands between.'
          : 'As tables have it: albedo × global × (1 − n_z)/2, with nothing in its way, and nothing off facades.'}
      </p>
    </Section>
  );
}
