import { change, shareAtLeast, type SunHoursResult } from '@dial-shade/core';
import { Lock, LockOpen } from 'lucide-react';
import { type PointerEvent, useMemo, useRef } from 'react';
import type { ResultStyle } from '../board/result-cells';
import { useActiveStudy } from '../state/active-study';
import { edit, endGesture } from '../state/project-store';
import { sunRamp } from '../theme/palette';

const WIDTH = 212;
const BARS = 44;
const RAMP = 10;
const BINS = 24;

/** The legend as a histogram: how much area has how many hours, with the threshold to be dragged. */
export function ResultLegend({ result, look }: { result: SunHoursResult; look: ResultStyle }) {
  const study = useActiveStudy();
  const dragging = useRef(false);
  const { grid, values, targets } = result;
  const span = Math.max(1e-9, look.maxH - look.minH);

  const bins = useMemo(() => {
    const area = new Array<number>(BINS).fill(0);
    values.hours.forEach((h, i) => {
      if (Number.isNaN(h)) return;
      const bin = Math.max(0, Math.min(BINS - 1, Math.floor(((h - look.minH) / span) * BINS)));
      area[bin]! += grid.areas[i]!;
    });
    return area;
  }, [values, grid, look.minH, span]);
  const most = Math.max(...bins, 1e-9);
  const { share } = useMemo(
    () => shareAtLeast(values.hours, grid.areas, look.atLeastH),
    [values, grid, look.atLeastH],
  );
  if (!study) return null;

  const x = (h: number) => Math.max(0, Math.min(WIDTH, ((h - look.minH) / span) * WIDTH));
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const raw = look.minH + ((event.clientX - box.left) / box.width) * span;
    const step = span > 40 ? 10 : span > 8 ? 0.25 : 0.1;
    const atLeastH = Math.max(0, Math.min(9000, Number((Math.round(raw / step) * step).toFixed(2))));
    edit('drag the threshold', change('studies', study.id, { criterion: { ...study.criterion, atLeastH } }), {
      gestureKey: 'threshold',
    });
  };
  const nudge = (by: number) =>
    edit(
      'change the threshold',
      change('studies', study.id, {
        criterion: { ...study.criterion, atLeastH: Math.max(0, Number((look.atLeastH + by).toFixed(2))) },
      }),
    );
  const where = targets.length === 1 ? `“${targets[0]!.name}”` : `${targets.length} targets`;
  const done = values.hours.filter((h) => !Number.isNaN(h)).length;
  const partly = done < values.hours.length;
  const digits = span > 40 ? 0 : 1;
  const met = share >= study.criterion.share - 1e-9;

  const endDrag = () => {
    dragging.current = false;
    endGesture();
  };
  return (
    <div className="legend" data-testid="legend">
      <div className="title">
        <span>Direct sun, h</span>
        <button
          className="btn-bare"
          title={
            study.scale ? 'The scale is kept for all options; release it' : 'Keep this scale for all options'
          }
          aria-label={study.scale ? 'Release the scale' : 'Lock the scale'}
          aria-pressed={study.scale !== null}
          onClick={() =>
            edit(
              study.scale ? 'release the scale' : 'lock the scale',
              change('studies', study.id, {
                scale: study.scale ? null : { minH: look.minH, maxH: look.maxH },
              }),
            )
          }
        >
          {study.scale ? <Lock size={13} /> : <LockOpen size={13} />}
        </button>
      </div>
      <div className="answer" data-testid="answer">
        <strong>{(share * 100).toFixed(share > 0.995 || share < 0.005 ? 1 : 0)} %</strong> of{' '}
        {partly && 'what is measured of '}
        {where} has at least {Number(look.atLeastH.toFixed(2))} h
      </div>
      <div className="visually-quiet">
        asked: {Number((study.criterion.share * 100).toFixed(1))} % – {met ? 'met' : 'not met'}
        {look.outdated && ' · out of date'}
      </div>
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
          const by = event.key === 'ArrowRight' ? 0.25 : event.key === 'ArrowLeft' ? -0.25 : 0;
          if (!by) return;
          event.stopPropagation();
          event.preventDefault();
          nudge(by * (span > 40 ? 40 : 1));
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
        {Array.from({ length: 48 }, (_, i) => (
          <rect
            key={i}
            x={(i * WIDTH) / 48}
            width={WIDTH / 48 + 0.5}
            y={BARS + 2}
            height={RAMP}
            fill={sunRamp((i + 0.5) / 48)}
          />
        ))}
        <line
          x1={x(look.atLeastH)}
          x2={x(look.atLeastH)}
          y1={0}
          y2={BARS + RAMP + 3}
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
        <path d={`M${x(look.atLeastH) - 5},0 h10 l-5,7 z`} fill="var(--ink)" />
        {[0, 0.25, 0.5, 0.75, 1].map((t) => (
          <text
            key={t}
            x={t * WIDTH}
            y={BARS + RAMP + 14}
            fontSize={10}
            fill="var(--ink-soft)"
            textAnchor={t === 0 ? 'start' : t === 1 ? 'end' : 'middle'}
          >
            {(look.minH + t * span).toFixed(digits)}
          </text>
        ))}
      </svg>
    </div>
  );
}
