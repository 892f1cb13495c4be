import { change, shownMeasure, type Study, type StudyResult } from '@dial-shade/core';
import { Lock, LockOpen } from 'lucide-react';
import { memo, type PointerEvent, type ReactNode, useMemo, useRef } from 'react';
import type { ResultStyle } from '../board/result-cells';
import { answerInWords, HISTOGRAM, histogramMarks, legendTitle, spanOf } from '../pictures/histogram';
import { MarksSvg } from '../pictures/marks-svg';
import { activeStudyOf } from '../state/active-study';
import { edit, endGesture, useDocument } from '../state/project-store';

const { width: WIDTH, bars: BARS, ramp: RAMP } = HISTOGRAM;

/** The legend as a histogram: how much area has how much, with the threshold to be dragged. */
export function ResultLegend({
  studyId,
  result,
  look,
}: {
  studyId: string | null;
  result: StudyResult;
  look: ResultStyle;
}) {
  const study = activeStudyOf(useDocument(), studyId);
  if (!study) return null;
  return (
    <div className="legend" data-testid="legend">
      <div className="title">
        <span title={shownMeasure(result).definition}>{legendTitle(result)}</span>
        {!Number.isNaN(look.atLeast) && <ScaleLock study={study} look={look} />}
      </div>
      <Answer study={study} result={result} look={look} />
      {Number.isNaN(look.atLeast) ? (
        <svg
          width={WIDTH}
          height={BARS + RAMP + 17}
          className="mt-1"
          role="img"
          aria-label="How much area has how much"
        >
          <Histogram result={result} look={look} />
        </svg>
      ) : (
        <Threshold study={study} look={look}>
          <Histogram result={result} look={look} />
        </Threshold>
      )}
    </div>
  );
}

/** Keeps the scale for all options, or lets it go. */
function ScaleLock({ study, look: { min, max } }: { study: Study; look: ResultStyle }) {
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
          change('studies', study.id, { scale: kept ? null : { min, max } }),
        )
      }
    >
      {kept ? <Lock size={13} /> : <LockOpen size={13} />}
    </button>
  );
}

/** How much of what is measured has at least what is asked for, and whether that is enough. */
function Answer({ study, result, look }: { study: Study; result: StudyResult; look: ResultStyle }) {
  const { share, percent, rest } = useMemo(() => answerInWords(result, look.atLeast), [result, look.atLeast]);
  const met = share >= study.criterion.share - 1e-9;
  return (
    <>
      <div className="answer" data-testid="answer">
        <strong>{percent}</strong> {rest}
      </div>
      <div className="visually-quiet">
        {!Number.isNaN(share) &&
          `asked: ${Number((study.criterion.share * 100).toFixed(1))} % – ${met ? 'met' : 'not met'}`}
        {look.outdated && ' · out of date'}
      </div>
    </>
  );
}

/** The picture of the legend as a slider: the threshold is dragged over it, or stepped with the arrow keys. */
function Threshold({ study, look, children }: { study: Study; look: ResultStyle; children: ReactNode }) {
  const dragging = useRef(false);
  const span = spanOf(look);
  const set = (name: string, atLeast: number, options = {}) =>
    edit(name, change('studies', study.id, { criterion: { ...study.criterion, atLeast } }), options);
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const raw = look.min + ((event.clientX - box.left) / box.width) * span;
    const step = span > 40 ? 10 : span > 8 ? 0.25 : 0.1;
    const atLeast = Math.max(0, Math.min(9000, Number((Math.round(raw / step) * step).toFixed(2))));
    set('drag the threshold', atLeast, { gestureKey: 'threshold' });
  };
  const endDrag = () => {
    dragging.current = false;
    endGesture();
  };
  const x = Math.max(0, Math.min(WIDTH, ((look.atLeast - look.min) / span) * WIDTH));
  return (
    <svg
      width={WIDTH}
      height={BARS + RAMP + 17}
      className="threshold mt-1"
      role="slider"
      tabIndex={0}
      aria-label="Threshold"
      aria-valuenow={look.atLeast}
      aria-valuemin={look.min}
      aria-valuemax={look.max}
      onKeyDown={(event) => {
        const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (!way) return;
        event.stopPropagation();
        event.preventDefault();
        const next = look.atLeast + way * (span > 40 ? 10 : 0.25);
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

const Histogram = memo(function Histogram({ result, look }: { result: StudyResult; look: ResultStyle }) {
  const marks = useMemo(() => histogramMarks(result, look, 'var(--ink-soft)'), [result, look]);
  return <MarksSvg marks={marks} />;
});
