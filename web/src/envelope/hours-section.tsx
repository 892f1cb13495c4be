import { change, type Envelope, formatArea } from '@dial-shade/core';
import { scaleLinear } from 'd3';
import { useState } from 'react';
import { Section } from '../app/fields';
import { edit, useDocument } from '../state/project-store';
import { useAside } from '../workers/use-aside';
import type { HoursCost } from '../workers/envelope-work';
import { longer } from './longer-windows';

const [WIDTH, HEIGHT] = [268, 118];
const MARGIN = { left: 38, right: 12, top: 10, bottom: 28 };

/** What an hour more of kept sun costs in floor area. */
export function HoursSection({ envelope }: { envelope: Envelope }) {
  const { units, areas, site } = useDocument();
  const [isAsked, setAsked] = useState(false);
  const found = useAside<HoursCost[]>(
    isAsked ? async (worker) => await worker.hoursCost(envelope.id) : null,
    [envelope, areas, site],
    400,
  );
  const take = (byMinutes: number) => {
    if (byMinutes === 0) return;
    edit(
      'keep other hours',
      change('envelopes', envelope.id, {
        keep: envelope.keep.map((kept) => ({ ...kept, windows: longer(kept.windows, byMinutes) })),
      }),
    );
  };
  return (
    <Section title="What hours cost" name="what hours cost">
      {!isAsked ? (
        <button className="btn btn-quiet btn-sm mb-2" onClick={() => setAsked(true)}>
          Floor area against hours kept
        </button>
      ) : !found ? (
        <p className="visually-quiet">Trying longer and shorter windows …</p>
      ) : found.length < 2 ? (
        <p>The windows cannot be made longer or shorter.</p>
      ) : (
        <>
          <Chart found={found} take={take} />
          <p className="visually-quiet" data-testid="hours-said">
            {said(found, units)}
          </p>
        </>
      )}
    </Section>
  );
}

function said(found: readonly HoursCost[], units: 'metric' | 'imperial'): string {
  const now = found.find(({ byMinutes }) => byMinutes === 0);
  const more = found.find(({ byMinutes }) => byMinutes === 30);
  if (!now || !more) return 'A dot takes its hours.';
  const less = now.floorAreaM2 - more.floorAreaM2;
  return less > 0
    ? `An hour more (half of it at either end) costs ${formatArea(less, units)} of floor. A dot takes its hours.`
    : 'An hour more (half of it at either end) costs no floor. A dot takes its hours.';
}

function Chart({ found, take }: { found: readonly HoursCost[]; take: (byMinutes: number) => void }) {
  const { units } = useDocument();
  const perM2 = units === 'metric' ? 1 : 1 / 0.3048 ** 2;
  const hours = found.map((one) => one.hours);
  const most = Math.max(...found.map(({ floorAreaM2 }) => floorAreaM2), 1);
  const x = scaleLinear([Math.min(...hours), Math.max(...hours)], [MARGIN.left, WIDTH - MARGIN.right]);
  const y = scaleLinear([0, most], [HEIGHT - MARGIN.bottom, MARGIN.top]).nice();
  const line = found.map((one) => `${x(one.hours)},${y(one.floorAreaM2)}`).join(' ');
  return (
    <svg
      className="chart-plain"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="group"
      aria-label="Floor area against hours of sun that are kept a day"
      data-testid="hours-chart"
    >
      {y.ticks(3).map((tick) => (
        <g key={tick}>
          <line x1={MARGIN.left} x2={WIDTH - MARGIN.right} y1={y(tick)} y2={y(tick)} className="grid" />
          <text x={MARGIN.left - 5} y={y(tick) + 3} textAnchor="end">
            {Math.round(tick * perM2).toLocaleString('en')}
          </text>
        </g>
      ))}
      {x.ticks(5).map((tick) => (
        <text key={tick} x={x(tick)} y={HEIGHT - MARGIN.bottom + 13} textAnchor="middle">
          {tick}
        </text>
      ))}
      <text x={WIDTH - MARGIN.right} y={HEIGHT - 3} textAnchor="end">
        hours a day that are kept
      </text>
      <text x={MARGIN.left} y={HEIGHT - 3}>
        floor, {units === 'metric' ? 'm²' : 'sq ft'}
      </text>
      <polyline points={line} fill="none" stroke="var(--shade)" strokeWidth={1.4} />
      {found.map((one) => (
        <circle
          key={one.byMinutes}
          cx={x(one.hours)}
          cy={y(one.floorAreaM2)}
          r={one.byMinutes === 0 ? 5 : 3.6}
          className={one.byMinutes === 0 ? 'dot now' : 'dot'}
          role="button"
          tabIndex={0}
          aria-label={`${one.hours.toFixed(1)} hours a day: ${formatArea(one.floorAreaM2, units)}`}
          onClick={() => take(one.byMinutes)}
          onKeyDown={(event) => event.key === 'Enter' && take(one.byMinutes)}
        >
          <title>{`${one.hours.toFixed(1)} h a day: ${formatArea(one.floorAreaM2, units)}`}</title>
        </circle>
      ))}
    </svg>
  );
}
