import { formatClock, solarMinutes, sunDay, sunPosition } from '@dial-shade/core';
import { CalendarRange, Pause, Play } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useDocument } from '../state/project-store';
import { setView, useMoment, useView } from '../state/view-store';
import { dayInWords, zoneInWords } from './wording';

/** The moment in figures, and playing. Folded: on one line, without what is said of the day. */
export function ClockPanel({ folded = false }: { folded?: boolean }) {
  return (
    <div className={folded ? 'clock folded' : 'clock'}>
      <When />
      {!folded && <Said />}
      <PlayButtons />
    </div>
  );
}

function When() {
  const { year } = useDocument().site;
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  return (
    <div className="when">
      <input
        type="date"
        className="form-control"
        aria-label="Date"
        value={date}
        min={`${year}-01-01`}
        max={`${year}-12-31`}
        onChange={(event) =>
          event.target.value.startsWith(String(year)) && setView({ date: event.target.value, play: null })
        }
      />
      <TimeInput minutes={minutes} onChange={(typed) => setView({ minutes: typed, play: null })} />
    </div>
  );
}

/** Solar time, the zone in words, and the day. */
function Said() {
  const { place } = useDocument().site;
  const date = useView((view) => view.date);
  const moment = useMoment();
  const day = useMemo(() => sunDay(date, place, place.zone), [date, place]);
  const solar = ((solarMinutes(sunPosition(moment, place)) % 1440) + 1440) % 1440;
  return (
    <div className="said">
      <b>Solar time {formatClock(Math.min(1439, solar))}</b>
      <br />
      {zoneInWords(moment, place.zone)}
      <br />
      {dayInWords(day, place.zone)}
    </div>
  );
}

function PlayButtons() {
  const play = useView((view) => view.play);
  const playStep = useView((view) => view.playStep);
  const isSeason = play === 'season';
  return (
    <div className="play">
      {(['day', 'season'] as const).map((kind) => (
        <button
          key={kind}
          className="btn btn-quiet"
          aria-pressed={play === kind}
          title={kind === 'day' ? 'Play the day (Space)' : 'Play the season (Shift Space)'}
          onClick={() => setView({ play: play === kind ? null : kind })}
        >
          {play === kind ? (
            <Pause size={13} />
          ) : kind === 'day' ? (
            <Play size={13} />
          ) : (
            <CalendarRange size={13} />
          )}
          {kind === 'day' ? 'Day' : 'Season'}
        </button>
      ))}
      <select
        className="form-select"
        aria-label={isSeason ? 'Days a step' : 'Minutes a step'}
        value={isSeason ? playStep.season : playStep.day}
        onChange={(event) =>
          setView({ playStep: { ...playStep, [isSeason ? 'season' : 'day']: Number(event.target.value) } })
        }
      >
        {(isSeason ? [1, 2, 7] : [2, 5, 10, 30]).map((step) => (
          <option key={step} value={step}>
            {step} {isSeason ? (step === 1 ? 'day' : 'days') : 'min'}
          </option>
        ))}
      </select>
    </div>
  );
}

/** The clock, typed as 14:30; what is no time is put back. */
function TimeInput({ minutes, onChange }: { minutes: number; onChange: (minutes: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  const take = () => {
    const match = /^([01]?\d|2[0-3])[:.]?([0-5]\d)?$/.exec((typed ?? '').trim());
    if (match) onChange(Number(match[1]) * 60 + Number(match[2] ?? 0));
    setTyped(null);
  };
  return (
    <input
      className="form-control time"
      aria-label="Clock time"
      inputMode="numeric"
      value={typed ?? formatClock(minutes)}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => typed !== null && take()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') take();
        if (event.key === 'Escape') setTyped(null);
      }}
    />
  );
}
