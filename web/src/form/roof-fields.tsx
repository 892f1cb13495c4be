import { type Roof } from '@dial-shade/core';
import { ChoiceField, LengthField, NumberField } from '../app/fields';

const KINDS: { value: Roof['kind']; name: string }[] = [
  { value: 'flat', name: 'Flat' },
  { value: 'gable', name: 'Gable' },
  { value: 'hip', name: 'Hip' },
  { value: 'mono', name: 'One slope' },
  { value: 'pyramid', name: 'Pyramid' },
  { value: 'sawtooth', name: 'Sawtooth' },
];

/** A roof of another kind with figures to begin with. */
function defaultRoof(kind: Roof['kind'], north: boolean): Roof {
  switch (kind) {
    case 'flat':
      return { kind, parapetM: 0 };
    case 'mono':
      return { kind, riseM: 1.5, fallsTowardsDeg: 180 };
    case 'hip':
      return { kind, pitchDeg: 30 };
    case 'sawtooth':
      return { kind, riseM: 2.5, teeth: 4, facesDeg: north ? 0 : 180 };
    default:
      return { kind, riseM: 2.5 };
  }
}

/** The roof of a mass, with the figures that its kind needs. */
export function RoofFields({
  roof,
  northern,
  commit,
}: {
  roof: Roof;
  /** Whether the site lies north of the equator; sawtooth faces turn from the sun. */
  northern: boolean;
  commit: (roof: Roof) => string | null;
}) {
  return (
    <>
      <ChoiceField
        label="Roof"
        value={roof.kind}
        choices={KINDS}
        commit={(kind) => void commit(defaultRoof(kind, northern))}
      />
      {roof.kind === 'flat' && (
        <LengthField
          label="Parapet"
          value={roof.parapetM}
          commit={(parapetM) => commit({ ...roof, parapetM })}
        />
      )}
      {'riseM' in roof && (
        <LengthField label="Rise" value={roof.riseM} commit={(riseM) => commit({ ...roof, riseM })} />
      )}
      {roof.kind === 'hip' && (
        <NumberField
          label="Pitch"
          unit="°"
          value={roof.pitchDeg}
          commit={(pitchDeg) => commit({ ...roof, pitchDeg })}
        />
      )}
      {roof.kind === 'mono' && (
        <NumberField
          label="Falls towards"
          unit="° cw"
          value={roof.fallsTowardsDeg}
          commit={(fallsTowardsDeg) => commit({ ...roof, fallsTowardsDeg })}
        />
      )}
      {roof.kind === 'sawtooth' && (
        <>
          <NumberField label="Teeth" value={roof.teeth} commit={(teeth) => commit({ ...roof, teeth })} />
          <NumberField
            label="Upright faces to"
            unit="° cw"
            value={roof.facesDeg}
            commit={(facesDeg) => commit({ ...roof, facesDeg })}
          />
        </>
      )}
    </>
  );
}
