import { type DeviceMake, INSIDE_G_FACTOR, isInsideSheet } from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField, NumberField } from '../app/fields';
import { LoweredFields, TurningSlats } from './moving-fields';

type Set = (make: DeviceMake) => string | null;
type InsideMake = Extract<DeviceMake, { kind: 'blind' | 'screen' }>;

/** A number of a device as it is typed: its key, what it is called, and its unit. */
type Field = readonly [key: string, label: string, unit: 'm' | '°' | '%' | ': 1'];

/** The numbers of each kind, in the order in which they are typed. */
const FIELDS: Record<DeviceMake['kind'], readonly Field[]> = {
  overhang: [
    ['depthM', 'Depth', 'm'],
    ['aboveM', 'Over the head', 'm'],
    ['sideM', 'Beyond the jambs', 'm'],
    ['thicknessM', 'Thickness', 'm'],
    ['tiltDeg', 'Tilt', '°'],
  ],
  fins: [
    ['depthM', 'Depth', 'm'],
    ['gapM', 'Gap from the jamb', 'm'],
    ['aboveM', 'Over the head', 'm'],
    ['belowM', 'Under the sill', 'm'],
    ['thicknessM', 'Thickness', 'm'],
    ['turnDeg', 'Turned outwards', '°'],
  ],
  louvres: [
    ['slatM', 'Depth of a slat', 'm'],
    ['spacingM', 'Spacing', 'm'],
    ['tiltDeg', 'Tilt', '°'],
    ['thicknessM', 'Thickness', 'm'],
    ['offM', 'Off the face', 'm'],
    ['aroundM', 'Round the opening', 'm'],
  ],
  shelf: [
    ['heightM', 'Over the sill', 'm'],
    ['outM', 'Depth outside', 'm'],
    ['inM', 'Depth inside', 'm'],
    ['thicknessM', 'Thickness', 'm'],
    ['tiltDeg', 'Tilt', '°'],
    ['reflectance', 'Upper face reflects', '%'],
    ['mirror', 'As a mirror', '%'],
  ],
  eggcrate: [
    ['depthM', 'Depth', 'm'],
    ['columnM', 'Upright plates every', 'm'],
    ['rowM', 'Level plates every', 'm'],
    ['thicknessM', 'Thickness', 'm'],
  ],
  reveal: [
    ['depthM', 'Depth', 'm'],
    ['thicknessM', 'Thickness', 'm'],
  ],
  screen: [
    ['openness', 'Open', '%'],
    ['holeDepth', 'Holes, depth to width', ': 1'],
    ['offM', 'Off the face', 'm'],
    ['aroundM', 'Round the opening', 'm'],
  ],
  blind: [
    ['offM', 'Off the opening', 'm'],
    ['openness', 'Open', '%'],
  ],
  awning: [
    ['depthM', 'Depth', 'm'],
    ['aboveM', 'Over the head', 'm'],
    ['sideM', 'Beyond the jambs', 'm'],
    ['tiltDeg', 'Tilt', '°'],
    ['openness', 'Open', '%'],
  ],
  canopy: [
    ['depthM', 'Depth', 'm'],
    ['aboveM', 'Over the head', 'm'],
    ['sideM', 'Beyond the jambs', 'm'],
    ['thicknessM', 'Thickness', 'm'],
    ['tiltDeg', 'Tilt', '°'],
    ['postM', 'Side of a post', 'm'],
    ['downM', 'Posts, under the sill', 'm'],
  ],
  balcony: [
    ['depthM', 'Depth', 'm'],
    ['belowM', 'Under the sill', 'm'],
    ['sideM', 'Beyond the jambs', 'm'],
    ['thicknessM', 'Thickness', 'm'],
    ['railM', 'Rail, height', 'm'],
    ['railOpenness', 'Rail, open', '%'],
  ],
  plate: [
    ['aboveM', 'Over the head', 'm'],
    ['offM', 'Off the face', 'm'],
    ['tiltDeg', 'Tilt', '°'],
    ['thicknessM', 'Thickness', 'm'],
  ],
};

const DIGITS = { '°': 1, '%': 0, ': 1': 2 } as const;

/** The sizes of a device, by its kind. */
export function MakeFields({ make, set }: { make: DeviceMake; set: Set }) {
  const isUpright = make.kind === 'louvres' && make.lie === 'upright';
  const isBetween = make.kind === 'fins' && make.at === 'between';
  return (
    <>
      {make.kind === 'fins' && (
        <ChoiceField
          label="At the jamb"
          value={make.at}
          choices={[
            { value: 'both', name: 'both' },
            { value: 'left', name: 'left, seen from outside' },
            { value: 'right', name: 'right, seen from outside' },
            { value: 'between', name: 'midway to the next window' },
          ]}
          commit={(at) => set({ ...make, at })}
        />
      )}
      {make.kind === 'louvres' && (
        <ChoiceField
          label="Slats"
          value={make.lie}
          choices={[
            { value: 'level', name: 'level' },
            { value: 'upright', name: 'upright' },
          ]}
          commit={(lie) => set({ ...make, lie })}
        />
      )}
      {(make.kind === 'blind' || make.kind === 'screen') && (
        <ChoiceField
          label="Side"
          value={make.side ?? 'outside'}
          choices={[
            { value: 'outside', name: 'outside' },
            { value: 'inside', name: 'inside' },
          ]}
          commit={(side) => set({ ...make, side })}
        />
      )}
      <div className="pair even">
        {FIELDS[make.kind].map(([key, name, unit]) => {
          const label = isUpright && key === 'tiltDeg' ? 'Turn' : name;
          if (isBetween && key === 'gapM') return null;
          // What may be left out is nothing then.
          const value = (make as unknown as Record<string, number | undefined>)[key] ?? 0;
          const commit = (next: number) => set({ ...make, [key]: next } as DeviceMake);
          if (unit === 'm') return <LengthField key={key} label={label} value={value} commit={commit} />;
          const share = unit === '%' ? 100 : 1;
          return (
            <NumberField
              key={key}
              label={label}
              unit={unit}
              digits={DIGITS[unit]}
              value={value * share}
              commit={(typed) => commit(typed / share)}
            />
          );
        })}
        {make.kind === 'overhang' && <OverhangSlats make={make} set={set} />}
      </div>
      {isInsideSheet(make) && <InsideFactor make={make} set={set} />}
      {make.kind === 'louvres' && <TurningSlats make={make} set={set} />}
      {(make.kind === 'blind' || make.kind === 'awning') && <LoweredFields make={make} set={set} />}
      {make.kind === 'plate' && (
        <p className="visually-quiet mb-1">
          {make.outlines.length === 1 ? 'One outline' : `${make.outlines.length} outlines`} of{' '}
          {make.outlines.reduce((sum, { outer }) => sum + outer.length, 0)} corners; a map of worth below
          makes another.
        </p>
      )}
    </>
  );
}

/** What a sheet inside leaves of the solar gain. */
function InsideFactor({ make, set }: { make: InsideMake; set: Set }) {
  return (
    <>
      <NumberField
        label="Of the gain, comes in"
        unit="%"
        digits={1}
        value={(make.gFactor ?? INSIDE_G_FACTOR) * 100}
        commit={(share) => set({ ...make, gFactor: share / 100 })}
      />
      <p className="visually-quiet mb-1">
        Behind the glass most of the heat is in the room already: g with the sheet over g without. 70 % is a
        light sheet behind insulating glass.
      </p>
    </>
  );
}

/** An overhang of slats in place of a plate. */
function OverhangSlats({ make, set }: { make: Extract<DeviceMake, { kind: 'overhang' }>; set: Set }) {
  const { slats, ...solid } = make;
  return (
    <>
      <CheckField
        label="Of slats"
        checked={slats !== undefined}
        change={(on) => set(on ? { ...make, slats: { slatM: 0.12, spacingM: 0.15, turnDeg: 35 } } : solid)}
      />
      {slats && (
        <>
          <LengthField
            label="Width of a slat"
            value={slats.slatM}
            commit={(slatM) => set({ ...make, slats: { ...slats, slatM } })}
          />
          <LengthField
            label="Spacing"
            value={slats.spacingM}
            commit={(spacingM) => set({ ...make, slats: { ...slats, spacingM } })}
          />
          <NumberField
            label="Turned"
            unit="°"
            digits={1}
            value={slats.turnDeg}
            commit={(turnDeg) => set({ ...make, slats: { ...slats, turnDeg } })}
          />
        </>
      )}
    </>
  );
}
