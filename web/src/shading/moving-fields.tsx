import {
  type DeviceMake,
  type DevicePlace,
  dot,
  type LoweredWhen,
  MONTH_NAMES,
  movedBy,
  positionAt,
} from '@dial-shade/core';
import { CheckField, ChoiceField, ClockField, NumberField } from '../app/fields';
import { useDocument } from '../state/project-store';
import { useMoment } from '../state/view-store';

type Of<K extends DeviceMake['kind']> = Extract<DeviceMake, { kind: K }>;
type Set = (make: DeviceMake) => string | null;

/** How far slats turn on either side of rest when they begin to turn with the sun, degrees. */
const AROUND_DEG = 40;

/** Louvres whose slats turn with the sun between two limits. */
export function TurningSlats({ make, set }: { make: Of<'louvres'>; set: Set }) {
  const { turning, ...fixed } = make;
  const begun = {
    fromDeg: Math.max(-80, make.tiltDeg - AROUND_DEG),
    toDeg: Math.min(80, make.tiltDeg + AROUND_DEG),
  };
  return (
    <>
      <CheckField
        label="Turn with the sun"
        checked={turning !== undefined}
        change={(on) => set(on ? { ...make, turning: begun } : fixed)}
      />
      {turning && (
        <>
          <div className="pair even">
            <NumberField
              label="Turned from"
              unit="°"
              digits={1}
              value={turning.fromDeg}
              commit={(fromDeg) => set({ ...make, turning: { ...turning, fromDeg } })}
            />
            <NumberField
              label="Turned to"
              unit="°"
              digits={1}
              value={turning.toDeg}
              commit={(toDeg) => set({ ...make, turning: { ...turning, toDeg } })}
            />
          </div>
          <p className="visually-quiet mb-1">
            In steps of 5° to the tilt nearest the one above that lets no beam pass between two slats.
          </p>
        </>
      )}
    </>
  );
}

const MONTHS = MONTH_NAMES.map((name, m) => ({ value: String(m + 1), name }));

/** When a blind is down, or an awning out. */
export function LoweredFields({ make, set }: { make: Of<'blind'> | Of<'awning'>; set: Set }) {
  const hasWeather = useDocument().site.weather !== null;
  const { lowered } = make;
  const put = (fields: Partial<LoweredWhen>) => set({ ...make, lowered: { ...lowered, ...fields } });
  const { overWm2, fromMinutes, untilMinutes, fromMonth, untilMonth } = lowered;
  return (
    <div role="group" aria-label="When it is lowered">
      <ChoiceField
        label={make.kind === 'blind' ? 'Down' : 'Out'}
        value={overWm2 === null ? 'always' : 'beam'}
        choices={[
          { value: 'beam', name: 'in strong sun' },
          { value: 'always', name: 'in these hours' },
        ]}
        commit={(by) => put({ overWm2: by === 'beam' ? 200 : null })}
      />
      {overWm2 !== null && (
        <NumberField
          label="Beam on the glass over"
          unit="W/m²"
          digits={0}
          value={overWm2}
          commit={(value) => put({ overWm2: value })}
        />
      )}
      <div className="pair even">
        <ClockField label="From" value={fromMinutes} commit={(minutes) => put({ fromMinutes: minutes })} />
        <ClockField label="Until" value={untilMinutes} commit={(minutes) => put({ untilMinutes: minutes })} />
        <ChoiceField
          label="First month"
          value={String(fromMonth)}
          choices={MONTHS}
          commit={(month) => put({ fromMonth: Number(month) })}
        />
        <ChoiceField
          label="Last month"
          value={String(untilMonth)}
          choices={MONTHS}
          commit={(month) => put({ untilMonth: Number(month) })}
        />
      </div>
      {overWm2 !== null && !hasWeather && (
        <p className="visually-quiet mb-1">
          Without a weather year every sun before the glass counts as strong enough.
        </p>
      )}
    </div>
  );
}

/** How a device that moves stands at the moment, at one of its openings, and why. */
export function PositionNow({ make, place: { face } }: { make: DeviceMake; place: DevicePlace }) {
  const project = useDocument();
  const by = movedBy(project, useMoment());
  const position = positionAt(make, face, by);
  const before = by.sun ? dot(by.sun, face.normal) : 0;
  const onGlass = by.beamWm2 === null ? null : Math.max(0, before) * by.beamWm2;
  const states = { blind: ['up', 'down'], awning: ['in', 'out'] } as const;
  const stands =
    make.kind === 'blind' || make.kind === 'awning'
      ? states[make.kind][position > 0 ? 1 : 0]
      : `turned to ${position.toFixed(0)}°`;
  const because =
    before <= 0
      ? '; the sun is not before the glass'
      : make.kind !== 'louvres' && onGlass !== null
        ? `; ${onGlass.toFixed(0)} W/m² of beam would fall on the glass`
        : '';
  return (
    <p className="mb-1" data-testid="position-now">
      At this moment it is <strong>{stands}</strong>
      {because}.
    </p>
  );
}
