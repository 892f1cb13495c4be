import {
  addScheme,
  changeScheme,
  copyScheme,
  type Device,
  type DeviceMake,
  newId,
  type Option,
  removeScheme,
  type Scheme,
  standScheme,
  TODAY,
  DEVICE_KINDS,
} from '@dial-shade/core';
import { Copy, Plus, Trash2 } from 'lucide-react';
import { Dropdown } from 'react-bootstrap';
import { Section, TextField } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { edit, useDocument } from '../state/project-store';

/** The schemes of an option: one stands, or none; and the devices of the one that does. */
export function SchemesSection({
  option,
  chosen,
  choose,
}: {
  option: Option;
  chosen: string | null;
  choose: (device: string) => void;
}) {
  const scheme = option.schemes.find(({ id }) => id === option.scheme);
  const add = () =>
    edit(
      'add a scheme',
      addScheme(option.id, { id: newId('scheme'), name: `Scheme ${option.schemes.length + 1}`, devices: [] }),
    );
  return (
    <>
      <Section
        title={`Schemes of ${option.letter} ${option.name}`}
        name="schemes"
        aside={<IconButton icon={Plus} label="Add a scheme" onClick={add} />}
      >
        <ul className="objects" aria-label="Schemes">
          <ThingRow
            name="None"
            chosen={!scheme}
            onChoose={() => edit('take all devices away', standScheme(option.id, null))}
          />
          {option.schemes.map((one) => (
            <ThingRow
              key={one.id}
              name={one.name}
              figure={one.devices.length === 1 ? '1 device' : `${one.devices.length} devices`}
              chosen={one.id === scheme?.id}
              onChoose={() => edit(`let ${one.name} stand`, standScheme(option.id, one.id))}
            >
              <IconButton
                icon={Copy}
                label={`Copy ${one.name}`}
                onClick={() => edit(`copy ${one.name}`, copyScheme(option.id, one, `${one.name} copy`))}
              />
              <IconButton
                icon={Trash2}
                label={`Remove ${one.name}`}
                onClick={() => edit(`remove ${one.name}`, removeScheme(option.id, one.id))}
              />
            </ThingRow>
          ))}
        </ul>
        {option.schemes.length === 0 && (
          <p className="visually-quiet m-0">A scheme is a set of devices that is switched as one.</p>
        )}
      </Section>
      {scheme && <StandingScheme option={option} scheme={scheme} chosen={chosen} choose={choose} />}
    </>
  );
}

/** The devices of the scheme that stands. */
function StandingScheme({
  option,
  scheme,
  chosen,
  choose,
}: {
  option: Option;
  scheme: Scheme;
  chosen: string | null;
  choose: (device: string) => void;
}) {
  const { options } = useDocument();
  const others = options.filter(({ id }) => id !== option.id && id !== TODAY);
  return (
    <Section title={scheme.name} name="scheme">
      <div className="d-flex flex-wrap gap-1 mb-2">
        <Dropdown>
          <Dropdown.Toggle bsPrefix="btn btn-sunlit">
            <Plus size={13} /> Hang a device
          </Dropdown.Toggle>
          <Dropdown.Menu>
            {(Object.keys(DEVICE_KINDS) as DeviceMake['kind'][]).map((kind) => (
              <Dropdown.Item key={kind} as="button" onClick={() => choose(hang(option.id, scheme, kind))}>
                {DEVICE_KINDS[kind].name}
              </Dropdown.Item>
            ))}
          </Dropdown.Menu>
        </Dropdown>
        {others.length > 0 && (
          <Dropdown>
            <Dropdown.Toggle bsPrefix="btn btn-quiet">Copy to …</Dropdown.Toggle>
            <Dropdown.Menu>
              {others.map((other) => (
                <Dropdown.Item
                  key={other.id}
                  as="button"
                  onClick={() => edit(`copy ${scheme.name} to ${other.name}`, copyScheme(other.id, scheme))}
                >
                  {other.letter} {other.name}
                </Dropdown.Item>
              ))}
            </Dropdown.Menu>
          </Dropdown>
        )}
      </div>
      <ul className="objects" aria-label="Devices">
        {scheme.devices.map((device) => (
          <ThingRow
            key={device.id}
            name={device.name}
            chosen={device.id === chosen}
            onChoose={() => choose(device.id)}
          >
            <IconButton
              icon={Trash2}
              label={`Remove ${device.name}`}
              onClick={() =>
                edit(
                  `remove ${device.name}`,
                  changeScheme(option.id, scheme.id, (one) => ({
                    ...one,
                    devices: one.devices.filter(({ id }) => id !== device.id),
                  })),
                )
              }
            />
          </ThingRow>
        ))}
      </ul>
      <TextField
        label="Name"
        value={scheme.name}
        commit={(name) =>
          edit(
            'rename a scheme',
            changeScheme(option.id, scheme.id, (one) => ({ ...one, name })),
            {
              quiet: true,
            },
          )
        }
      />
    </Section>
  );
}

/** Hangs a device of a kind on every sunny window; gives its id. */
function hang(optionId: string, scheme: Scheme, kind: DeviceMake['kind']): string {
  const { name, plain } = DEVICE_KINDS[kind];
  const id = newId('device');
  const device: Device = {
    id,
    name: scheme.devices.some((one) => one.name === name) ? `${name} ${scheme.devices.length + 1}` : name,
    scope: { owners: null, sectors: null, storeys: null },
    openings: null,
    make: plain,
  };
  edit(
    `hang ${name.toLowerCase()}`,
    changeScheme(optionId, scheme.id, (one) => ({ ...one, devices: [...one.devices, device] })),
  );
  return id;
}
