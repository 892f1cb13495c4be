import {
  type AltitudeTable,
  change,
  dayOfYear,
  daysInYear,
  formatClock,
  type WindowOfTime,
} from '@dial-shade/core';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useStage } from '../app/use-stage';
import { useActiveStudy } from '../state/active-study';
import { currentProject, edit, endGesture, useDocument } from '../state/project-store';
import { setMoment, setView, useView } from '../state/view-store';
import { type ProbeYear, useProbeYear } from '../studies/use-probe-year';
import { compute } from '../workers/compute';
import { Splitter } from '../app/splitter';
import {
  ALMANAC_HEIGHT,
  foldAlmanac,
  isAlmanacFolded,
  setAlmanacHeight,
  useLayout,
} from '../state/layout-store';
import { DayStrip } from './day-strip';
import { chartScale, MARGIN } from './chart-scale';
import { ClockPanel } from './clock-panel';
import { SkyCanvas } from './sky-canvas';
import { usePlay } from './use-play';
import { type Edges, edgesAt, WindowBox } from './window-box';
import { dateOfColumn, longDate } from './wording';
import { YearMarks } from './year-marks';

type Drag =
  | { kind: 'moment'; from: { date: string; minutes: number; px: number; py: number } }
  | { kind: 'window'; edges: Edges; anchor: { column: number; minutes: number }; start: WindowOfTime };

/** The sheet of days × hours: the clock, the window of time, the sun of the place. Folded it is a strip. */
export function Almanac() {
  const stage = useStage();
  const isFolded = useLayout((layout) => isAlmanacFolded(layout, stage));
  const height = useLayout((layout) => layout.almanacHeight);
  const probe = useProbeYear(stage === 'studies');
  const table = useAltitudes();
  usePlay();
  const Icon = isFolded ? ChevronUp : ChevronDown;
  return (
    <footer className={isFolded ? 'almanac folded' : 'almanac'} aria-label="Almanac">
      <Splitter
        label="Height of the almanac"
        className="upper"
        axis="y"
        value={isFolded ? ALMANAC_HEIGHT.folded : height}
        least={ALMANAC_HEIGHT.folded}
        most={ALMANAC_HEIGHT.most}
        move={(pixels) => setAlmanacHeight(stage, pixels)}
      />
      <ClockPanel folded={isFolded} />
      {isFolded ? <DayStrip table={table} /> : <AlmanacChart table={table} probe={probe} />}
      <button
        className="btn-bare fold-almanac"
        title={`${isFolded ? 'Open' : 'Fold'} the almanac (T)`}
        aria-label={isFolded ? 'Open the almanac' : 'Fold the almanac'}
        aria-expanded={!isFolded}
        onClick={() => foldAlmanac(stage, !isFolded)}
      >
        <Icon size={15} />
      </button>
    </footer>
  );
}

/** The sun's altitude through the year of the place, once the worker has it. */
function useAltitudes(): AltitudeTable | null {
  const { place, year } = useDocument().site;
  const [table, setTable] = useState<AltitudeTable | null>(null);
  useEffect(() => {
    let wanted = true;
    void compute()
      .altitudes(year, place, place.zone, 192)
      .then((found) => wanted && setTable(found));
    return () => {
      wanted = false;
    };
  }, [year, place]);
  return table;
}

/** The chart of days and hours, dragged to move the moment or to brush the window of a study. */
function AlmanacChart({ table, probe }: { table: AltitudeTable | null; probe: ProbeYear | null }) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const mode = useView((view) => view.almanacMode);
  const activeStudy = useActiveStudy();
  const chart = useRef<HTMLDivElement>(null);
  const drag = useRef<Drag | null>(null);
  const [size, setSize] = useState({ width: 800, height: 190 });
  const { year } = site;
  const study = useStage() === 'studies' ? activeStudy : undefined;
  const brushing = mode === 'window' && study !== undefined;

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width, height });
    });
    observer.observe(chart.current!);
    return () => observer.disconnect();
  }, []);

  const scale = useMemo(() => chartScale(size.width, size.height, daysInYear(year)), [size, year]);
  const x = scale.x(dayOfYear(date) + 0.5);
  const y = scale.y(minutes);

  const at = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { px: event.clientX - box.left, py: event.clientY - box.top };
  };

  const onDown = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    const { px, py } = at(event);
    if (brushing) {
      const edges = edgesAt(study.window, scale, px, py) ?? {};
      drag.current = {
        kind: 'window',
        edges,
        anchor: { column: scale.column(px), minutes: scale.minutes(py) },
        start: study.window,
      };
      return;
    }
    setView({ play: null });
    drag.current = { kind: 'moment', from: { date, minutes, px, py } };
    pointTo(px, py, false);
  };

  const pointTo = (px: number, py: number, along: boolean) => {
    const snapped = Math.round(scale.minutes(py) / 5) * 5;
    const next = { date: dateOfColumn(year, scale.column(px)), minutes: Math.min(1435, snapped) };
    if (along && drag.current?.kind === 'moment') {
      const { from } = drag.current;
      if (Math.abs(px - from.px) > Math.abs(py - from.py)) next.minutes = from.minutes;
      else next.date = from.date;
    }
    setMoment(next.date, next.minutes);
  };

  const onMove = (event: PointerEvent<SVGSVGElement>) => {
    const { px, py } = at(event);
    if (drag.current?.kind === 'moment') pointTo(px, py, event.shiftKey);
    else if (drag.current?.kind === 'window') brush(px, py, drag.current);
  };

  const brush = (px: number, py: number, { edges, anchor, start }: Extract<Drag, { kind: 'window' }>) => {
    const column = scale.column(px);
    const half = (m: number) => Math.round(m / 30) * 30;
    const here = half(scale.minutes(py) >= 1425 ? 1440 : scale.minutes(py));
    const next = { ...start };
    const order = (a: number, b: number) => (a <= b ? [a, b] : [b, a]) as [number, number];
    const free = Object.keys(edges).length === 0;
    const [c0, c1] = free
      ? order(anchor.column, column)
      : order(edges.left ? column : dayOfYear(start.from), edges.right ? column : dayOfYear(start.to));
    const [m0, m1] = free
      ? order(half(anchor.minutes), here)
      : order(edges.top ? here : start.startMinutes, edges.bottom ? here : start.endMinutes);
    if (free && Math.abs(px - scale.x(anchor.column)) < 4 && Math.abs(py - scale.y(anchor.minutes)) < 4)
      return;
    next.from = dateOfColumn(year, c0);
    next.to = dateOfColumn(year, c1);
    next.startMinutes = Math.min(1410, m0);
    next.endMinutes = Math.min(1440, Math.max(m1, next.startMinutes + 30));
    edit('brush the window of time', change('studies', study!.id, { window: next }), {
      gestureKey: `window-${study!.id}`,
    });
  };

  const onUp = () => {
    if (drag.current?.kind === 'window') {
      endGesture();
      const now = currentProject().studies.find((s) => s.id === study?.id);
      if (now) setView({ date: now.window.from.startsWith(String(year)) ? now.window.from : date });
    }
    drag.current = null;
  };

  return (
    <div className="chart" ref={chart}>
      <SkyCanvas scale={scale} table={table} probe={probe} />
      <svg
        tabIndex={0}
        role="application"
        aria-label={`Almanac. The moment is ${longDate(date)}, ${formatClock(minutes)}. Arrow keys move it.`}
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={onUp}
        data-testid="almanac-chart"
      >
        <YearMarks scale={scale} site={site} />
        {study && study.window.from.startsWith(String(year)) && <WindowBox study={study} scale={scale} />}
        <g pointerEvents="none" data-testid="crosshair">
          <line
            x1={x}
            x2={x}
            y1={MARGIN.top}
            y2={scale.height - MARGIN.bottom}
            stroke="#b06a00"
            strokeWidth={1.2}
          />
          <line
            x1={MARGIN.left}
            x2={scale.width - MARGIN.right}
            y1={y}
            y2={y}
            stroke="#b06a00"
            strokeWidth={1.2}
          />
          <circle cx={x} cy={y} r={6} fill="#f0a92a" stroke="#26241f" strokeWidth={1.4} />
        </g>
      </svg>
    </div>
  );
}
