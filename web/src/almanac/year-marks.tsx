import {
  clockAt,
  dayOfYear,
  formatClock,
  SEASON_NAMES,
  type Site,
  SunTrack,
  zoneSteps,
  instantOf,
  addDays,
} from '@dial-shade/core';
import { memo, useMemo } from 'react';
import { type ChartScale, MARGIN } from './chart-scale';
import { useSeasonMarks } from './use-season-marks';
import { longDate, shortDate } from './wording';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Months, hours, solstices and equinoxes, clock changes and lines of solar time. */
export const YearMarks = memo(function YearMarks({ scale, site }: { scale: ChartScale; site: Site }) {
  return (
    <g>
      <Months scale={scale} site={site} />
      <Hours scale={scale} />
      <SolarTime scale={scale} site={site} />
      <Seasons scale={scale} site={site} />
      <ClockChanges scale={scale} site={site} />
    </g>
  );
});

interface Marked {
  scale: ChartScale;
  site: Site;
}

const bottomOf = (scale: ChartScale) => scale.height - MARGIN.bottom;
const rightOf = (scale: ChartScale) => scale.width - MARGIN.right;

/** The months along the foot. */
function Months({ scale, site: { year } }: Marked) {
  const bottom = bottomOf(scale);
  return MONTHS.map((month, i) => {
    const column = dayOfYear(`${year}-${String(i + 1).padStart(2, '0')}-01`);
    return (
      <g key={month}>
        <line x1={scale.x(column)} x2={scale.x(column)} y1={bottom} y2={bottom + 5} stroke="var(--rule)" />
        <text x={scale.x(column + 15)} y={bottom + 12} textAnchor="middle">
          {month}
        </text>
      </g>
    );
  });
}

/** The hours of the clock. */
function Hours({ scale }: { scale: ChartScale }) {
  return [0, 6, 12, 18, 24].map((hour) => (
    <g key={hour}>
      <text x={MARGIN.left - 5} y={scale.y(hour * 60) + 3.5} textAnchor="end">
        {String(hour).padStart(2, '0')}:00
      </text>
      <line
        x1={MARGIN.left}
        x2={rightOf(scale)}
        y1={scale.y(hour * 60)}
        y2={scale.y(hour * 60)}
        stroke="#000"
        strokeOpacity={0.13}
      />
    </g>
  ));
}

/** Where solar time is 6, 12 and 18. */
function SolarTime({ scale, site }: Marked) {
  const solar = useMemo(() => solarLines(site), [site]);
  return solar.map(({ label, runs, last }) => (
    <g key={label}>
      {runs.map((run) => (
        <polyline
          key={run[0]![0]}
          points={run
            .map(([column, minutes]) => `${scale.x(column + 0.5).toFixed(1)},${scale.y(minutes).toFixed(1)}`)
            .join(' ')}
          fill="none"
          stroke="#5b3b00"
          strokeOpacity={0.6}
          strokeWidth={0.9}
          strokeDasharray="5 3"
        />
      ))}
      <text x={rightOf(scale) + 4} y={scale.y(last) + 3.5}>
        {label}
      </text>
    </g>
  ));
}

/** Solstices and equinoxes. */
function Seasons({ scale, site }: Marked) {
  const marks = useSeasonMarks(site);
  return marks.map(({ mark, date, minutes }) => (
    <g key={mark} className="mark">
      <title>{`${SEASON_NAMES[mark]}: ${longDate(date)}, ${formatClock(minutes)}`}</title>
      <line
        x1={scale.x(dayOfYear(date) + 0.5)}
        x2={scale.x(dayOfYear(date) + 0.5)}
        y1={MARGIN.top}
        y2={bottomOf(scale)}
      />
      <text x={scale.x(dayOfYear(date) + 0.5)} y={MARGIN.top - 5} textAnchor="middle">
        {SEASON_NAMES[mark].split(' ')[1]} {shortDate(date)}
      </text>
    </g>
  ));
}

/** Where the clocks go forward and back. */
function ClockChanges({ scale, site: { place, year } }: Marked) {
  const bottom = bottomOf(scale);
  const steps = useMemo(
    () => zoneSteps(place.zone, year).map((step) => ({ ...step, date: clockAt(step.atMs, place.zone).date })),
    [place.zone, year],
  );
  return steps.map(({ atMs, date, beforeMinutes, afterMinutes }) => {
    const shift = afterMinutes - beforeMinutes;
    const column = dayOfYear(date);
    const late = column > scale.days / 2;
    return (
      <g key={atMs}>
        <title>{`On ${longDate(date)} the clocks go ${shift > 0 ? 'forward' : 'back'} ${Math.abs(shift)} minutes.`}</title>
        <line
          x1={scale.x(column)}
          x2={scale.x(column)}
          y1={bottom - 15}
          y2={bottom}
          stroke="#fff"
          strokeOpacity={0.8}
        />
        <text
          className="on-sky"
          x={scale.x(column) + (late ? -4 : 4)}
          y={bottom - 4}
          textAnchor={late ? 'end' : 'start'}
        >
          clocks {shift > 0 ? '+' : '−'}
          {Math.abs(shift) === 60 ? '1 h' : `${Math.abs(shift)} min`}
        </text>
      </g>
    );
  });
}

/** Clock minutes of solar 6:00, 12:00 and 18:00 on every day, cut where the clocks change. */
function solarLines({ place, year }: Site) {
  const track = new SunTrack(place);
  const noon: number[] = [];
  for (let date = `${year}-01-01`; date.startsWith(String(year)); date = addDays(date, 1))
    noon.push(720 - track.at(instantOf(date, 720, place.zone)).hourAngleDeg * 4);
  return [
    { label: 'sol. 6', shift: -360 },
    { label: 'sol. 12', shift: 0 },
    { label: 'sol. 18', shift: 360 },
  ].map(({ label, shift }) => {
    const runs: [number, number][][] = [[]];
    noon.forEach((minutes, column) => {
      if (column > 0 && Math.abs(minutes - noon[column - 1]!) > 10) runs.push([]);
      runs.at(-1)!.push([column, minutes + shift]);
    });
    return { label, runs, last: noon.at(-1)! + shift };
  });
}
