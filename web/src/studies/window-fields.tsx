import { change, clockAt, SEASON_MARKS, seasons, type Study, type WindowOfTime } from '@dial-shade/core';
import { Plus } from 'lucide-react';
import { ClockField, TextField } from '../app/fields';
import { WindowList } from '../climate/window-list';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** The windows of time of a study. */
export function WindowFields({ study }: { study: Study }) {
  const set = ([window, ...also]: readonly [WindowOfTime, ...WindowOfTime[]], name: string) =>
    edit(name, change('studies', study.id, { window, also }), { quiet: true });
  return <WindowsFields windows={[study.window, ...(study.also ?? [])]} set={set} />;
}

/** Windows of time, the first of them typed or, by the switch, brushed on the almanac; the others as a list. */
export function WindowsFields({
  windows,
  set,
}: {
  windows: readonly [WindowOfTime, ...WindowOfTime[]];
  /** Takes the windows and what the edit is called; a sentence when they cannot be. */
  set: (windows: [WindowOfTime, ...WindowOfTime[]], name: string) => string | null;
}) {
  const mode = useView((view) => view.almanacMode);
  const { site } = useDocument();
  const [window, ...also] = windows;
  const setFirst = (fields: Partial<WindowOfTime>) =>
    set([{ ...window, ...fields }, ...also], 'change the window of time');
  const setAlso = (others: WindowOfTime[]) => set([window, ...others], 'change the windows of time');
  const takeSeasons = () => {
    const marks = seasons(site.year);
    const days = SEASON_MARKS.map((mark) => clockAt(marks[mark], site.place.zone).date);
    const [first, ...rest] = days.map((day) => ({ ...window, from: day, to: day }));
    set([first!, ...rest], 'take solstices and equinoxes');
  };
  return (
    <>
      <div className="field">
        <span className="label">Dragging sets</span>
        <div className="btn-group btn-group-sm" role="group" aria-label="What dragging on the almanac sets">
          {(['moment', 'window'] as const).map((kind) => (
            <button
              key={kind}
              className="btn btn-quiet"
              aria-pressed={mode === kind}
              style={mode === kind ? { background: 'var(--shade-soft)', fontWeight: 600 } : undefined}
              onClick={() => setView({ almanacMode: kind })}
            >
              {kind === 'moment' ? 'Moment' : 'Window'}
            </button>
          ))}
        </div>
      </div>
      <div className="pair even">
        <TextField
          label="From"
          type="date"
          value={window.from}
          commit={(from) => setFirst(from > window.to ? { from, to: from } : { from })}
        />
        <TextField label="To" type="date" value={window.to} commit={(to) => setFirst({ to })} />
        <ClockField
          label="First hour"
          value={window.startMinutes}
          commit={(startMinutes) => setFirst({ startMinutes })}
        />
        <ClockField
          label="Last hour"
          value={window.endMinutes}
          commit={(endMinutes) => setFirst({ endMinutes })}
        />
      </div>
      {also.length > 0 && <WindowList windows={also} commit={setAlso} />}
      <div className="d-flex gap-1 mb-2 flex-wrap">
        {also.length === 0 && (
          <button className="btn btn-quiet btn-sm" onClick={() => setAlso([window])}>
            <Plus size={13} /> Another window
          </button>
        )}
        <button
          className="btn btn-quiet btn-sm"
          title="The days of the solstices and equinoxes, each with the hours above"
          onClick={() => takeSeasons()}
        >
          Solstices and equinoxes
        </button>
      </div>
    </>
  );
}
