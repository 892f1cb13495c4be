import { type Option, ROOM_PRESETS, type RoomAssumptions } from '@dial-shade/core';
import { Square, Thermometer } from 'lucide-react';
import { useRef, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, useDocument } from '../state/project-store';
import { computeAside } from '../workers/compute';
import type { RoomChoice } from '../workers/room-year-work';
import { useAside } from '../workers/use-aside';
import { RoomYears, type RoomYearRow } from './room-years';

/** The sets of assumptions that are offered. */
export const ROOM_CHOICES = [
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

const NO_ROOMS: readonly RoomChoice[] = [];
/** Chosen in place of a room. */
const FACADES = 'facades';

/**
 * What a year of a room needs without devices, under each scheme and in other options, by one set of assumptions; or of one
 * typical room a facade.
 */
export function RoomSection({ option }: { option: Option }) {
  const project = useDocument();
  const { search } = useLocation();
  const { site, neighbours, neighbourRules, glazings } = project;
  const rooms = useAside((worker) => worker.roomChoices(option.id), [option.id], 0) ?? NO_ROOMS;
  const [chosen, setChosen] = useState<string | null>(null);
  const [preset, setPreset] = useState<(typeof ROOM_CHOICES)[number]['value']>('new');
  const [assumed, setAssumed] = useState<RoomAssumptions>(ROOM_PRESETS.new);
  const room =
    rooms.find(({ key }) => key === chosen) ?? rooms.find(({ windows }) => windows > 0) ?? rooms[0];
  const wanted = chosen === FACADES ? null : (room?.key ?? null);
  const of = [wanted, option.id, assumed, site, neighbours, neighbourRules, glazings, project.options];
  const { found, progress, reckon, stop } = useYears(option.id, wanted, assumed, of);
  const isCurrent = found !== null && found.of.every((part, i) => part === of[i]);
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
            value={wanted ?? FACADES}
            choices={[
              { value: FACADES, name: 'a typical one of each facade, in all options' },
              ...rooms.map(({ key, name, mass, storey }) => ({
                value: key,
                name: `${mass}, storey ${storey + 1} · ${name}`,
              })),
            ]}
            commit={setChosen}
          />
          <ChoiceField
            label="Built"
            value={preset}
            choices={ROOM_CHOICES}
            commit={(value) => {
              setPreset(value);
              setAssumed(ROOM_PRESETS[value]);
            }}
          />
          <AssumptionFields assumed={assumed} change={setAssumed} />
          {progress ? (
            <button className="btn btn-quiet mb-2" onClick={stop}>
              <Square size={13} /> Stop; {progress.done} of {progress.all || '…'} years
            </button>
          ) : (
            <button className="btn btn-quiet mb-2" onClick={() => void reckon()}>
              <Thermometer size={13} /> Go through the year
            </button>
          )}
          {found && !isCurrent && (
            <p className="stale">Out of date: what it was reckoned from has changed.</p>
          )}
          {found && found.rows.length > 0 && <RoomYears rows={found.rows} />}
        </>
      )}
    </Section>
  );
}

/** Goes through the years that are asked for, one after another, and gives what has come so far. */
function useYears(optionId: string, wanted: string | null, assumed: RoomAssumptions, of: readonly unknown[]) {
  const meshes = useMeshes((state) => state.meshes);
  const [progress, setProgress] = useState<{ done: number; all: number } | null>(null);
  const isStopped = useRef(false);
  const [found, setFound] = useState<{ of: readonly unknown[]; rows: RoomYearRow[] } | null>(null);
  const reckon = async () => {
    isStopped.current = false;
    setProgress({ done: 0, all: 0 });
    try {
      const worker = computeAside(currentProject(), meshes);
      const asked = await worker.yearsAsked(optionId, wanted);
      if ('refused' in asked) return notify(asked.refused, true);
      const rows: RoomYearRow[] = [];
      for (const one of asked) {
        setProgress({ done: rows.length, all: asked.length });
        const year = await worker.yearOfRoom(one, assumed);
        if ('refused' in year) return notify(year.refused, true);
        if (isStopped.current) break;
        rows.push({ ...one, ...year });
        setFound({ of, rows: [...rows] });
      }
    } finally {
      setProgress(null);
    }
  };
  const stop = () => {
    isStopped.current = true;
  };
  return { found, progress, reckon, stop };
}

/** What is assumed of the room, number by number. */
function AssumptionFields({
  assumed,
  change,
}: {
  assumed: RoomAssumptions;
  change: (assumed: RoomAssumptions) => void;
}) {
  return (
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
            change(next);
            return null;
          }}
        />
      ))}
    </div>
  );
}
