import { type ComparedMeasure, type Option, tradeOffFront } from '@dial-shade/core';
import { type ScaleLinear, scaleLinear } from 'd3';
import { useState } from 'react';
import { CheckField, ChoiceField } from '../app/fields';
import { useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { OPTION_HUES } from '../theme/palette';
import { useCompare } from './compare-store';
import { chosenMeasures, chosenVariants, nameOf } from './compared';
import { useMassing } from './massing-store';
import { readFigure } from './compare-table';
import type { ComparedCell } from './use-compared';

const [WIDTH, HEIGHT] = [720, 420];
const MARGIN = { left: 64, right: 28, top: 18, bottom: 46 };

/** Two measures against one another: every option a mark, and the front that nothing beats. */
export function TradeOff({
  cells,
  isSweep,
}: {
  cells: ReadonlyMap<string, Record<string, ComparedCell>>;
  /** Whether the massings of a sweep are among the marks. */
  isSweep: boolean;
}) {
  const project = useDocument();
  const measures = chosenMeasures(project);
  const asked = useCompare();
  const [must, setMust] = useState(false);
  const find = (key: string | null, otherwise: number) =>
    measures.find((measure) => measure.key === key) ?? measures[otherwise] ?? measures[0];
  const [x, y] = [find(asked.x, 0), find(asked.y, Math.min(2, measures.length - 1))];
  const variants = chosenVariants(project);
  const tried = useTried(isSweep, x, y);
  if (!x || !y) return null;
  const valueOf = (id: string, { key }: ComparedMeasure) => cells.get(id)?.[key]?.value ?? null;
  const marks = variants.flatMap(({ id, option, scheme, name }): OptionMark[] => {
    const [a, b] = [valueOf(id, x), valueOf(id, y)];
    if (a === null || b === null) return [];
    const fails = Object.values(cells.get(id) ?? {}).some(({ passes }) => passes === false);
    const short = scheme === undefined ? name : (scheme?.name ?? 'without devices');
    return [{ id, option, short, name, x: a, y: b, fails }];
  });
  const missing = variants.length - marks.length;
  const front = tradeOffFront(
    [...marks, ...tried].filter(({ fails }) => !must || !fails),
    x,
    y,
  );
  const { sx, sy } = scalesOf([...marks, ...tried]);
  const labels = labelsOf(marks.map((mark) => ({ ...mark, px: sx(mark.x), py: sy(mark.y) })));
  const choices = measures.map((measure) => ({ value: measure.key, name: nameOf(measure) }));
  return (
    <aside className="compare-panel" aria-label="Trade-off" data-testid="trade-off">
      <div className="trade-fields">
        <ChoiceField
          label="Across"
          wide
          value={x.key}
          choices={choices}
          commit={(key) => useCompare.setState({ x: key })}
        />
        <ChoiceField
          label="Up"
          wide
          value={y.key}
          choices={choices}
          commit={(key) => useCompare.setState({ y: key })}
        />
        <CheckField label="All criteria must pass" checked={must} change={setMust} />
      </div>
      <svg
        className="chart-plain trade"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label={`${nameOf(y)} against ${nameOf(x)}`}
      >
        <Axes x={x} y={y} sx={sx} sy={sy} />
        <polyline
          points={front.map((mark) => `${sx(mark.x)},${sy(mark.y)}`).join(' ')}
          fill="none"
          stroke="var(--sun)"
          strokeWidth={2.4}
        />
        <Tried tried={tried} sx={sx} sy={sy} must={must} x={x} y={y} />
        {marks.map((mark) => (
          <OptionDot
            key={mark.id}
            mark={mark}
            label={labels.get(mark.id)}
            must={must}
            axes={{ x, y, sx, sy }}
          />
        ))}
      </svg>
      {missing > 0 && (
        <p className="visually-quiet mb-0">
          {missing} {missing === 1 ? 'option has' : 'options have'} no figure for one of the two; bring them
          up to date.
        </p>
      )}
    </aside>
  );
}

/** An option or one of its schemes, as a mark. */
interface OptionMark {
  id: string;
  option: Option;
  /** Beside the mark. */
  short: string;
  name: string;
  x: number;
  y: number;
  fails: boolean;
}

interface AxesOf {
  x: ComparedMeasure;
  y: ComparedMeasure;
  sx: ScaleLinear<number, number>;
  sy: ScaleLinear<number, number>;
}

/** Scales that hold all marks, with some room round them. */
function scalesOf(marks: readonly { x: number; y: number }[]): Pick<AxesOf, 'sx' | 'sy'> {
  const span = (values: number[]): [number, number] => {
    if (values.length === 0) return [0, 1];
    const [low, high] = [Math.min(...values), Math.max(...values)];
    const room = (high - low || Math.abs(high) || 1) * 0.12;
    return [low - room, high + room];
  };
  const across = [MARGIN.left, WIDTH - MARGIN.right];
  const up = [HEIGHT - MARGIN.bottom, MARGIN.top];
  return {
    sx: scaleLinear(span(marks.map(({ x }) => x)), across).nice(),
    sy: scaleLinear(span(marks.map(({ y }) => y)), up).nice(),
  };
}

const titleOf = (measure: ComparedMeasure) =>
  `${nameOf(measure)}${measure.unit ? `, ${measure.unit}` : ''}${measure.better ? ` (${measure.better} is better)` : ''}`;

function Axes({ x, y, sx, sy }: AxesOf) {
  return (
    <>
      {sx.ticks(7).map((tick) => (
        <g key={`x${tick}`}>
          <line x1={sx(tick)} x2={sx(tick)} y1={MARGIN.top} y2={HEIGHT - MARGIN.bottom} className="grid" />
          <text x={sx(tick)} y={HEIGHT - MARGIN.bottom + 15} textAnchor="middle">
            {tick.toLocaleString('en')}
          </text>
        </g>
      ))}
      {sy.ticks(6).map((tick) => (
        <g key={`y${tick}`}>
          <line x1={MARGIN.left} x2={WIDTH - MARGIN.right} y1={sy(tick)} y2={sy(tick)} className="grid" />
          <text x={MARGIN.left - 6} y={sy(tick) + 3} textAnchor="end">
            {tick.toLocaleString('en')}
          </text>
        </g>
      ))}
      <text className="axis" x={WIDTH - MARGIN.right} y={HEIGHT - 8} textAnchor="end">
        {titleOf(x)}
      </text>
      <text className="axis" x={MARGIN.left} y={11}>
        {titleOf(y)}
      </text>
    </>
  );
}

function OptionDot({
  mark,
  label,
  must,
  axes: { x, y, sx, sy },
}: {
  mark: OptionMark;
  label: string | undefined;
  must: boolean;
  axes: AxesOf;
}) {
  const { id, option, name, x: a, y: b, fails } = mark;
  const isShown = useView((view) => view.optionId === id);
  const isOut = must && fails;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={isShown}
      aria-label={`${name}: ${readFigure(x, a)} ${x.unit}, ${readFigure(y, b)} ${y.unit}${fails ? ', fails a criterion' : ''}`}
      className="mark"
      onClick={() => setView({ optionId: option.id })}
      onKeyDown={(event) => event.key === 'Enter' && setView({ optionId: option.id })}
    >
      <circle
        cx={sx(a)}
        cy={sy(b)}
        r={11}
        fill={isOut ? 'var(--rule)' : OPTION_HUES[option.hue]}
        stroke={isShown ? 'var(--ink)' : 'none'}
        strokeWidth={2}
      />
      <text x={sx(a)} y={sy(b) + 4} textAnchor="middle" className="letter">
        {option.letter}
      </text>
      {label && (
        <text x={sx(a) + 16} y={sy(b) + 4}>
          {label}
        </text>
      )}
    </g>
  );
}

/** Marks nearer to one another than this share a label, in the units of the chart. */
const SHARED = 8;

/** What is written beside each mark: the names of all that lie on it beside the first of them. */
function labelsOf(
  marks: readonly { id: string; short: string; px: number; py: number }[],
): Map<string, string> {
  const labels = new Map<string, string>();
  const firsts: (typeof marks)[number][] = [];
  for (const mark of marks) {
    const on = firsts.find(({ px, py }) => Math.hypot(px - mark.px, py - mark.py) < SHARED);
    if (on) labels.set(on.id, `${labels.get(on.id)!}, ${mark.short}`);
    else {
      firsts.push(mark);
      labels.set(mark.id, mark.short);
    }
  }
  return labels;
}

/** A massing that was tried, as a mark. */
interface TriedMark {
  id: string;
  at: number;
  x: number;
  y: number;
  fails: boolean;
}

/** The massings of the sweep at hand that have both figures. */
function useTried(
  isSweep: boolean,
  x: ComparedMeasure | undefined,
  y: ComparedMeasure | undefined,
): TriedMark[] {
  const shown = useView((view) => view.optionId);
  const run = useMassing((state) => (state.optionId === shown ? state.run : null));
  if (!isSweep || !run || !x || !y) return [];
  return run.found.flatMap((one, at) => {
    const [a, b] = [one?.figures?.[x.key], one?.figures?.[y.key]];
    if (!a || !b) return [];
    const fails = Object.values(one!.figures!).some(({ passes }) => passes === false);
    return [{ id: `tried ${at}`, at, x: a.value, y: b.value, fails }];
  });
}

function Tried({
  tried,
  sx,
  sy,
  must,
  x,
  y,
}: {
  tried: readonly TriedMark[];
  sx: (value: number) => number;
  sy: (value: number) => number;
  must: boolean;
  x: ComparedMeasure;
  y: ComparedMeasure;
}) {
  const chosen = useMassing((state) => state.chosen);
  return (
    <g data-testid="tried">
      {tried.map(({ id, at, x: a, y: b, fails }) => (
        <circle
          key={id}
          cx={sx(a)}
          cy={sy(b)}
          r={at === chosen ? 7 : 4.5}
          className={at === chosen ? 'dot now' : 'dot'}
          opacity={must && fails ? 0.25 : 1}
          role="button"
          tabIndex={0}
          aria-pressed={at === chosen}
          aria-label={`Massing ${at + 1}: ${readFigure(x, a)} ${x.unit}, ${readFigure(y, b)} ${y.unit}`}
          onClick={() => useMassing.setState({ chosen: at })}
          onKeyDown={(event) => event.key === 'Enter' && useMassing.setState({ chosen: at })}
        />
      ))}
    </g>
  );
}
