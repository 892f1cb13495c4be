import {
  add,
  change,
  formatClock,
  type MomentSet,
  newId,
  readMoments,
  readTimes,
  remove,
  SEASON_MARKS,
  SEASON_NAMES,
  type SetMoment,
} from '@dial-shade/core';
import { CalendarPlus, List, Sunrise, Table2, Trash2 } from 'lucide-react';
import { useId, useState } from 'react';
import { shortDate } from '../almanac/wording';
import { ChoiceField, NumberField, Section, TextField } from '../app/fields';
import { later } from '../app/later';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { useMomentSet } from './use-moment-set';

const MomentTable = later(async () => (await import('./moment-table')).MomentTable);

/** Times of day that seasons are looked at where nobody has said, minutes. */
const PLAIN_TIMES = [540, 720, 900];
/** Moments that are listed in the sheet. */
const LISTED = 24;

function addSet(name: string, source: MomentSet['source']): void {
  const { momentSets } = currentProject();
  const taken = new Set(momentSets.map((other) => other.name));
  let free = name;
  for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
  const id = newId('moments');
  if (!edit(`add ${free}`, add('momentSets', { id, name: free, basis: 'clock', source })))
    setView({ momentSet: id });
}

/** Named sets of moments: made, chosen, changed, read as a table. */
export function MomentsSection() {
  const { momentSets } = useDocument();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const { set, moments, wrong } = useMomentSet();
  return (
    <Section title="Moment sets">
      <div className="d-flex gap-1 flex-wrap mb-2">
        <button
          className="btn btn-quiet btn-sm"
          title="Solstices and equinoxes at chosen hours"
          onClick={() =>
            addSet('Solstices and equinoxes', {
              kind: 'seasons',
              marks: [...SEASON_MARKS],
              times: PLAIN_TIMES,
            })
          }
        >
          <CalendarPlus size={13} /> Seasons
        </button>
        <button
          className="btn btn-quiet btn-sm"
          title="This day from sunrise to sunset"
          onClick={() =>
            addSet(shortDate(date), { kind: 'day', date, everyMinutes: 60, from: null, to: null })
          }
        >
          <Sunrise size={13} /> This day
        </button>
        <button
          className="btn btn-quiet btn-sm"
          title="Dates and times of your own, beginning with the moment at hand"
          onClick={() => addSet('List', { kind: 'list', moments: [{ date, minutes: Math.round(minutes) }] })}
        >
          <List size={13} /> List
        </button>
      </div>
      <ul className="objects">
        {momentSets.map((one) => (
          <li key={one.id} className={one.id === set?.id ? 'chosen' : ''}>
            <button
              className="name"
              onClick={() => setView({ momentSet: one.id === set?.id ? null : one.id })}
            >
              {one.name}
            </button>
            <button
              className="btn-bare"
              aria-label={`Remove ${one.name}`}
              onClick={() => edit(`remove ${one.name}`, remove('momentSets', one.id))}
            >
              <Trash2 size={14} />
            </button>
          </li>
        ))}
      </ul>
      {set && (
        <>
          <SetFields key={set.id} set={set} />
          {wrong ? <p style={{ color: 'var(--alarm)' }}>{wrong}</p> : <MomentList moments={moments} />}
        </>
      )}
    </Section>
  );
}

function SetFields({ set }: { set: MomentSet }) {
  const { source } = set;
  const put = (what: string, changed: Partial<MomentSet>) =>
    edit(what, change('momentSets', set.id, changed), { quiet: true });
  const putSource = (what: string, changed: object) =>
    put(what, { source: { ...source, ...changed } as MomentSet['source'] });
  return (
    <div className="mt-2">
      <TextField
        label="Name of the set"
        value={set.name}
        commit={(name) => put('rename a moment set', { name })}
      />
      <ChoiceField
        label="Times are"
        value={set.basis}
        choices={[
          { value: 'clock', name: 'Clock time on site' },
          { value: 'solar', name: 'Solar time' },
        ]}
        commit={(basis) => put('change the basis of times', { basis })}
      />
      {source.kind === 'seasons' && (
        <>
          <TimesField times={source.times} commit={(times) => putSource('change times of day', { times })} />
          {SEASON_MARKS.map((mark) => (
            <label key={mark} className="d-flex gap-2 align-items-center">
              <input
                type="checkbox"
                checked={source.marks.includes(mark)}
                onChange={({ target }) =>
                  putSource('change marks of the year', {
                    marks: SEASON_MARKS.filter((one) =>
                      one === mark ? target.checked : source.marks.includes(one),
                    ),
                  })
                }
              />
              {SEASON_NAMES[mark]}
            </label>
          ))}
        </>
      )}
      {source.kind === 'day' && (
        <>
          <TextField
            label="Date"
            type="date"
            value={source.date}
            commit={(date) => putSource('change the date', { date })}
          />
          <NumberField
            label="Every"
            unit="min"
            digits={0}
            value={source.everyMinutes}
            commit={(everyMinutes) => putSource('change the step', { everyMinutes })}
          />
          <BoundField
            label="From"
            none="sunrise"
            value={source.from}
            commit={(from) => putSource('change the beginning', { from })}
          />
          <BoundField
            label="Until"
            none="sunset"
            value={source.to}
            commit={(to) => putSource('change the end', { to })}
          />
        </>
      )}
      {source.kind === 'list' && <ListFields key={set.id} set={set} commit={putSource} />}
    </div>
  );
}

function TimesField({
  times,
  commit,
}: {
  times: readonly number[];
  commit: (times: number[]) => string | null;
}) {
  return (
    <TextField
      label="Times of day"
      value={times.map(formatClock).join(', ')}
      commit={(text) => {
        try {
          return commit(readTimes(text));
        } catch {
          return `“${text}” are no times of day; write them as 9:30, 12, 3 pm.`;
        }
      }}
    />
  );
}

function BoundField({
  label,
  none,
  value,
  commit,
}: {
  label: string;
  none: string;
  value: number | null;
  commit: (value: number | null) => string | null;
}) {
  return (
    <TextField
      label={label}
      value={value === null ? none : formatClock(value)}
      commit={(text) => {
        if (text.trim() === '' || text.trim().toLowerCase() === none) return commit(null);
        try {
          return commit(readTimes(text)[0]!);
        } catch {
          return `“${text}” is no time of day; write 9:30, or ${none}.`;
        }
      }}
    />
  );
}

/** Moments typed or pasted, or added from the almanac. */
function ListFields({
  set,
  commit,
}: {
  set: MomentSet;
  commit: (what: string, changed: object) => string | null;
}) {
  const id = useId();
  const { site, units } = useDocument();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const [text, setText] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const own = set.source.kind === 'list' ? set.source.moments : [];
  const put = (what: string, more: { date: string; minutes: number }[]) =>
    commit(what, { moments: [...own, ...more] });
  const take = () => {
    try {
      const { moments, notes } = readMoments(text, site.year, units === 'imperial');
      const refused = put('add moments', moments);
      setSaid(refused ?? (notes.length ? notes.join(' ') : null));
      if (!refused) setText('');
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  return (
    <>
      <label htmlFor={id} className="visually-quiet">
        Dates and times, as 21 March: 9, 12, 15
      </label>
      <textarea
        id={id}
        className="form-control mb-1"
        rows={3}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <div className="d-flex gap-1 flex-wrap mb-1">
        <button className="btn btn-quiet btn-sm" disabled={!text.trim()} onClick={take}>
          Add these
        </button>
        <button
          className="btn btn-quiet btn-sm"
          title="Adds where the crosshair of the almanac is"
          onClick={() => put('add a moment', [{ date, minutes: Math.round(minutes) }])}
        >
          Add the moment at hand
        </button>
        <button
          className="btn btn-quiet btn-sm"
          disabled={own.length === 0}
          onClick={() => commit('empty the list', { moments: [] })}
        >
          Empty
        </button>
      </div>
      {said && (
        <p role="status" className="visually-quiet">
          {said}
        </p>
      )}
    </>
  );
}

/** The moments of a set: a click goes there. */
function MomentList({ moments }: { moments: readonly SetMoment[] }) {
  const [isOpen, setOpen] = useState(false);
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  return (
    <>
      <ul className="objects moments" data-testid="moments">
        {moments.slice(0, LISTED).map((moment, i) => {
          const isHere = moment.date === date && Math.abs(moment.minutes - minutes) < 0.5;
          return (
            <li key={i} className={isHere ? 'chosen' : ''} title={moment.note ?? undefined}>
              <button
                className="name"
                onClick={() =>
                  setView({ date: moment.date, minutes: Math.round(moment.minutes), play: null })
                }
              >
                {shortDate(moment.date)}
              </button>
              <span className="figure">{formatClock(moment.minutes)}</span>
            </li>
          );
        })}
      </ul>
      {moments.length > LISTED && (
        <p className="visually-quiet m-0">and {moments.length - LISTED} more, all in the table</p>
      )}
      <button className="btn btn-quiet btn-sm mt-1" onClick={() => setOpen(true)}>
        <Table2 size={14} /> Table of {moments.length} moments
      </button>
      {isOpen && <MomentTable onHide={() => setOpen(false)} />}
    </>
  );
}
