import {
  canMove,
  changeDevice,
  changeScheme,
  cutOffOf,
  type CutOff,
  type Device,
  type DevicePlace,
  glazedPlaces,
  newId,
  type Option,
  placesOfDevice,
} from '@dial-shade/core';
import { useMemo } from 'react';
import { CheckField, ChoiceField, Section, TextField } from '../app/fields';
import { ScopeFields as OwnersAndWalls, WallFields } from '../openings/scope-fields';
import { useMeshes } from '../state/mesh-cache';
import { edit, useDocument } from '../state/project-store';
import { useGlass } from './glass-store';
import { MakeFields } from './make-fields';
import { PositionNow } from './moving-fields';

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
  return (
    <Section title={device.name} name="device">
      <p className="visually-quiet mb-1" data-testid="hangs-on">
        {places.length === 0
          ? 'It hangs on no opening; widen where it hangs.'
          : `Hangs on ${places.length} ${places.length === 1 ? 'opening' : 'openings'}.`}
      </p>
      <MakeFields make={device.make} set={(make) => set(`change ${device.name}`, { make })} />
      {place && canMove(device.make) && <PositionNow make={device.make} place={place} />}
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
      <OneWindow
        {...{ option, schemeId, device, chosen }}
        place={places.length > 1 ? place : null}
        set={set}
      />
      <TextField label="Name" value={device.name} commit={(name) => set('rename a device', { name })} />
    </Section>
  );
}

/** Hangs the device on all its openings, on the window that is looked at only, or detaches it there. */
function OneWindow({
  option,
  schemeId,
  device,
  chosen,
  place,
  set,
}: {
  option: Option;
  schemeId: string;
  device: Device;
  chosen: string | null;
  /** Where it can be detached. */
  place: DevicePlace | null;
  set: (name: string, fields: Partial<Device>) => void;
}) {
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
  if (device.openings)
    return (
      <button className="btn btn-sm btn-quiet" onClick={() => pick(null)}>
        On all of them
      </button>
    );
  if (!chosen) return null;
  return (
    <span className="d-flex flex-wrap gap-1">
      <button className="btn btn-sm btn-quiet" onClick={() => pick(chosen)}>
        Only on the window below
      </button>
      {place && (
        <button
          className="btn btn-sm btn-quiet"
          title="A device of its own at that window, to be changed singly; this one leaves it alone"
          onClick={() => detach(place)}
        >
          Detach it there
        </button>
      )}
    </span>
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
