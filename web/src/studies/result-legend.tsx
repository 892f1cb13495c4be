import { change, shareAtLeast, type Study, type SunHoursResult } from '@dial-shade/core';
import { Lock, LockOpen } from 'lucide-react';
import { memo, type PointerEvent, type ReactNode, useMemo, useRef } from 'react';
import type { ResultStyle } from '../board/result-cells';
import { useActiveStudy } from '../state/active-study';
import { edit, endGesture } from '../state/project-store';
import { sunRamp } from '../theme/palette';

const WIDTH = 212;
const BARS = 44;
const RAMP = 10;
const BINS = 24;
/** Steps of the ramp as it is drawn. */
const STEPS = 48;

/** The legend as a histogram: how much area has how many hours, with the threshold to be dragged. */
export function ResultLegend({ result, look }: { result: SunHoursResult; look: ResultStyle }) {
  const study = useActiveStudy();
  if (!study) return null;
  return (
    <div className="legend" data-testid="legend">
      <div className="title">
        <span>Direct sun, h</span>
        <ScaleLock study={study} look={look} />
      </div>
      <Answer study={study} result={result} look={look} />
      <Threshold study={study} look={look}>
        <Histogram result={result} look={look} />
      </Threshold>
    </div>
  );
}

/** Keeps the scale for all options, or lets it go. */
function ScaleLock({ study, look: { minH, maxH } }: { study: Study; look: ResultStyle }) {
  const kept = study.scale !== null;
  return (
    <button
      className="btn-bare"
      title={kept ? 'The scale is kept for all options; release it' : 'Keep this scale for all options'}
      aria-label={kept ? 'Release the scale' : 'Lock the scale'}
      aria-pressed={kept}
      onClick={() =>
        edit(
          kept ? 'release the scale' : 'lock the scale',
          change('studies', study.id, { scale: kept ? null : { minH, maxH } }),
        )
      }
    >
      {kept ? <Lock size={13} /> : <LockOpen size={13} />}
    </button>
  );
}

/** How much of what is measured has at least the hours asked for, and whether that is enough. */
function Answer({ study, result, look }: { study: Study; result: SunHoursResult; look: ResultStyle }) {
  const { grid, values, targets } = result;
  const { share } = useMemo(
    () => shareAtLeast(values.hours, grid.areas, look.atLeastH),
    [values, grid, look.atLeastH],
  );
  const where = targets.length === 1 ? `“${targets[0]!.name}”` : `${targets.length} targets`;
  const partly = values.hours.some(Number.isNaN);
  const met = share >= study.criterion.share - 1e-9;
  return (
    <>
      <div className="answer" data-testid="answer">
        <strong>{(share * 100).toFixed(share > 0.995 || share < 0.005 ? 1 : 0)} %</strong> of{' '}
        {partly && 'what is measured of '}
        {where} has at least {Number(look.atLeastH.toFixed(2))} h
      </div>
      <div className="visually-quiet">
        asked: {Number((study.criterion.share * 100).toFixed(1))} % – {met ? 'met' : 'not met'}
        {look.outdated && ' · out of date'}
      </div>
    </>
  );
}

const spanOf = ({ minH, maxH }: ResultStyle) => Math.max(1e-9, maxH - minH);

/** The picture of the legend as a slider: the threshold is dragged over it, or stepped with the arrow keys. */
function Threshold({ study, look, children }: { study: Study; look: ResultStyle; children: ReactNode }) {
  const dragging = useRef(false);
  const span = spanOf(look);
  const set = (name: string, atLeastH: number, options = {}) =>
    edit(name, change('studies', study.id, { criterion: { ...study.criterion, atLeastH } }), options);
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const raw = look.minH + ((event.clientX - box.left) / box.width) * span;
    const step = span > 40 ? 10 : span > 8 ? 0.25 : 0.1;
    const atLeastH = Math.max(0, Math.min(9000, Number((Math.round(raw / step) * step).toFixed(2))));
    set('drag the threshold', atLeastH, { gestureKey: 'threshold' });
  };
  const endDrag = () => {
    dragging.current = false;
    endGesture();
  };
  const x = Math.max(0, Math.min(WIDTH, ((look.atLeastH - look.minH) / span) * WIDTH));
  return (
    <svg
      width={WIDTH}
      height={BARS + RAMP + 17}
      className="threshold mt-1"
      role="slider"
      tabIndex={0}
      aria-label="Threshold in hours"
      aria-valuenow={look.atLeastH}
      aria-valuemin={look.minH}
      aria-valuemax={look.maxH}
      onKeyDown={(event) => {
        const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (!way) return;
        event.stopPropagation();
        event.preventDefault();
        const next = look.atLeastH + way * (span > 40 ? 10 : 0.25);
        set('change the threshold', Math.max(0, Number(next.toFixed(2))));
      }}
      onPointerDown={(event) => {
        dragging.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
        drag(event);
      }}
      onPointerMove={(event) => dragging.current && drag(event)}
      onPointerUp={endDrag}
      onPointerCancel={endDrag}
    >
      {children}
      <line x1={x} x2={x} y1={0} y2={BARS + RAMP + 3} stroke="var(--ink)" strokeWidth={1.6} />
      <path d={`M${x - 5},0 h10 l-5,7 z`} fill="var(--ink)" />
    </svg>
  );
}

/** How much area has each value, over the ramp and its figures. */
const Histogram = memo(function Histogram({ result, look }: { result: SunHoursResult; look: ResultStyle }) {
  const { grid, values } = result;
  const { minH } = look;
  const span = spanOf(look);
  const bins = useMemo(() => {
    const area = new Array<number>(BINS).fill(0);
    values.hours.forEach((h, i) => {
      if (Number.isNaN(h)) return;
      const bin = Math.max(0, Math.min(BINS - 1, Math.floor(((h - minH) / span) * BINS)));
      area[bin]! += grid.areas[i]!;
    });
    return area;
  }, [values, grid, minH, span]);
  const most = Math.max(...bins, 1e-9);
  return (
    <>
      {bins.map((area, i) => (
        <rect
          key={i}
          x={(i * WIDTH) / BINS + 0.5}
          width={WIDTH / BINS - 1}
          y={BARS - (area / most) * (BARS - 4)}
          height={(area / most) * (BARS - 4)}
          fill={sunRamp((i + 0.5) / BINS)}
          stroke="var(--ink-soft)"
          strokeWidth={0.4}
        >
          <title>{`${area.toFixed(1)} m²`}</title>
        </rect>
      ))}
      {Array.from({ length: STEPS }, (_, i) => (
        <rect
          key={i}
          x={(i * WIDTH) / STEPS}
          width={WIDTH / STEPS + 0.5}
          y={BARS + 2}
          height={RAMP}
          fill={sunRamp((i + 0.5) / STEPS)}
        />
      ))}
      {[0, 0.25, 0.5, 0.75, 1].map((t) => (
        <text
          key={t}
          x={t * WIDTH}
          y={BARS + RAMP + 14}
          fontSize={10}
          fill="var(--ink-soft)"
          textAnchor={t === 0 ? 'start' : t === 1 ? 'end' : 'middle'}
        >
          {(minH + t * span).toFixed(span > 40 ? 0 : 1)}
        </text>
      ))}
    </>
  );
});
