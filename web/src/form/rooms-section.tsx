import {
  findBody,
  formatArea,
  newId,
  type MassShape,
  type OwnerRef,
  reshapeBody,
  type RoomShape,
  roomsOf,
  storeyFloorM,
} from '@dial-shade/core';
import { Armchair, Minus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { IconButton, ThingRow, ToolButton } from '../app/objects';
import { focusedView } from '../board/pane-registry';
import { edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';

/** Changes the body whose rooms are shown; gives what was refused. */
type Change = (name: string, reshape: (b: MassShape) => Partial<MassShape>) => string | null;

/** Rooms of the chosen mass: floor plates by storey, divided by partitions, with furniture. */
export function RoomsSection({ owner }: { owner: OwnerRef }) {
  const project = useDocument();
  const body = findBody(project, owner);
  const [chosenStorey, setStorey] = useState(0);
  if (!body) return null;
  const storey = Math.min(chosenStorey, body.storeys.length - 1);
  const levelM = storeyFloorM(body, project.site.ground, storey);
  const rooms = roomsOf(body).filter((room) => room.storey === storey);
  const draw = (shape: 'path' | 'point', purpose: 'partition' | 'furniture') => {
    focusedView()?.lookFrom('above');
    setView({ tool: { kind: 'draw', shape, purpose, levelM, storey } });
  };
  const change: Change = (name, reshape) =>
    edit(
      name,
      reshapeBody(owner, <B extends MassShape>(b: B): B => ({ ...b, ...reshape(b) })),
      {
        quiet: true,
      },
    );
  return (
    <Section title="Rooms">
      {body.storeys.length > 1 && (
        <ChoiceField
          label="Storey"
          value={String(storey)}
          choices={body.storeys.map((_, i) => ({ value: String(i), name: `Storey ${i + 1}` }))}
          commit={(value) => setStorey(Number(value))}
        />
      )}
      <div className="tool-row">
        <ToolButton icon={Minus} name="Partition" onClick={() => draw('path', 'partition')} />
        <ToolButton icon={Armchair} name="Furniture" onClick={() => draw('point', 'furniture')} />
      </div>
      <ul className="objects">
        {rooms.map((room, i) => (
          <RoomRow key={room.id ?? i} room={room} change={change} last={storey + 1 >= body.storeys.length} />
        ))}
      </ul>
      <Partitions partitions={body.partitions.filter((p) => p.storey === storey)} change={change} />
      <FurnitureList furniture={body.furniture.filter((f) => f.storey === storey)} change={change} />
    </Section>
  );
}

function Partitions({ partitions, change }: { partitions: MassShape['partitions']; change: Change }) {
  if (partitions.length === 0) return null;
  return (
    <ul className="objects" aria-label="Partitions">
      {partitions.map((partition, i) => (
        <ThingRow key={partition.id} name={`Partition ${i + 1}`}>
          <IconButton
            icon={Trash2}
            label={`Remove partition ${i + 1}`}
            onClick={() =>
              change('remove a partition', (b) => ({
                partitions: b.partitions.filter((p) => p.id !== partition.id),
              }))
            }
          />
        </ThingRow>
      ))}
    </ul>
  );
}

function FurnitureList({ furniture, change }: { furniture: MassShape['furniture']; change: Change }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const piece = furniture.find((f) => f.id === chosen);
  if (furniture.length === 0) return null;
  return (
    <>
      <ul className="objects" aria-label="Furniture">
        {furniture.map((f) => (
          <ThingRow key={f.id} name={f.name} chosen={f.id === chosen} onChoose={() => setChosen(f.id)}>
            <IconButton
              icon={Trash2}
              label={`Remove ${f.name}`}
              onClick={() =>
                change(`remove ${f.name}`, (b) => ({
                  furniture: b.furniture.filter((x) => x.id !== f.id),
                }))
              }
            />
          </ThingRow>
        ))}
      </ul>
      {piece && <FurnitureFields piece={piece} change={change} />}
    </>
  );
}

function FurnitureFields({ piece, change }: { piece: MassShape['furniture'][number]; change: Change }) {
  return (
    <>
      <TextField
        label="Name"
        value={piece.name}
        commit={(name) =>
          change('rename furniture', (b) => ({ furniture: patch(b.furniture, piece.id, { name }) }))
        }
      />
      {(['widthM', 'depthM', 'heightM'] as const).map((key) => (
        <LengthField
          key={key}
          label={{ widthM: 'Width', depthM: 'Depth', heightM: 'Height' }[key]}
          value={piece[key]}
          commit={(value) =>
            change('size of furniture', (b) => ({
              furniture: patch(b.furniture, piece.id, { [key]: value }),
            }))
          }
        />
      ))}
      <NumberField
        label="Turned by"
        unit="° ccw"
        value={piece.turnDeg}
        commit={(turnDeg) =>
          change('turn furniture', (b) => ({ furniture: patch(b.furniture, piece.id, { turnDeg }) }))
        }
      />
    </>
  );
}

function patch<T extends { id: string }>(list: T[], id: string, fields: Partial<T>): T[] {
  return list.map((item) => (item.id === id ? { ...item, ...fields } : item));
}

function RoomRow({ room, last, change }: { room: RoomShape; last: boolean; change: Change }) {
  const { units } = useDocument();
  const set = (fields: { name?: string; doubleHeight?: boolean }) =>
    change(`change ${room.name}`, (b) =>
      room.id
        ? { rooms: patch(b.rooms, room.id, fields) }
        : {
            rooms: [
              ...b.rooms,
              {
                id: newId('room'),
                name: room.name,
                storey: room.storey,
                at: [room.middle[0], room.middle[1]],
                doubleHeight: false,
                ...fields,
              },
            ],
          },
    );
  return (
    <li className="room">
      <TextField
        label={`Room, ${formatArea(room.areaM2, units)}`}
        value={room.name}
        commit={(name) => set({ name })}
      />
      {!last && (
        <label className="small-check">
          <input
            type="checkbox"
            checked={room.doubleHeight}
            aria-label={`${room.name} is open to the storey above`}
            onChange={(event) => set({ doubleHeight: event.target.checked })}
          />
          open above
        </label>
      )}
    </li>
  );
}
