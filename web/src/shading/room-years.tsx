import { csvText, MONTH_NAMES } from '@dial-shade/core';
import { max, scaleBand, scaleLinear } from 'd3';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { PlusMinus } from '../app/plus-minus';
import { saveCsv } from '../app/save-file';
import type { RoomYearAsked, RoomYearFound } from '../workers/room-year-work';

/** A year of a room beside others. */
export type RoomYearRow = RoomYearAsked & RoomYearFound;

/** Of the longest bar, pixels. */
const BAR = 24;

const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);

/** Years side by side, kWh on a square metre of floor, and the months of the one that is chosen. */
export function RoomYears({ rows }: { rows: readonly RoomYearRow[] }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const standing = rows.findIndex(({ stands }) => stands);
  const shown = rows[chosen ?? Math.max(0, standing)] ?? rows[0]!;
  const bare = rows.find(
    ({ optionId, key, devices }) => optionId === shown.optionId && key === shown.key && devices === 'none',
  );
  const perM2 = (values: readonly number[], { floorM2 }: RoomYearRow) => sum(values) / floorM2;
  const most = Math.max(...rows.flatMap((row) => [perM2(row.heating, row), perM2(row.cooling, row)]), 1e-9);
  const cell = (kWh: number, error: number, colour: string) => (
    <td className="text-nowrap">
      <i className="year-bar" style={{ width: `${(BAR * kWh) / most}px`, background: colour }} />
      {kWh.toFixed(1)}
      <PlusMinus error={error} />
    </td>
  );
  return (
    <>
      <table className="figures room-years" data-testid="room-years">
        <thead>
          <tr>
            <th>Devices</th>
            <th title="What keeps the air at its lower set-point, kWh on a square metre of floor">
              Heating kWh/m²
            </th>
            <th title="What keeps the air at its upper set-point, kWh on a square metre of floor">
              Cooling kWh/m²
            </th>
            <th title="Hours in which the air is over 26 °C when nothing is cooled">Over 26 °C h</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i} className={row.stands ? 'fw-semibold' : ''}>
              <td>
                <button
                  className="btn btn-link btn-sm p-0 text-start"
                  aria-pressed={row === shown}
                  title={`${row.room}, ${row.option}: its months below`}
                  onClick={() => setChosen(i)}
                >
                  {row.what}
                </button>
              </td>
              {cell(perM2(row.heating, row), row.error.heating / row.floorM2, 'var(--shade)')}
              {cell(perM2(row.cooling, row), row.error.cooling / row.floorM2, 'var(--sun)')}
              <td>{row.tooWarmH.toLocaleString('en')}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <RoomMonths row={shown} bare={bare && bare !== shown ? bare : null} />
      <p className="visually-quiet mb-1">For comparison under these assumptions, not for sizing plant.</p>
      <details className="visually-quiet mb-1">
        <summary>How it is reckoned</summary>
        <p className="m-0">
          The simple hourly method of ISO 13790:2008 (five conductances, one mass): the room is one zone. What
          comes in through its glass is found hour by hour from the weather year, beam, sky and what is thrown
          back, past everything that stands, with the g-value of the angle; it falls on air, surfaces and mass
          in fixed shares. Heating and cooling are what keeps the air within the two set-points, within the
          power of 100 or 150 W/m² that the presets have; the last two weeks of the year are run through
          first. Walls and floors towards other rooms lose nothing.
        </p>
      </details>
      <button className="btn btn-quiet btn-sm mb-2" onClick={() => save(rows)}>
        <Download size={12} /> CSV
      </button>
    </>
  );
}

function save(rows: readonly RoomYearRow[]): void {
  const months = (what: string) => MONTH_NAMES.map((_, m) => `${what}_${String(m + 1).padStart(2, '0')}_kwh`);
  const one = (value: number) => Number(value.toFixed(1));
  saveCsv(
    csvText([
      [
        ...[
          'option',
          'room',
          'devices',
          'floor_m2',
          'heating_kwh',
          'cooling_kwh',
          'peak_cooling_w',
          'solar_kwh',
        ],
        ...['over_26_h', ...months('heating'), ...months('cooling')],
        ...['heating_error_kwh', 'cooling_error_kwh', 'solar_error_kwh'],
      ],
      ...rows.map((row) => [
        ...[row.option, row.room, row.what, one(row.floorM2), one(sum(row.heating)), one(sum(row.cooling))],
        ...[one(row.peakCoolingW), one(row.solarKWh), row.tooWarmH],
        ...[...row.heating, ...row.cooling].map(one),
        ...[row.error.heating, row.error.cooling, row.error.solar].map(one),
      ]),
    ]),
    'years-of-rooms.csv',
  );
}

const W = 260;
const H = 84;
const LEFT = 34;
const BOTTOM = 16;
const TOP = 12;

/** Heating and cooling by month; as an outline without devices. */
function RoomMonths({ row, bare }: { row: RoomYearRow; bare: RoomYearRow | null }) {
  const x = scaleBand(MONTH_NAMES, [LEFT, W - 4]).padding(0.18);
  const all = [row, bare].flatMap((one) => (one ? [...one.heating, ...one.cooling] : []));
  const y = scaleLinear([0, max(all) || 1], [H - BOTTOM, TOP]).nice(3);
  const kinds = [
    { of: 'heating', fill: 'var(--shade)' },
    { of: 'cooling', fill: 'var(--sun)' },
  ] as const;
  const half = x.bandwidth() / 2;
  return (
    <figure className="m-0" data-testid="room-months">
      <svg
        className="climate-chart"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label="Heating and cooling by month"
      >
        {y.ticks(3).map((value) => (
          <g key={value}>
            <line x1={LEFT} x2={W - 4} y1={y(value)} y2={y(value)} stroke="var(--rule)" strokeWidth={0.5} />
            <text x={LEFT - 3} y={y(value) + 2.6} textAnchor="end" fontSize={7.5} fill="var(--ink-soft)">
              {value.toLocaleString('en')}
            </text>
          </g>
        ))}
        <text x={LEFT - 3} y={7} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
          kWh
        </text>
        {MONTH_NAMES.map((name, m) => (
          <g key={name}>
            <title>{`${name}: heating ${row.heating[m]!.toFixed(0)}, cooling ${row.cooling[m]!.toFixed(0)} kWh${bare ? `; ${bare.heating[m]!.toFixed(0)} and ${bare.cooling[m]!.toFixed(0)} without devices` : ''}`}</title>
            {kinds.map(({ of, fill }, k) => {
              const [left, top] = [x(name)! + k * half, y(row[of][m]!)];
              return (
                <g key={of}>
                  <rect x={left} width={half} y={top} height={y(0) - top} fill={fill} />
                  {bare && (
                    <rect
                      x={left}
                      width={half}
                      y={y(bare[of][m]!)}
                      height={y(0) - y(bare[of][m]!)}
                      fill="transparent"
                      stroke="var(--ink-soft)"
                      strokeWidth={0.7}
                      strokeDasharray="2 1.5"
                    />
                  )}
                </g>
              );
            })}
            <text x={x(name)! + half} y={H - 5} textAnchor="middle" fontSize={7.5} fill="var(--ink-soft)">
              {name[0]}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="visually-quiet">
        {row.room}, {row.what}: <i className="patch" style={{ background: 'var(--shade)' }} /> heating{' '}
        {Math.round(sum(row.heating)).toLocaleString('en')}
        <PlusMinus error={row.error.heating} digits={0} />,{' '}
        <i className="patch" style={{ background: 'var(--sun)' }} /> cooling{' '}
        {Math.round(sum(row.cooling)).toLocaleString('en')}
        <PlusMinus error={row.error.cooling} digits={0} /> kWh a year, at its peak{' '}
        {Math.round(row.peakCoolingW).toLocaleString('en')} W{bare ? '; dashed without devices' : ''}.
      </figcaption>
    </figure>
  );
}
