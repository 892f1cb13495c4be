import {
  clockAt,
  dayOfYear,
  formatClock,
  SEASON_MARKS,
  SEASON_NAMES,
  type Site,
  seasons,
  SunTrack,
  zoneSteps,
  instantOf,
  addDays,
} from '@dial-shade/core';
import { memo, useMemo } from 'react';
import { type ChartScale, MARGIN } from './chart-scale';
import { longDate, shortDate } from './wording';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Months, hours, solstices and equinoxes, clock changes and lines of solar time. */
export const YearMarks = memo(function YearMarks({ scale, site }: { scale: ChartScale; site: Site }) {
  const { place, year } = site;
  const marks = useMemo(() => {
    const found = seasons(year);
    return SEASON_MARKS.map((mark) => ({ mark, ...clockAt(found[mark], place.zone) }));
  }, [year, place.zone]);
  const steps = useMemo(
    () => zoneSteps(place.zone, year).map((step) => ({ ...step, date: clockAt(step.atMs, place.zone).date })),
    [place.zone, year],
  );
  const solar = useMemo(() => solarLines(site), [site]);
  const bottom = scale.height - MARGIN.bottom;
  const right = scale.width - MARGIN.right;
  return (
    <g>
      {MONTHS.map((month, i) => {
        const column = dayOfYear(`${year}-${String(i + 1).padStart(2, '0')}-01`);
        return (
          <g key={month}>
            <line
              x1={scale.x(column)}
              x2={scale.x(column)}
              y1={bottom}
              y2={bottom + 5}
              stroke="var(--rule)"
            />
            <text x={scale.x(column + 15)} y={bottom + 12} textAnchor="middle">
              {month}
            </text>
          </g>
        );
      })}
      {[0, 6, 12, 18, 24].map((hour) => (
        <g key={hour}>
          <text x={MARGIN.left - 5} y={scale.y(hour * 60) + 3.5} textAnchor="end">
            {String(hour).padStart(2, '0')}:00
          </text>
          <line
            x1={MARGIN.left}
            x2={right}
            y1={scale.y(hour * 60)}
            y2={scale.y(hour * 60)}
            stroke="#000"
            strokeOpacity={0.13}
          />
        </g>
      ))}
      {solar.map(({ label, runs, last }) => (
        <g key={label}>
          {runs.map((run) => (
            <polyline
              key={run[0]![0]}
              points={run
                .map(
                  ([column, minutes]) => `${scale.x(column + 0.5).toFixed(1)},${scale.y(minutes).toFixed(1)}`,
                )
                .join(' ')}
              fill="none"
              stroke="#5b3b00"
              strokeOpacity={0.6}
              strokeWidth={0.9}
              strokeDasharray="5 3"
            />
          ))}
          <text x={right + 4} y={scale.y(last) + 3.5}>
            {label}
          </text>
        </g>
      ))}
      {marks.map(({ mark, date, minutes }) => (
        <g key={mark} className="mark">
          <title>{`${SEASON_NAMES[mark]}: ${longDate(date)}, ${formatClock(minutes)}`}</title>
          <line
            x1={scale.x(dayOfYear(date) + 0.5)}
            x2={scale.x(dayOfYear(date) + 0.5)}
            y1={MARGIN.top}
            y2={bottom}
          />
          <text x={scale.x(dayOfYear(date) + 0.5)} y={MARGIN.top - 5} textAnchor="middle">
            {SEASON_NAMES[mark].split(' ')[1]} {shortDate(date)}
          </text>
        </g>
      ))}
      {steps.map(({ atMs, date, beforeMinutes, afterMinutes }) => {
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
      })}
    </g>
  );
});

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
