import { csvText, type WeatherSummary } from '@dial-shade/core';
import { max, min, scaleBand, scaleLinear } from 'd3';
import { useRef } from 'react';
import { Section } from '../app/fields';
import { HEAT } from '../theme/palette';
import { ChartButtons } from './chart-buttons';
import { useClimate } from './use-climate';

const LETTERS = 'JFMAMJJASOND';
const W = 260;
const H = 158;
const LEFT = 26;
const RIGHT = 24;
const TOP = 18;
const BOTTOM = 16;

/** Radiation month by month, and the range of the days' temperatures. */
export function MonthsSection() {
  const facts = useClimate((worker) => worker.climateFacts());
  const svg = useRef<SVGSVGElement>(null);
  if (!facts) return null;
  const { months } = facts.summary;
  return (
    <Section title="Months" name="climate-months">
      <MonthChart months={months} svg={svg} />
      <p className="visually-quiet mb-1">
        Bars: radiation on the open level, diffuse below, beam above. Line and band: mean of the month, and of
        its days’ coldest and warmest hours.
      </p>
      <ChartButtons
        svg={svg}
        name="months"
        csv={() =>
          csvText([
            [
              'month',
              'global_kwh_m2',
              'beam_normal_kwh_m2',
              'diffuse_kwh_m2',
              'day_min_c',
              'mean_c',
              'day_max_c',
            ],
            ...months.map((m) => [
              m.month,
              ...[m.global, m.beam, m.diffuse, m.dayMinC, m.meanC, m.dayMaxC].map((value) =>
                Number.isNaN(value) ? '' : value.toFixed(3),
              ),
            ]),
          ])
        }
      />
    </Section>
  );
}

function MonthChart({ months, svg }: { months: WeatherSummary['months']; svg: React.Ref<SVGSVGElement> }) {
  const x = scaleBand(
    months.map(({ month }) => month),
    [LEFT, W - RIGHT],
  ).padding(0.22);
  const most = max(months, ({ global }) => global) || 1;
  const y = scaleLinear([0, most], [H - BOTTOM, TOP]).nice(4);
  const low = min(months, ({ dayMinC }) => dayMinC) ?? 0;
  const high = max(months, ({ dayMaxC }) => dayMaxC) ?? 1;
  const t = scaleLinear([Math.min(0, low), high], [H - BOTTOM, TOP]).nice(4);
  const middle = (month: number) => x(month)! + x.bandwidth() / 2;
  const hasTemperature = !Number.isNaN(low) && high > low;
  const band = [
    ...months.map((m) => `${middle(m.month)},${t(m.dayMaxC)}`),
    ...[...months].reverse().map((m) => `${middle(m.month)},${t(m.dayMinC)}`),
  ].join(' ');
  return (
    <svg
      ref={svg}
      className="climate-chart"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label="Radiation and temperature by month"
    >
      {y.ticks(4).map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={W - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" strokeWidth={0.5} />
          <text x={LEFT - 3} y={y(tick) + 2.6} textAnchor="end" fontSize={7.5} fill="var(--ink-soft)">
            {tick}
          </text>
        </g>
      ))}
      <text x={2} y={7} fontSize={7} fill="var(--ink-soft)">
        kWh/m²
      </text>
      {months.map(({ month, global, diffuse, beam, dayMinC, meanC, dayMaxC }) => (
        <g key={month}>
          <title>
            {`${LETTERS[month - 1]}: global ${global.toFixed(0)}, diffuse ${diffuse.toFixed(0)}, beam normal ${beam.toFixed(0)} kWh/m²; ${dayMinC.toFixed(1)} to ${dayMaxC.toFixed(1)}, mean ${meanC.toFixed(1)} °C`}
          </title>
          <rect
            x={x(month)}
            width={x.bandwidth()}
            y={y(global)}
            height={Math.max(0, y(Math.min(global, diffuse)) - y(global))}
            fill={HEAT.beam}
          />
          <rect
            x={x(month)}
            width={x.bandwidth()}
            y={y(Math.min(global, diffuse))}
            height={y(0) - y(Math.min(global, diffuse))}
            fill={HEAT.sky}
          />
          <text x={middle(month)} y={H - 5} textAnchor="middle" fontSize={7.5} fill="var(--ink-soft)">
            {LETTERS[month - 1]}
          </text>
        </g>
      ))}
      {hasTemperature && (
        <g pointerEvents="none">
          <polygon points={band} fill="var(--ink)" fillOpacity={0.13} />
          <polyline
            points={months.map((m) => `${middle(m.month)},${t(m.meanC)}`).join(' ')}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.2}
          />
          {t.ticks(4).map((tick) => (
            <text key={tick} x={W - RIGHT + 3} y={t(tick) + 2.6} fontSize={7.5} fill="var(--ink-soft)">
              {tick}
            </text>
          ))}
          <text x={W - 1} y={7} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
            °C
          </text>
        </g>
      )}
    </svg>
  );
}
