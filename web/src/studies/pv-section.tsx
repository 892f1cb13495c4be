import { csvText, pvGlance, type StudyResult } from '@dial-shade/core';
import { useRef, useState } from 'react';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { ChartButtons } from '../climate/chart-buttons';
import { HEAT } from '../theme/palette';

const W = 260;
const H = 92;

/** What panels on what is measured would give: an estimate at a glance, said to be one. */
export function PvSection({ result }: { result: StudyResult }) {
  const [efficiency, setEfficiency] = useState(0.2);
  const [performance, setPerformance] = useState(0.8);
  const [target, setTarget] = useState('');
  const svg = useRef<SVGSVGElement>(null);
  const found = pvGlance(result, efficiency, performance, target ? [target] : []);
  const most = Math.max(...found.months, 1e-9);
  const share = (set: (value: number) => void) => (percent: number) => {
    if (!(percent > 0 && percent <= 100)) return 'Above 0 and at most 100 %.';
    set(percent / 100);
    return null;
  };
  return (
    <Section title="Panels at a glance" name="pv">
      {result.targets.length > 1 && (
        <ChoiceField
          label="On"
          wide
          value={target}
          choices={[
            { value: '', name: `all ${result.targets.length} surfaces` },
            ...result.targets.map(({ id, name }) => ({ value: id, name })),
          ]}
          commit={setTarget}
        />
      )}
      <div className="pair even">
        <NumberField label="Efficiency" unit="%" value={efficiency * 100} commit={share(setEfficiency)} />
        <NumberField label="Performance" unit="%" value={performance * 100} commit={share(setPerformance)} />
      </div>
      <p className="mb-1" data-testid="pv">
        <strong>{Math.round(found.kWh).toLocaleString('en')} kWh</strong> on {found.areaM2.toFixed(0)} m²,{' '}
        {found.kWhPerM2.toFixed(0)} kWh/m²: an estimate.
      </p>
      <svg
        ref={svg}
        className="climate-chart"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label="Yield of panels by month"
      >
        {found.months.map((kWh, m) => (
          <g key={m} transform={`translate(${10 + m * 20.5} 0)`}>
            <title>{`${kWh.toFixed(0)} kWh`}</title>
            <rect y={8 + 68 * (1 - kWh / most)} width={14} height={(68 * kWh) / most} fill={HEAT.beam} />
            <text x={7} y={H - 5} textAnchor="middle" fontSize={7.5} fill="var(--ink-soft)">
              {'JFMAMJJASOND'[m]}
            </text>
          </g>
        ))}
      </svg>
      <p className="visually-quiet mb-1">
        Insolation × area × efficiency × performance ratio, over the window of the study.
      </p>
      <ChartButtons
        svg={svg}
        name="panels"
        csv={() => csvText([['month', 'kwh'], ...found.months.map((kWh, m) => [m + 1, kWh.toFixed(2)])])}
      />
    </Section>
  );
}
