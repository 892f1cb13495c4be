import { csvText, ROSE_DIRECTIONS, ROSE_SPEEDS, type WindRose } from '@dial-shade/core';
import { arc, max } from 'd3';
import { useRef, useState } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { RAMPS } from '../theme/palette';
import { ChartButtons } from './chart-buttons';
import { useClimate } from './use-climate';

const SEASONS = [
  { value: 'year', name: 'the year', months: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] },
  { value: 'dec-feb', name: 'December to February', months: [12, 1, 2] },
  { value: 'mar-may', name: 'March to May', months: [3, 4, 5] },
  { value: 'jun-aug', name: 'June to August', months: [6, 7, 8] },
  { value: 'sep-nov', name: 'September to November', months: [9, 10, 11] },
] as const;
const HOURS = [
  { value: 'all', name: 'all hours', from: 0, to: 24 },
  { value: 'day', name: '8 to 20 h', from: 8, to: 20 },
  { value: 'morning', name: '6 to 12 h', from: 6, to: 12 },
  { value: 'afternoon', name: '12 to 18 h', from: 12, to: 18 },
] as const;
const CLASSES = ROSE_SPEEDS.length - 1;
const R = 78;
const COMPASS = [
  'N',
  'NNE',
  'NE',
  'ENE',
  'E',
  'ESE',
  'SE',
  'SSE',
  'S',
  'SSW',
  'SW',
  'WSW',
  'W',
  'WNW',
  'NW',
  'NNW',
];

const tone = (k: number) => RAMPS.sky(0.12 + (0.72 * (CLASSES - 1 - k)) / (CLASSES - 1));
const className = (k: number) =>
  k === CLASSES - 1 ? `from ${ROSE_SPEEDS[k + 1]}` : `${ROSE_SPEEDS[k + 1]}–${ROSE_SPEEDS[k + 2]}`;

/** Where the wind comes from, and how fast, by season and hours of the day. */
export function RoseSection() {
  const [season, setSeason] = useState<(typeof SEASONS)[number]['value']>('year');
  const [hours, setHours] = useState<(typeof HOURS)[number]['value']>('all');
  const svg = useRef<SVGSVGElement>(null);
  const { months } = SEASONS.find(({ value }) => value === season)!;
  const { from, to } = HOURS.find(({ value }) => value === hours)!;
  const rose = useClimate((worker) => worker.windRose(months, from, to), [season, hours]);
  if (!rose) return null;
  return (
    <Section title="Wind" name="climate-wind">
      <ChoiceField label="In" value={season} choices={SEASONS} commit={setSeason} />
      <ChoiceField label="At" value={hours} choices={HOURS} commit={setHours} />
      {rose.hours === 0 ? (
        <p className="visually-quiet">The weather year has no wind in these hours.</p>
      ) : (
        <>
          <Rose rose={rose} svg={svg} />
          <p className="visually-quiet mb-1">
            Mean {rose.meanSpeed.toFixed(1)} m/s; calm {((100 * rose.calmHours) / rose.hours).toFixed(0)} % of{' '}
            {rose.hours.toLocaleString('en')} hours. From where it comes, m/s:{' '}
            {Array.from({ length: CLASSES }, (_, k) => (
              <span key={k} className="swatch">
                <i style={{ background: tone(k) }} /> {className(k)}
              </span>
            ))}
          </p>
          <ChartButtons svg={svg} name="wind" csv={() => roseCsv(rose)} />
        </>
      )}
    </Section>
  );
}

function roseCsv(rose: WindRose): string {
  return csvText([
    ['from', ...Array.from({ length: CLASSES }, (_, k) => `${className(k)} m/s (h)`)],
    ...COMPASS.map((name, d) => [name, ...rose.byDirection.subarray(d * CLASSES, (d + 1) * CLASSES)]),
    ['calm', rose.calmHours],
  ]);
}

function Rose({ rose, svg }: { rose: WindRose; svg: React.Ref<SVGSVGElement> }) {
  const totals = COMPASS.map((_, d) =>
    rose.byDirection.subarray(d * CLASSES, (d + 1) * CLASSES).reduce((a, b) => a + b, 0),
  );
  const most = max(totals) || 1;
  // Areas tell the hours.
  const radius = (hours: number) => R * Math.sqrt(hours / most);
  const half = Math.PI / ROSE_DIRECTIONS;
  const wedge = arc<{ d: number; from: number; to: number }>()
    .startAngle(({ d }) => 2 * half * d - half * 0.86)
    .endAngle(({ d }) => 2 * half * d + half * 0.86)
    .innerRadius(({ from }) => radius(from))
    .outerRadius(({ to }) => radius(to));
  return (
    <svg ref={svg} className="climate-chart" viewBox="-130 -94 260 188" role="img" aria-label="Wind rose">
      {[0.25, 1].map((share) => (
        <g key={share}>
          <circle r={R * Math.sqrt(share)} fill="none" stroke="var(--rule)" strokeWidth={0.6} />
          <text x={3} y={-R * Math.sqrt(share) - 2} fontSize={7} fill="var(--ink-soft)">
            {((100 * share * most) / rose.hours).toFixed(1)} %
          </text>
        </g>
      ))}
      {COMPASS.map((name, d) => {
        let from = 0;
        return (
          <g key={name}>
            <title>{`From ${name}: ${((100 * totals[d]!) / rose.hours).toFixed(1)} % of the hours`}</title>
            {Array.from({ length: CLASSES }, (_, k) => {
              const to = from + rose.byDirection[d * CLASSES + k]!;
              const path = wedge({ d, from, to }) ?? '';
              from = to;
              return <path key={k} d={path} fill={tone(k)} stroke="var(--sheet)" strokeWidth={0.3} />;
            })}
          </g>
        );
      })}
      {(['N', 'E', 'S', 'W'] as const).map((name, i) => (
        <text
          key={name}
          x={(R + 10) * Math.sin((i * Math.PI) / 2)}
          y={-(R + 10) * Math.cos((i * Math.PI) / 2) + 3}
          textAnchor="middle"
          fontSize={9}
          fontWeight={600}
          fill="var(--ink)"
        >
          {name}
        </text>
      ))}
    </svg>
  );
}
