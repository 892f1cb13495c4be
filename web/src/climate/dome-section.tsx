import { csvText, type Subdivision } from '@dial-shade/core';
import { max } from 'd3';
import { useMemo, useRef, useState } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { RAMPS } from '../theme/palette';
import type { DomeFound } from '../workers/climate-work';
import { ChartButtons } from './chart-buttons';
import { domeCells } from './dome-cells';
import { useClimate } from './use-climate';

type Part = 'total' | 'beam' | 'sky';
const PARTS = [
  { value: 'total', name: 'Beam and sky' },
  { value: 'beam', name: 'Beam' },
  { value: 'sky', name: 'Sky' },
] as const;
const PERIODS = [
  { value: 'year', name: 'the whole year' },
  { value: 'summer', name: 'April to September' },
  { value: 'winter', name: 'October to March' },
  { value: 'day', name: 'the day on the almanac' },
  { value: 'study', name: 'the window of the study' },
] as const;
type Period = (typeof PERIODS)[number]['value'];

/** The sky vault by the radiation of its patches, over a window of time. */
export function DomeSection() {
  const [part, setPart] = useState<Part>('total');
  const [period, setPeriod] = useState<Period>('year');
  const [subdivision, setSubdivision] = useState<'1' | '2' | '4'>('1');
  const window = useWindow(period);
  const svg = useRef<SVGSVGElement>(null);
  const dome = useClimate(
    (worker) => worker.skyDome(window, Number(subdivision) as Subdivision),
    [JSON.stringify(window), subdivision],
  );
  return (
    <Section title="Sky vault" name="climate-dome">
      <ChoiceField label="Over" value={period} choices={PERIODS} commit={setPeriod} />
      <ChoiceField label="Of" value={part} choices={PARTS} commit={setPart} />
      <ChoiceField
        label="Patches"
        value={subdivision}
        choices={[
          { value: '1', name: '145' },
          { value: '2', name: '577' },
          { value: '4', name: '2,305' },
        ]}
        commit={setSubdivision}
      />
      {dome && (
        <>
          <Dome dome={dome} part={part} svg={svg} />
          <ChartButtons svg={svg} name="sky-vault" csv={() => domeCsv(dome)} />
        </>
      )}
    </Section>
  );
}

/** The period that is asked for, by days of the year and hours of local standard time. */
function useWindow(period: Period) {
  const { studies } = useDocument();
  const activeStudy = useView((view) => view.activeStudy);
  const date = useView((view) => view.date);
  const day = (text: string) => Number(text.slice(5, 7)) * 100 + Number(text.slice(8, 10));
  const whole = { startMinutes: 0, endMinutes: 1440 };
  if (period === 'summer') return { fromDay: 401, toDay: 930, ...whole };
  if (period === 'winter') return { fromDay: 1001, toDay: 331, ...whole };
  if (period === 'day') return { fromDay: day(date), toDay: day(date), ...whole };
  const study = studies.find(({ id }) => id === activeStudy) ?? studies[0];
  if (period === 'study' && study) {
    const { from, to, startMinutes, endMinutes } = study.window;
    return { fromDay: day(from), toDay: day(to), startMinutes, endMinutes };
  }
  return { fromDay: 101, toDay: 1231, ...whole };
}

const valueOf = (dome: DomeFound, part: Part, p: number) =>
  part === 'beam' ? dome.beam[p]! : part === 'sky' ? dome.sky[p]! : dome.beam[p]! + dome.sky[p]!;

function domeCsv(dome: DomeFound): string {
  return csvText([
    ['altitude_deg', 'azimuth_deg', 'beam_kwh_m2', 'sky_kwh_m2'],
    ...Array.from(dome.altitudeDeg, (altitude, p) => [
      altitude.toFixed(3),
      dome.azimuthDeg[p]!.toFixed(3),
      dome.beam[p]!.toFixed(5),
      dome.sky[p]!.toFixed(5),
    ]),
  ]);
}

function Dome({ dome, part, svg }: { dome: DomeFound; part: Part; svg: React.Ref<SVGSVGElement> }) {
  const [over, setOver] = useState<number | null>(null);
  const cells = useMemo(() => domeCells(dome.subdivision), [dome.subdivision]);
  // Patches differ in size: the tone goes by what each sends per steradian.
  const density = cells.map(({ solidAngle }, p) => valueOf(dome, part, p) / solidAngle);
  const most = max(density) || 1;
  const { totals } = dome;
  return (
    <>
      <svg
        ref={svg}
        className="climate-chart dome"
        viewBox="-116 -112 232 240"
        role="img"
        aria-label="Sky vault, seen from below, true north up"
      >
        {cells.map(({ path }, p) => (
          <path
            key={p}
            d={path}
            fill={RAMPS.heat(Math.sqrt(density[p]! / most))}
            stroke="var(--sheet)"
            strokeWidth={dome.subdivision === 1 ? 0.5 : 0.15}
            onPointerEnter={() => setOver(p)}
            onPointerLeave={() => setOver(null)}
          />
        ))}
        {(['N', 'E', 'S', 'W'] as const).map((name, i) => (
          <text
            key={name}
            x={108 * Math.sin((i * Math.PI) / 2)}
            y={-106 * Math.cos((i * Math.PI) / 2) + 3}
            textAnchor="middle"
            fontSize={9}
            fontWeight={600}
            fill="var(--ink)"
          >
            {name}
          </text>
        ))}
        <g transform="translate(-100 118)">
          {Array.from({ length: 50 }, (_, i) => (
            <rect key={i} x={i * 4} width={4.1} height={5} fill={RAMPS.heat(i / 49)} />
          ))}
          {[0, 0.25, 1].map((share) => (
            <text
              key={share}
              x={200 * Math.sqrt(share)}
              y={-2}
              textAnchor={share === 1 ? 'end' : share ? 'middle' : 'start'}
              fontSize={7}
              fill="var(--ink-soft)"
            >
              {(most * share).toFixed(most < 10 ? 1 : 0)}
              {share === 1 && ' kWh/m²sr'}
            </text>
          ))}
        </g>
      </svg>
      <p className="visually-quiet mb-1" data-testid="dome-said">
        {over === null
          ? `On the open level: beam ${totals.beamHorizontal.toFixed(0)} + sky ${totals.diffuseHorizontal.toFixed(0)} = ${(totals.beamHorizontal + totals.diffuseHorizontal).toFixed(0)} kWh/m².`
          : `${dome.altitudeDeg[over]!.toFixed(0)}° high, ${dome.azimuthDeg[over]!.toFixed(0)}°: beam ${dome.beam[over]!.toFixed(2)}, sky ${dome.sky[over]!.toFixed(2)} kWh/m².`}
      </p>
    </>
  );
}
