import { csvText, type Option, ROOM_PRESETS, type RoomAssumptions, TODAY } from '@dial-shade/core';
import { Download, Thermometer } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { saveFile } from '../app/save-file';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useDocument } from '../state/project-store';
import { lightParts } from '../studies/use-probe-year';
import { computeAside } from '../workers/compute';
import type { RoomChoice, SchemeYear } from '../workers/room-year-work';

const PRESETS = [
  { value: 'new', name: 'new, of medium mass' },
  { value: 'light', name: 'new, light' },
  { value: 'old', name: 'old, heavy' },
] as const;

const NUMBERS: { key: Exclude<keyof RoomAssumptions, 'mass'>; name: string; unit: string }[] = [
  { key: 'windowU', name: 'Windows', unit: 'W/m²K' },
  { key: 'wallU', name: 'Walls', unit: 'W/m²K' },
  { key: 'roofU', name: 'Roof', unit: 'W/m²K' },
  { key: 'floorU', name: 'Lowest floor', unit: 'W/m²K' },
  { key: 'airChange', name: 'Air change', unit: '1/h' },
  { key: 'internalWm2', name: 'People, things', unit: 'W/m²' },
  { key: 'heatC', name: 'Heated to', unit: '°C' },
  { key: 'coolC', name: 'Cooled to', unit: '°C' },
  { key: 'blindsWm2', name: 'Blinds above', unit: 'W/m²' },
  { key: 'blindsPass', name: 'Blinds let pass', unit: '0–1' },
];

/** What a year of a room needs without devices and under each scheme, by one set of assumptions. */
export function RoomSection({ option }: { option: Option }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const { search } = useLocation();
  const { site, neighbours, neighbourRules, glazings } = project;
  const rooms = useRooms(option.id);
  const [chosen, setChosen] = useState<string | null>(null);
  const [preset, setPreset] = useState<(typeof PRESETS)[number]['value']>('new');
  const [assumed, setAssumed] = useState<RoomAssumptions>(ROOM_PRESETS.new);
  const [isAtWork, setAtWork] = useState(false);
  const [found, setFound] = useState<{ of: readonly unknown[]; years: SchemeYear[] } | null>(null);
  const room =
    rooms.find(({ key }) => key === chosen) ?? rooms.find(({ windows }) => windows > 0) ?? rooms[0];
  const of = [
    room?.key,
    assumed,
    option.schemes,
    ...[site, neighbours, neighbourRules, glazings],
    ...[option.masses, option.models, option.rules],
    project.options.find(({ id }) => id === TODAY),
  ];
  const isCurrent = found !== null && found.of.every((part, i) => part === of[i]);
  const reckon = async () => {
    setAtWork(true);
    try {
      const answer = await computeAside(currentProject(), meshes).schemeYears(option.id, room!.key, assumed);
      if ('refused' in answer) notify(answer.refused, true);
      else setFound({ of, years: answer });
    } finally {
      setAtWork(false);
    }
  };
  return (
    <Section title="A year of a room" name="room-year">
      {!project.site.weather ? (
        <p className="visually-quiet m-0">
          It goes by a weather year.{' '}
          <Link to={{ pathname: '../climate', search }} relative="path">
            Bring one in
          </Link>{' '}
          on the Climate stage.
        </p>
      ) : !room ? (
        <p className="visually-quiet m-0">
          Nothing in this option is hollow: openings make rooms of its storeys.
        </p>
      ) : (
        <>
          <ChoiceField
            label="Room"
            wide
            value={room.key}
            choices={rooms.map(({ key, name, mass, storey }) => ({
              value: key,
              name: `${mass}, storey ${storey + 1} · ${name}`,
            }))}
            commit={setChosen}
          />
          <ChoiceField
            label="Built"
            value={preset}
            choices={PRESETS}
            commit={(value) => {
              setPreset(value);
              setAssumed(ROOM_PRESETS[value]);
            }}
          />
          <div className="pair even">
            {NUMBERS.map(({ key, name, unit }) => (
              <NumberField
                key={key}
                label={name}
                unit={unit}
                value={assumed[key]}
                commit={(value) => {
                  const most = key === 'blindsWm2' ? 2000 : key === 'blindsPass' ? 1 : 100;
                  if (!(value >= 0 && value <= most)) return `From 0 to ${most}.`;
                  const next = { ...assumed, [key]: value };
                  if (next.coolC <= next.heatC) return 'Cooled to must be above heated to.';
                  setAssumed(next);
                  return null;
                }}
              />
            ))}
          </div>
          <button className="btn btn-quiet mb-2" disabled={isAtWork} onClick={() => void reckon()}>
            <Thermometer size={13} /> {isAtWork ? 'Going through the year' : 'Go through the year'}
          </button>
          {found && !isCurrent && (
            <p className="stale">Out of date: what it was reckoned from has changed.</p>
          )}
          {found && <Years years={found.years} room={room} stands={option.scheme} />}
        </>
      )}
    </Section>
  );
}

/** The rooms of an option, told by the worker whenever its model changes. */
function useRooms(optionId: string): readonly RoomChoice[] {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const [rooms, setRooms] = useState<readonly RoomChoice[]>([]);
  useEffect(() => {
    let isCurrent = true;
    void computeAside(project, meshes)
      .roomChoices(optionId)
      .then((found) => isCurrent && setRooms(found));
    return () => {
      isCurrent = false;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [optionId, meshes, ...lightParts(project)]);
  return rooms;
}

/** Of the longest bar, pixels. */
const BAR = 24;

function Years({
  years,
  room,
  stands,
}: {
  years: readonly SchemeYear[];
  room: RoomChoice;
  stands: string | null;
}) {
  const most = Math.max(...years.map(({ heatingKWh, coolingKWh }) => Math.max(heatingKWh, coolingKWh)), 1e-9);
  const save = () =>
    saveFile(
      csvText([
        ['scheme', 'heating_kwh', 'cooling_kwh', 'peak_cooling_w', 'solar_kwh', 'over_26_h'],
        ...years.map(({ name, heatingKWh, coolingKWh, peakCoolingW, solarKWh, tooWarmH }) => [
          name,
          ...[heatingKWh, coolingKWh, peakCoolingW, solarKWh].map((value) => Number(value.toFixed(1))),
          tooWarmH,
        ]),
      ]),
      `${room.name}-year.csv`.replaceAll(/[^\p{L}\p{N}_.-]+/gu, '-'),
      'text/csv',
    );
  const cell = (kWh: number, colour: string) => (
    <td className="text-nowrap">
      <i className="year-bar" style={{ width: `${(BAR * kWh) / most}px`, background: colour }} />
      {Math.round(kWh).toLocaleString('en')}
    </td>
  );
  return (
    <>
      <table className="figures" data-testid="room-years">
        <thead>
          <tr>
            <th>Devices</th>
            <th title="What keeps the air at its lower set-point, kWh">Heating kWh</th>
            <th title="What keeps the air at its upper set-point, kWh">Cooling kWh</th>
            <th title="Hours in which the air is over 26 °C when nothing is cooled">Over 26 °C h</th>
          </tr>
        </thead>
        <tbody>
          {years.map(({ scheme, name, heatingKWh, coolingKWh, tooWarmH }) => (
            <tr key={scheme ?? ''} className={scheme === stands ? 'fw-semibold' : ''}>
              <td>{name}</td>
              {cell(heatingKWh, 'var(--shade)')}
              {cell(coolingKWh, 'var(--sun)')}
              <td>{tooWarmH.toLocaleString('en')}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="visually-quiet mb-1">
        For comparison under these assumptions, not for sizing plant: simple hourly method of ISO 13790:2008,
        one zone, gains hour by hour through the glass as it stands.
      </p>
      <button className="btn btn-quiet btn-sm mb-2" onClick={save}>
        <Download size={12} /> CSV
      </button>
    </>
  );
}
