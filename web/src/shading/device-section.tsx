import {
  changeDevice,
  changeScheme,
  cutOffOf,
  type CutOff,
  type Device,
  type DeviceMake,
  type DevicePlace,
  glazedPlaces,
  newId,
  type Option,
  placesOfDevice,
} from '@dial-shade/core';
import { useMemo } from 'react';
import { CheckField, ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { ScopeFields as OwnersAndWalls, WallFields } from '../openings/scope-fields';
import { useMeshes } from '../state/mesh-cache';
import { edit, useDocument } from '../state/project-store';
import { useGlass } from './glass-store';

type Set = (make: DeviceMake) => string | null;

/** The sizes of a device, and which openings it hangs on. */
export function DeviceSection({
  option,
  schemeId,
  device,
}: {
  option: Option;
  schemeId: string;
  device: Device;
}) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const chosen = useGlass((state) => state.chosen);
  const bodies = useMemo(() => glazedPlaces(project, option.id, meshes), [project, option.id, meshes]);
  const places = placesOfDevice(device, bodies, project.site.north.trueNorthDeg);
  const place =
    places.find(({ owner, opening }) => `${owner.id}/${opening.id}` === chosen) ?? places[0] ?? null;
  const set = (name: string, fields: Partial<Device>) =>
    edit(name, changeDevice(option.id, schemeId, device.id, fields), { quiet: true });
  const pick = (one: string | null) => {
    const [owner, ...rest] = (one ?? '').split('/');
    set(one === null ? 'hang it on all of them' : 'hang it on one window', {
      openings: one === null ? null : [{ owner: owner!, opening: rest.join('/') }],
    });
  };
  const detach = ({ owner, opening }: DevicePlace) => {
    const one = { owner: owner.id, opening: opening.id };
    const own: Device = {
      ...device,
      id: newId('device'),
      name: `${device.name} of ${opening.name}`.slice(0, 80),
      openings: [one],
      except: [],
    };
    edit(
      `detach ${device.name}`,
      changeScheme(option.id, schemeId, (scheme) => ({
        ...scheme,
        devices: [
          ...scheme.devices.map((other) =>
            other.id === device.id ? { ...other, except: [...(other.except ?? []), one] } : other,
          ),
          own,
        ],
      })),
    );
    useGlass.setState({ device: own.id });
  };
  return (
    <Section title={device.name} name="device">
      <p className="visually-quiet mb-1" data-testid="hangs-on">
        {places.length === 0
          ? 'It hangs on no opening; widen where it hangs.'
          : `Hangs on ${places.length} ${places.length === 1 ? 'opening' : 'openings'}.`}
      </p>
      <MakeFields make={device.make} set={(make) => set(`change ${device.name}`, { make })} />
      {place && <CutOffRows cutOff={cutOffOf(device.make, place.box)} />}
      <ChoiceField
        label="It hangs"
        value={device.along ?? 'opening'}
        choices={[
          { value: 'opening', name: 'at each opening' },
          { value: 'storey', name: 'along a storey of the wall' },
          { value: 'facade', name: 'along the whole wall' },
        ]}
        commit={(along) => set('where it hangs', { along })}
      />
      <WallFields
        scope={{ ...device.scope, walls: null, except: [] }}
        set={({ sectors, storeys }) =>
          set('where it hangs', { scope: { ...device.scope, sectors, storeys } })
        }
      />
      <WhichOnes option={option} device={device} set={(scope) => set('where it hangs', { scope })} />
      {device.openings ? (
        <button className="btn btn-sm btn-quiet" onClick={() => pick(null)}>
          On all of them
        </button>
      ) : (
        chosen && (
          <span className="d-flex flex-wrap gap-1">
            <button className="btn btn-sm btn-quiet" onClick={() => pick(chosen)}>
              Only on the window below
            </button>
            {place && places.length > 1 && (
              <button
                className="btn btn-sm btn-quiet"
                title="A device of its own at that window, to be changed singly; this one leaves it alone"
                onClick={() => detach(place)}
              >
                Detach it there
              </button>
            )}
          </span>
        )
      )}
      <TextField label="Name" value={device.name} commit={(name) => set('rename a device', { name })} />
    </Section>
  );
}

/** Which masses, walls and rooms it hangs on: what is chosen on the board, the room of the window below, or all. */
function WhichOnes({
  option,
  device: { scope },
  set,
}: {
  option: Option;
  device: Device;
  set: (scope: Device['scope']) => void;
}) {
  const named = option.masses.flatMap(({ id: owner, name: mass, rooms }) =>
    rooms.map(({ id: room, name }) => ({ key: `${owner}/${room}`, owner, room, name: `${name}, ${mass}` })),
  );
  const chosen = scope.rooms ?? null;
  return (
    <>
      <OwnersAndWalls
        optionId={option.id}
        scope={{ ...scope, walls: scope.walls ?? null, except: [] }}
        set={({ owners, walls }) => set({ ...scope, owners, walls })}
      />
      {named.length > 0 && (
        <details className="mb-1" open={chosen !== null}>
          <summary>{chosen ? `Only ${chosen.length} named rooms` : 'Windows of all rooms'}</summary>
          <div className="room-checks">
            {named.map(({ key, owner, room, name }) => {
              const isIn = chosen?.some((one) => one.owner === owner && one.room === room) ?? false;
              return (
                <CheckField
                  key={key}
                  label={name}
                  checked={isIn}
                  change={(on) => {
                    const rest = (chosen ?? []).filter((one) => one.owner !== owner || one.room !== room);
                    const next = on ? [...rest, { owner, room }] : rest;
                    set({ ...scope, rooms: next.length > 0 ? next : null });
                  }}
                />
              );
            })}
          </div>
        </details>
      )}
    </>
  );
}

function MakeFields({ make, set }: { make: DeviceMake; set: Set }) {
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

/** From which shadow angles on the device, were it endless, keeps all direct sun off. */
function CutOffRows({ cutOff: { vsaDeg, hsaRightDeg, hsaLeftDeg } }: { cutOff: CutOff }) {
  const read = (value: number) => `${value.toFixed(1)}°`;
  const rows = [
    vsaDeg !== null && `a vertical shadow angle of ${read(vsaDeg)}`,
    hsaRightDeg !== null && `a horizontal shadow angle of ${read(hsaRightDeg)} to the right`,
    hsaLeftDeg !== null && `${read(hsaLeftDeg)} to the left`,
  ].filter(Boolean);
  if (rows.length === 0) return null;
  return (
    <p
      className="visually-quiet mb-1"
      data-testid="cut-off"
      title="Closed form of a device that runs on without end: overhang tan VSA = (H + y)/D, fin tan HSA = (W + g)/F, slats tan VSA = (s − d sin β)/(d cos β). The shares below are exact, with the real ends of the device."
    >
      Endless, it would keep all sun off from {rows.join(', and ')} on.
    </p>
  );
}
