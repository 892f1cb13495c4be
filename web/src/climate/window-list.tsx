import { formatClock, type WindowOfTime } from '@dial-shade/core';
import { Plus, Trash2 } from 'lucide-react';
import { IconButton } from '../app/objects';

/** Minutes since midnight of a time typed as 14:30; null of what is none. */
function minutesOf(text: string): number | null {
  const match = /^([01]?\d|2[0-4])[:.]?([0-5]\d)?$/.exec(text.trim());
  const minutes = match ? Number(match[1]) * 60 + Number(match[2] ?? 0) : NaN;
  return minutes <= 1440 ? minutes : null;
}

/** Windows of time, one a line, each to be changed or taken out. */
export function WindowList({
  windows,
  commit,
  least = 0,
}: {
  windows: readonly WindowOfTime[];
  commit: (windows: WindowOfTime[]) => void;
  /** How many have to stay. */
  least?: number;
}) {
  const put = (i: number, fields: Partial<WindowOfTime>) => {
    const next = { ...windows[i]!, ...fields };
    if (next.to < next.from) Object.assign(next, fields.from ? { to: next.from } : { from: next.to });
    if (next.endMinutes > next.startMinutes) commit(windows.map((one, k) => (k === i ? next : one)));
  };
  const time = (i: number, key: 'startMinutes' | 'endMinutes', label: string) => (
    <input
      key={windows[i]![key]}
      className="form-control time"
      aria-label={`${label} of window ${i + 1}`}
      defaultValue={formatClock(windows[i]![key])}
      onBlur={({ target }) => {
        const typed = minutesOf(target.value);
        if (typed === null) target.value = formatClock(windows[i]![key]);
        else if (typed !== windows[i]![key]) put(i, { [key]: typed });
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
  const day = (i: number, key: 'from' | 'to', label: string) => (
    <input
      type="date"
      className="form-control"
      aria-label={`${label} of window ${i + 1}`}
      value={windows[i]![key]}
      onChange={({ target }) => target.value && put(i, { [key]: target.value })}
    />
  );
  return (
    <div className="window-list">
      {windows.map((_, i) => (
        <div key={i} className="window-line">
          {day(i, 'from', 'First day')}
          {day(i, 'to', 'Last day')}
          {time(i, 'startMinutes', 'Start')}
          {time(i, 'endMinutes', 'End')}
          <IconButton
            icon={Trash2}
            label={`Remove window ${i + 1}`}
            disabled={windows.length <= least}
            onClick={() => commit(windows.filter((_, k) => k !== i))}
          />
        </div>
      ))}
      <button
        className="btn btn-quiet btn-sm mb-2"
        disabled={windows.length >= 11}
        onClick={() => commit([...windows, windows.at(-1)!])}
      >
        <Plus size={13} /> Another window
      </button>
    </div>
  );
}
