import {
  clockAt,
  formatClock,
  SEASON_MARKS,
  SEASON_NAMES,
  seasons,
  sunDay,
  wrap360,
  zoneSteps,
} from '@dial-shade/core';
import { useMemo } from 'react';
import { longDate, shortDate } from '../almanac/wording';
import { Section } from '../app/fields';
import { FirstSteps } from '../site/first-steps';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { Viewpoints } from './viewpoints';

/** Where the sun is and when: the day, the marks of the year, the chosen facade. */
export function SunSheet() {
  const { site } = useDocument();
  const { place, year } = site;
  const date = useView((view) => view.date);
  const sunPath = useView((view) => view.sunPath);
  const selection = useView((view) => view.selection);
  const day = useMemo(() => sunDay(date, place, place.zone), [date, place]);
  const marks = useMemo(() => {
    const found = seasons(year);
    return SEASON_MARKS.map((mark) => ({ mark, ...clockAt(found[mark], place.zone) }));
  }, [year, place.zone]);
  const steps = useMemo(() => zoneSteps(place.zone, year), [place.zone, year]);
  const clock = (ms: number | null) => (ms === null ? '–' : formatClock(clockAt(ms, place.zone).minutes));
  const deg = (value: number | null) => (value === null ? '–' : `${value.toFixed(1).replace('-', '−')}°`);

  return (
    <>
      <h1>Sun</h1>
      <FirstSteps />
      <p className="visually-quiet mb-2">
        Drag the crosshair on the almanac along a day or across the year; the shade follows.
      </p>
      <Section title={longDate(date)} name="day">
        {day.polar && (
          <p className="mb-1">
            {day.polar === 'day' ? 'The sun does not set on this day.' : 'The sun does not rise on this day.'}
          </p>
        )}
        <dl className="facts">
          <dt>Sunrise</dt>
          <dd>
            {clock(day.sunriseMs)} at {deg(day.sunriseAzimuthDeg)}
          </dd>
          <dt>Solar noon</dt>
          <dd>
            {clock(day.transitMs)}, {deg(day.transitAltitudeDeg)} high
          </dd>
          <dt>Sunset</dt>
          <dd>
            {clock(day.sunsetMs)} at {deg(day.sunsetAzimuthDeg)}
          </dd>
          <dt>Day length</dt>
          <dd>{day.dayLengthHours.toFixed(2)} h</dd>
        </dl>
        <div className="d-flex gap-1 flex-wrap">
          {(['sunrise', 'noon', 'sunset'] as const).map((name) => {
            const ms = name === 'sunrise' ? day.sunriseMs : name === 'noon' ? day.transitMs : day.sunsetMs;
            return (
              <button
                key={name}
                className="btn btn-quiet btn-sm"
                disabled={ms === null}
                onClick={() => setView({ minutes: Math.round(clockAt(ms!, place.zone).minutes), play: null })}
              >
                {name === 'noon' ? 'Solar noon' : name === 'sunrise' ? 'Sunrise' : 'Sunset'}
              </button>
            );
          })}
        </div>
      </Section>
      <Section title={`Marks of ${year}`} name="Marks">
        <ul className="objects">
          {marks.map(({ mark, date: on, minutes }) => (
            <li key={mark} className={on === date ? 'chosen' : ''}>
              <button className="name" onClick={() => setView({ date: on, play: null })}>
                {SEASON_NAMES[mark]}
              </button>
              <span className="figure">
                {shortDate(on)}, {formatClock(minutes)}
              </span>
            </li>
          ))}
          {steps.map(({ atMs, beforeMinutes, afterMinutes }) => {
            const on = clockAt(atMs, place.zone).date;
            return (
              <li key={atMs} className={on === date ? 'chosen' : ''}>
                <button className="name" onClick={() => setView({ date: on, play: null })}>
                  Clocks go {afterMinutes > beforeMinutes ? 'forward' : 'back'}{' '}
                  {Math.abs(afterMinutes - beforeMinutes)} min
                </button>
                <span className="figure">{shortDate(on)}</span>
              </li>
            );
          })}
        </ul>
      </Section>
      <Section title="Chosen facade">
        {!selection || selection.wallBearingDeg === null ? (
          <p className="visually-quiet m-0">Click a wall to read its horizontal and vertical shadow angle.</p>
        ) : (
          <p className="m-0">
            It faces {deg(wrap360(selection.wallBearingDeg - site.north.trueNorthDeg))} clockwise from true
            north. Its shadow angles stand at the lower left of the board.
          </p>
        )}
      </Section>
      <Viewpoints />
      <Section title="Shown">
        <label className="d-flex gap-2 align-items-center">
          <input
            type="checkbox"
            checked={sunPath}
            onChange={(event) => setView({ sunPath: event.target.checked })}
          />
          Sun path of the day, the solstices and the equinox
        </label>
      </Section>
    </>
  );
}
