import type { DeviceMake } from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField, NumberField } from '../app/fields';

type Set = (make: DeviceMake) => string | null;

/** The sizes of a device, by its kind. */
export function MakeFields({ make, set }: { make: DeviceMake; set: Set }) {
  const length = <M extends DeviceMake>(of: M, key: keyof M & string, label: string) => (
    <LengthField
      key={key}
      label={label}
      value={of[key] as number}
      commit={(value) => set({ ...of, [key]: value })}
    />
  );
  const degrees = <M extends DeviceMake>(of: M, key: keyof M & string, label: string) => (
    <NumberField
      key={key}
      label={label}
      unit="°"
      digits={1}
      value={of[key] as number}
      commit={(value) => set({ ...of, [key]: value })}
    />
  );
  const percent = <M extends DeviceMake>(of: M, key: keyof M & string, label: string) => (
    <NumberField
      key={key}
      label={label}
      unit="%"
      digits={0}
      value={(of[key] as number) * 100}
      commit={(value) => set({ ...of, [key]: value / 100 })}
    />
  );
  switch (make.kind) {
    case 'overhang':
      return (
        <div className="pair even">
          {length(make, 'depthM', 'Depth')}
          {length(make, 'aboveM', 'Over the head')}
          {length(make, 'sideM', 'Beyond the jambs')}
          {length(make, 'thicknessM', 'Thickness')}
          {degrees(make, 'tiltDeg', 'Tilt')}
          <OverhangSlats make={make} set={set} />
        </div>
      );
    case 'fins':
      return (
        <>
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
          <div className="pair even">
            {length(make, 'depthM', 'Depth')}
            {make.at !== 'between' && length(make, 'gapM', 'Gap from the jamb')}
            {length(make, 'aboveM', 'Over the head')}
            {length(make, 'belowM', 'Under the sill')}
            {length(make, 'thicknessM', 'Thickness')}
            {degrees(make, 'turnDeg', 'Turned outwards')}
          </div>
        </>
      );
    case 'louvres':
      return (
        <>
          <ChoiceField
            label="Slats"
            value={make.lie}
            choices={[
              { value: 'level', name: 'level' },
              { value: 'upright', name: 'upright' },
            ]}
            commit={(lie) => set({ ...make, lie })}
          />
          <div className="pair even">
            {length(make, 'slatM', 'Depth of a slat')}
            {length(make, 'spacingM', 'Spacing')}
            {degrees(make, 'tiltDeg', make.lie === 'level' ? 'Tilt' : 'Turn')}
            {length(make, 'thicknessM', 'Thickness')}
            {length(make, 'offM', 'Off the face')}
            {length(make, 'aroundM', 'Round the opening')}
          </div>
        </>
      );
    case 'shelf':
      return (
        <div className="pair even">
          {length(make, 'heightM', 'Over the sill')}
          {length(make, 'outM', 'Depth outside')}
          {length(make, 'inM', 'Depth inside')}
          {length(make, 'thicknessM', 'Thickness')}
        </div>
      );
    case 'eggcrate':
      return (
        <div className="pair even">
          {length(make, 'depthM', 'Depth')}
          {length(make, 'columnM', 'Upright plates every')}
          {length(make, 'rowM', 'Level plates every')}
          {length(make, 'thicknessM', 'Thickness')}
        </div>
      );
    case 'reveal':
      return (
        <div className="pair even">
          {length(make, 'depthM', 'Depth')}
          {length(make, 'thicknessM', 'Thickness')}
        </div>
      );
    case 'screen':
      return (
        <div className="pair even">
          {percent(make, 'openness', 'Open')}
          <NumberField
            label="Holes, depth to width"
            unit=": 1"
            digits={2}
            value={make.holeDepth}
            commit={(holeDepth) => set({ ...make, holeDepth })}
          />
          {length(make, 'offM', 'Off the face')}
          {length(make, 'aroundM', 'Round the opening')}
        </div>
      );
    case 'canopy':
      return (
        <div className="pair even">
          {length(make, 'depthM', 'Depth')}
          {length(make, 'aboveM', 'Over the head')}
          {length(make, 'sideM', 'Beyond the jambs')}
          {length(make, 'thicknessM', 'Thickness')}
          {degrees(make, 'tiltDeg', 'Tilt')}
          {length(make, 'postM', 'Side of a post')}
          {length(make, 'downM', 'Posts, under the sill')}
        </div>
      );
    case 'balcony':
      return (
        <div className="pair even">
          {length(make, 'depthM', 'Depth')}
          {length(make, 'belowM', 'Under the sill')}
          {length(make, 'sideM', 'Beyond the jambs')}
          {length(make, 'thicknessM', 'Thickness')}
          {length(make, 'railM', 'Rail, height')}
          {percent(make, 'railOpenness', 'Rail, open')}
        </div>
      );
    case 'plate':
      return (
        <>
          <div className="pair even">
            {length(make, 'aboveM', 'Over the head')}
            {length(make, 'offM', 'Off the face')}
            {degrees(make, 'tiltDeg', 'Tilt')}
            {length(make, 'thicknessM', 'Thickness')}
          </div>
          <p className="visually-quiet mb-1">
            {make.outlines.length === 1 ? 'One outline' : `${make.outlines.length} outlines`} of{' '}
            {make.outlines.reduce((sum, { outer }) => sum + outer.length, 0)} corners; a map of worth below
            makes another.
          </p>
        </>
      );
  }
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
