import { change, clockAt, SEASON_MARKS, seasons, type Study, type WindowOfTime } from '@dial-shade/core';
import { Plus } from 'lucide-react';
import { ClockField, TextField } from '../app/fields';
import { WindowList } from '../climate/window-list';
import { edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** The window of time, typed, and the switch that lets it be brushed on the almanac. */
export function WindowFields({ study }: { study: Study }) {
  const mode = useView((view) => view.almanacMode);
  const { window } = study;
  const set = (fields: Partial<WindowOfTime>) =>
    edit('change the window of time', change('studies', study.id, { window: { ...window, ...fields } }), {
      quiet: true,
    });
  const { site } = useDocument();
  const also = study.also ?? [];
  const setAlso = (windows: WindowOfTime[]) =>
    edit('change the windows of time', change('studies', study.id, { also: windows }), { quiet: true });
  const takeSeasons = () => {
    const marks = seasons(site.year);
    const days = SEASON_MARKS.map((mark) => clockAt(marks[mark], site.place.zone).date);
    const [first, ...rest] = days.map((day) => ({ ...window, from: day, to: day }));
    edit('measure solstices and equinoxes', change('studies', study.id, { window: first!, also: rest }));
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
          commit={(from) => set(from > window.to ? { from, to: from } : { from })}
        />
        <TextField label="To" type="date" value={window.to} commit={(to) => set({ to })} />
        <ClockField
          label="First hour"
          value={window.startMinutes}
          commit={(startMinutes) => set({ startMinutes })}
        />
        <ClockField
          label="Last hour"
          value={window.endMinutes}
          commit={(endMinutes) => set({ endMinutes })}
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
