import { add, change, csvText, type HourSet, newId, remove } from '@dial-shade/core';
import { Eye, EyeOff, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, NumberField, Section, TextField } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { saveCsv } from '../app/save-file';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { HOUR_SET_COLOURS } from '../theme/palette';
import { useClimate } from './use-climate';
import { WindowList } from './window-list';

const USES = [
  { value: 'unwanted', name: 'Sun is unwanted' },
  { value: 'wanted', name: 'Sun is wanted' },
  { value: 'other', name: 'Neither' },
] as const;

/** Sets of hours, as overheated and underheated ones, drawn on the almanac as outline. */
export function HourSetsSection() {
  const { hourSets, site } = useDocument();
  const shown = useView((view) => view.hourSets);
  const [chosenId, setChosen] = useState<string | null>(null);
  const found = useClimate((worker) => worker.hourSets(), [hourSets]);
  const chosen = hourSets.find(({ id }) => id === chosenId);
  const toggle = (id: string) =>
    setView(({ hourSets: now }) => ({
      hourSets: now.has(id) ? new Set([...now].filter((one) => one !== id)) : new Set([...now, id]),
    }));
  const set = (fields: Partial<HourSet>) =>
    edit(`change ${chosen!.name}`, change('hourSets', chosen!.id, fields), { quiet: true });
  return (
    <Section title="Hours too warm and too cold" name="climate-hours">
      <ul className="objects">
        {hourSets.map((one) => {
          const figures = found?.find(({ id }) => id === one.id);
          return (
            <ThingRow
              key={one.id}
              name={one.name}
              figure={figures && `${Math.round(figures.hours).toLocaleString('en')} h`}
              chosen={one.id === chosenId}
              onChoose={() => setChosen(one.id === chosenId ? null : one.id)}
              before={<i className="swatch-box" style={{ borderColor: HOUR_SET_COLOURS[one.use] }} />}
            >
              <IconButton
                icon={shown.has(one.id) ? Eye : EyeOff}
                label={`${shown.has(one.id) ? 'Hide' : 'Show'} ${one.name} on the almanac`}
                pressed={shown.has(one.id)}
                onClick={() => toggle(one.id)}
              />
              <IconButton
                icon={Trash2}
                label={`Remove ${one.name}`}
                onClick={() => edit(`remove ${one.name}`, remove('hourSets', one.id))}
              />
            </ThingRow>
          );
        })}
      </ul>
      <NewSets choose={setChosen} />
      {chosen && (
        <div data-testid="hour-set">
          <TextField label="Name" value={chosen.name} commit={(name) => set({ name })} />
          <ChoiceField label="Use" value={chosen.use} choices={USES} commit={(use) => set({ use })} />
          {chosen.source.by === 'temperature' ? (
            <Temperature set={chosen} change={set} />
          ) : (
            <WindowList
              windows={chosen.source.windows}
              commit={(windows) => set({ source: { by: 'windows', windows } })}
            />
          )}
          <button
            className="btn btn-quiet btn-sm mb-2"
            disabled={!found}
            onClick={() => {
              const { isIn } = found!.find(({ id }) => id === chosen.id)!;
              saveCsv(hoursCsv(isIn, site.year), `${chosen.name}.csv`);
            }}
          >
            Hours as CSV
          </button>
        </div>
      )}
    </Section>
  );
}

/** Sets as they may be begun; the one that is made is shown, and chosen. */
function NewSets({ choose }: { choose: (id: string) => void }) {
  const { year } = useDocument().site;
  const put = (set: Omit<HourSet, 'id'>) => {
    const id = newId('hours');
    if (edit(`add ${set.name}`, add('hourSets', { id, ...set }))) return;
    choose(id);
    setView(({ hourSets: now }) => ({ hourSets: new Set([...now, id]) }));
  };
  const summer = { from: `${year}-06-01`, to: `${year}-08-31`, startMinutes: 720, endMinutes: 1080 };
  const begins: { label: string; set: Omit<HourSet, 'id'> }[] = [
    {
      label: 'Too warm',
      set: { name: 'Too warm', use: 'unwanted', source: { by: 'temperature', above: true, atC: 24 } },
    },
    {
      label: 'Too cold',
      set: { name: 'Too cold', use: 'wanted', source: { by: 'temperature', above: false, atC: 12 } },
    },
    {
      label: 'By windows',
      set: { name: 'Brushed hours', use: 'unwanted', source: { by: 'windows', windows: [summer] } },
    },
  ];
  return (
    <div className="d-flex gap-1 flex-wrap mb-2">
      {begins.map(({ label, set }) => (
        <button key={label} className="btn btn-quiet btn-sm" onClick={() => put(set)}>
          <Plus size={13} /> {label}
        </button>
      ))}
    </div>
  );
}

/** The hours of a set: date, and hour of the clock that begins. */
function hoursCsv(isIn: Uint8Array, year: number): string {
  const rows: (string | number)[][] = [];
  isIn.forEach((one, i) => {
    if (!one) return;
    const date = new Date(Date.UTC(year, 0, 1 + Math.floor(i / 24))).toISOString().slice(0, 10);
    rows.push([date, i % 24]);
  });
  return csvText([['date', 'hour'], ...rows]);
}

function Temperature({
  set,
  change: commit,
}: {
  set: HourSet;
  change: (fields: Partial<HourSet>) => string | null;
}) {
  const { source } = set;
  const atC = source.by === 'temperature' ? source.atC : 0;
  const above = source.by === 'temperature' && source.above;
  const degrees = useClimate((worker) => worker.degreeHours(atC, atC), [atC]);
  return (
    <>
      <NumberField
        label={above ? 'From' : 'Up to'}
        unit="°C"
        digits={1}
        value={atC}
        commit={(value) => commit({ source: { by: 'temperature', above, atC: value } })}
      />
      {degrees && (
        <p className="visually-quiet mb-1">
          {Math.round(above ? degrees.above : degrees.below).toLocaleString('en')} K·h{' '}
          {above ? 'above' : 'below'} it in the year.
        </p>
      )}
    </>
  );
}
