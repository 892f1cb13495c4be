import { clockAt, formatClock, SEASON_NAMES, sunDay, wrap360, zoneSteps } from '@dial-shade/core';
import { useMemo } from 'react';
import { useSeasonMarks } from '../almanac/use-season-marks';
import { longDate, shortDate } from '../almanac/wording';
import { Section } from '../app/fields';
import { Images } from 'lucide-react';
import { usePictures } from '../pictures/pictures-store';
import { FirstSteps } from '../site/first-steps';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { MomentsSection } from './moments-section';
import { PathSection } from './path-section';
import { RoomsSection } from './rooms-section';
import { ShadeSection } from './shade-section';
import { ViewSection } from './view-section';
import { Viewpoints } from './viewpoints';

const degrees = (value: number | null) => (value === null ? '–' : `${value.toFixed(1).replace('-', '−')}°`);

/** Where the sun is and when: the day, the marks of the year, the chosen facade. */
export function SunSheet() {
  return (
    <>
      <h1>Sun</h1>
      <FirstSteps />
      <p className="visually-quiet mb-2">
        Drag the crosshair on the almanac along a day or across the year; the shade follows.
      </p>
      <DaySection />
      <ViewSection />
      <MarksSection />
      <MomentsSection />
      <ShadeSection />
      <RoomsSection />
      <PathSection />
      <FacadeSection />
      <Viewpoints />
      <Section title="Pictures and films">
        <button className="btn btn-quiet btn-sm" onClick={() => usePictures.setState({ isOpen: true })}>
          <Images size={14} /> Picture, set, film, gallery
        </button>
      </Section>
    </>
  );
}

/** Sunrise, solar noon and sunset of the day at hand. */
function DaySection() {
  const { place } = useDocument().site;
  const date = useView((view) => view.date);
  const day = useMemo(() => sunDay(date, place, place.zone), [date, place]);
  const clock = (ms: number | null) => (ms === null ? '–' : formatClock(clockAt(ms, place.zone).minutes));
  const moments = [
    { name: 'Sunrise', ms: day.sunriseMs },
    { name: 'Solar noon', ms: day.transitMs },
    { name: 'Sunset', ms: day.sunsetMs },
  ];
  return (
    <Section title={longDate(date)} name="day">
      {day.polar && (
        <p className="mb-1">
          {day.polar === 'day' ? 'The sun does not set on this day.' : 'The sun does not rise on this day.'}
        </p>
      )}
      <dl className="facts">
        <dt>Sunrise</dt>
        <dd>
          {clock(day.sunriseMs)} at {degrees(day.sunriseAzimuthDeg)}
        </dd>
        <dt>Solar noon</dt>
        <dd>
          {clock(day.transitMs)}, {degrees(day.transitAltitudeDeg)} high
        </dd>
        <dt>Sunset</dt>
        <dd>
          {clock(day.sunsetMs)} at {degrees(day.sunsetAzimuthDeg)}
        </dd>
        <dt>Day length</dt>
        <dd>{day.dayLengthHours.toFixed(2)} h</dd>
      </dl>
      <div className="d-flex gap-1 flex-wrap">
        {moments.map(({ name, ms }) => (
          <button
            key={name}
            className="btn btn-quiet btn-sm"
            disabled={ms === null}
            onClick={() => setView({ minutes: Math.round(clockAt(ms!, place.zone).minutes), play: null })}
          >
            {name}
          </button>
        ))}
      </div>
    </Section>
  );
}

/** Solstices, equinoxes and the days on which the clocks change. */
function MarksSection() {
  const { site } = useDocument();
  const { place, year } = site;
  const date = useView((view) => view.date);
  const marks = useSeasonMarks(site);
  const steps = useMemo(() => zoneSteps(place.zone, year), [place.zone, year]);
  return (
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
  );
}

/** Which way the chosen wall faces. */
function FacadeSection() {
  const { north } = useDocument().site;
  const selection = useView((view) => view.selection);
  return (
    <Section title="Chosen facade">
      {!selection || selection.wallBearingDeg === null ? (
        <p className="visually-quiet m-0">Click a wall to read its horizontal and vertical shadow angle.</p>
      ) : (
        <p className="m-0">
          It faces {degrees(wrap360(selection.wallBearingDeg - north.trueNorthDeg))} clockwise from true
          north. Its shadow angles stand at the lower left of the board.
        </p>
      )}
    </Section>
  );
}
