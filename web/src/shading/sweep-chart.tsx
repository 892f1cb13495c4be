import { type Candidate, frontOf } from '@dial-shade/core';
import { line as lineOf, type ScaleLinear, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { OBSTRUCTION_COLOURS } from '../theme/palette';

/** A candidate of a sweep that has been tried. */
export interface Tried extends Candidate {
  /** Its place among all. */
  at: number;
}

const W = 300;
const H = 210;
const LEFT = 34;
const BOTTOM = 30;
const TOP = 10;
const RIGHT = 10;

/** What of a candidate is let in, by the axis. */
export const letInBy = (one: Omit<Candidate, 'make'>, by: 'wanted' | 'sky') =>
  by === 'sky' ? one.sky : (one.letIn ?? 0);

/** The candidates that nothing beats, the one that keeps out least first. */
export function frontOfTried(tried: readonly Tried[], by: 'wanted' | 'sky'): Tried[] {
  const isFront = frontOf(tried, by);
  return tried.filter((_, i) => isFront[i]).sort((a, b) => a.keptOut - b.keptOut);
}

/**
 * Devices by the unwanted sun that they keep out and what they let in, with the front that nothing beats. A click hangs a
 * device; arrow keys walk along the front.
 */
export function SweepChart({
  tried,
  by,
  chosen,
  without,
  hang,
}: {
  tried: readonly Tried[];
  by: 'wanted' | 'sky';
  chosen: number | null;
  without: Omit<Candidate, 'make'> | null;
  hang: (one: Tried) => void;
}) {
  const front = useMemo(() => frontOfTried(tried, by), [tried, by]);
  const kinds = useMemo(() => [...new Set(tried.map(({ make }) => make.kind))], [tried]);
  const all = without ? [...tried, without] : tried;
  const low = Math.floor(Math.min(1, ...all.map(({ keptOut }) => keptOut)) * 10) / 10;
  const high = Math.ceil(Math.max(0.1, ...all.map((one) => letInBy(one, by))) * 10) / 10;
  const x = scaleLinear([Math.min(low, 0.9), 1], [LEFT, W - RIGHT]);
  const y = scaleLinear([0, high], [H - BOTTOM, TOP]);
  const placed = (one: Tried) => ({ cx: x(one.keptOut), cy: y(letInBy(one, by)) });
  const colourOf = ({ make }: Tried) => OBSTRUCTION_COLOURS[kinds.indexOf(make.kind)];
  const nearest = (px: number, py: number) => {
    let best: Tried | null = null;
    let least = 14;
    for (const one of tried) {
      const off = Math.hypot(x(one.keptOut) - px, y(letInBy(one, by)) - py);
      if (off < least) [best, least] = [one, off];
    }
    return best;
  };
  const walk = (step: number) => {
    const at = front.findIndex((one) => one.at === chosen);
    const next =
      at < 0 ? (step > 0 ? 0 : front.length - 1) : Math.max(0, Math.min(front.length - 1, at + step));
    if (front[next]) hang(front[next]);
  };
  const path = lineOf<Tried>()
    .x((one) => x(one.keptOut))
    .y((one) => y(letInBy(one, by)))(front);
  return (
    <svg
      className="climate-chart sweep-chart"
      viewBox={`0 0 ${W} ${H}`}
      role="application"
      tabIndex={0}
      aria-label={`${tried.length} devices by the unwanted sun that they keep out and the ${by === 'sky' ? 'sky light' : 'wanted sun'} that they let in. Arrow keys walk along the ${front.length} that nothing beats.`}
      data-testid="sweep-chart"
      onKeyDown={(event) => {
        const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        walk(step);
      }}
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const scale = W / box.width;
        const one = nearest((event.clientX - box.left) * scale, (event.clientY - box.top) * scale);
        if (one) hang(one);
      }}
    >
      <Axes x={x} y={y} by={by} />
      {tried.map((one) => (
        <circle key={one.at} {...placed(one)} r={1.7} fill={colourOf(one)} fillOpacity={0.5} />
      ))}
      {path && <path d={path} fill="none" stroke="var(--ink)" strokeWidth={1} />}
      {front.map((one) => (
        <circle
          key={one.at}
          {...placed(one)}
          r={2.4}
          fill={colourOf(one)}
          stroke="var(--ink)"
          strokeWidth={0.6}
        />
      ))}
      {without && <WithoutMark x={x(without.keptOut)} y={y(letInBy(without, by))} />}
      {tried
        .filter(({ at }) => at === chosen)
        .map((one) => (
          <circle key={one.at} {...placed(one)} r={4.6} fill="none" stroke="var(--sun)" strokeWidth={2.2} />
        ))}
    </svg>
  );
}

/** Where the window stands without the device. */
function WithoutMark({ x, y }: { x: number; y: number }) {
  return (
    <rect x={x - 2.6} y={y - 2.6} width={5.2} height={5.2} fill="none" stroke="var(--ink)" strokeWidth={1}>
      <title>Without the device</title>
    </rect>
  );
}

/** The lines and figures behind the dots. */
function Axes({
  x,
  y,
  by,
}: {
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
  by: 'wanted' | 'sky';
}) {
  return (
    <>
      {y.ticks(4).map((value) => (
        <g key={value}>
          <line x1={LEFT} x2={W - RIGHT} y1={y(value)} y2={y(value)} stroke="var(--rule)" strokeWidth={0.5} />
          <text x={LEFT - 4} y={y(value) + 2.8} textAnchor="end" fontSize={8} fill="var(--ink-soft)">
            {Math.round(value * 100)}
          </text>
        </g>
      ))}
      {x.ticks(5).map((value) => (
        <text
          key={value}
          x={x(value)}
          y={H - BOTTOM + 11}
          textAnchor="middle"
          fontSize={8}
          fill="var(--ink-soft)"
        >
          {Math.round(value * 100)}
        </text>
      ))}
      <text x={W - RIGHT} y={H - 7} textAnchor="end" fontSize={8.5} fill="var(--ink)">
        unwanted sun kept out, % →
      </text>
      <text x={LEFT} y={H - 7} fontSize={8.5} fill="var(--ink)">
        ↑ {by === 'sky' ? 'sky light' : 'wanted sun'} let in, %
      </text>
    </>
  );
}
