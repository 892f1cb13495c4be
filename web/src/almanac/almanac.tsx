import { type AltitudeTable, dayOfYear, daysInYear, formatClock } from '@dial-shade/core';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { useStage } from '../app/use-stage';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { type ShownYear, useProbeYear } from '../studies/use-probe-year';
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
import { HourSetOutlines } from './hour-set-outlines';
import { useWeatherTone } from './use-weather-tone';
import { ToneLegend } from './tone-legend';
import { type ChartScale, chartScale, MARGIN } from './chart-scale';
import { useShadeTone } from '../shading/use-shade-tone';
import { useWindowYear } from '../shading/use-window-year';
import { useSurfaceYear } from '../sun/use-surface-year';
import { ClockPanel } from './clock-panel';
import { SkyCanvas } from './sky-canvas';
import { useAlmanacDrag } from './use-almanac-drag';
import { usePlay } from './use-play';
import { WindowBox } from './window-box';
import { useWindowInHand } from './window-in-hand';
import { longDate } from './wording';
import { MomentMarks } from './moment-marks';
import { YearMarks } from './year-marks';

/** The sheet of days × hours: the clock, the window of time, the sun of the place. Folded it is a strip. */
export function Almanac() {
  const stage = useStage();
  const isFolded = useLayout((layout) => isAlmanacFolded(layout, stage));
  const height = useLayout((layout) => layout.almanacHeight);
  const ofProbe = useProbeYear(stage === 'studies');
  const ofSurface = useSurfaceYear(stage === 'sun');
  const ofWindow = useWindowYear(stage === 'shading');
  const probe = ofProbe ?? ofSurface ?? ofWindow;
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

/** The chart of days and hours, dragged to move the moment or to brush a window of time. */
function AlmanacChart({ table, probe }: { table: AltitudeTable | null; probe: ShownYear | null }) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const mode = useView((view) => view.almanacMode);
  const { year } = site;
  const hand = useWindowInHand();
  const [chart, size] = useSize();
  const scale = useMemo(() => chartScale(size.width, size.height, daysInYear(year)), [size, year]);
  const byWeather = useWeatherTone();
  const byShade = useShadeTone(useStage() === 'shading');
  const weather = byShade ?? byWeather;
  const handlers = useAlmanacDrag(scale, year, mode === 'window' ? hand : null);
  return (
    <div className="chart" ref={chart}>
      <SkyCanvas scale={scale} table={table} probe={probe} weather={weather} />
      {weather && !probe && <ToneLegend tone={weather} />}
      <svg
        tabIndex={0}
        role="application"
        aria-label={`Almanac. The moment is ${longDate(date)}, ${formatClock(minutes)}. Arrow keys move it.`}
        {...handlers}
        data-testid="almanac-chart"
      >
        <YearMarks scale={scale} site={site} />
        {hand?.window.from.startsWith(String(year)) && <WindowBox shown={hand} scale={scale} />}
        <HourSetOutlines scale={scale} all={byShade !== null} />
        <MomentMarks scale={scale} />
        <Crosshair scale={scale} date={date} minutes={minutes} />
      </svg>
    </div>
  );
}

/** The size of an element, followed. */
function useSize(): [RefObject<HTMLDivElement | null>, { width: number; height: number }] {
  const element = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 800, height: 190 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width, height });
    });
    observer.observe(element.current!);
    return () => observer.disconnect();
  }, []);
  return [element, size];
}

/** The moment, in the chart. */
function Crosshair({ scale, date, minutes }: { scale: ChartScale; date: string; minutes: number }) {
  const x = scale.x(dayOfYear(date) + 0.5);
  const y = scale.y(minutes);
  const line = { stroke: '#b06a00', strokeWidth: 1.2 };
  return (
    <g pointerEvents="none" data-testid="crosshair">
      <line x1={x} x2={x} y1={MARGIN.top} y2={scale.height - MARGIN.bottom} {...line} />
      <line x1={MARGIN.left} x2={scale.width - MARGIN.right} y1={y} y2={y} {...line} />
      <circle cx={x} cy={y} r={6} fill="#f0a92a" stroke="#26241f" strokeWidth={1.4} />
    </g>
  );
}
