import { addDays, clockAt, groundLevel, instantOf, type Option } from '@dial-shade/core';
import { line as lineOf, scaleLinear } from 'd3';
import { Scissors, SquareDashedBottom } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { sectionCamera } from '../board/pane-cameras';
import { focusedView, showCamera } from '../board/pane-registry';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useMoment, useView } from '../state/view-store';
import { lightParts } from '../studies/use-probe-year';
import type { GlassRow } from '../workers/glass-work';
import { measureDay, measureGlass, useGlass } from './glass-store';
import { OverSet } from './over-set';
import { windowNames } from './window-names';

/** Minutes between the moments of the day that a window is followed through. */
const STEP = 20;

/** How much of the glass is in sun now, with the devices and without; and one window through the day. */
export function GlassSection({ option }: { option: Option }) {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const atMs = useMoment();
  const date = useView((view) => view.date);
  const { now, chosen, day, refused } = useGlass();
  const { place } = project.site;
  const parts = lightParts(project);
  useEffect(() => {
    void measureGlass(option.id, atMs);
    // oxlint-disable-next-line react/exhaustive-deps
  }, [option.id, atMs, meshes, ...parts]);
  // A window that is clicked on the board is looked at.
  const picked = useView(({ selection, opening }) =>
    selection?.optionId === option.id && opening !== null ? `${selection.id}/${opening}` : null,
  );
  useEffect(() => {
    if (picked !== null) useGlass.setState({ chosen: picked });
  }, [picked]);
  // At first the first window that the sun reaches, so that there is something to see.
  const one =
    now.find(({ key }) => key === chosen) ?? now.find(({ areaM2, bareM2 }) => bareM2 > areaM2 / 2) ?? now[0];
  const shown = one?.key ?? null;
  useEffect(() => {
    useGlass.setState({ chosen: shown });
    if (shown === null) return;
    const start = instantOf(date, 0, place.zone);
    const end = instantOf(addDays(date, 1), 0, place.zone);
    const moments = [];
    for (let at = start; at < end; at += STEP * 60_000)
      moments.push({ atMs: at, minutes: clockAt(at, place.zone).minutes });
    void measureDay({ optionId: option.id, opening: shown, moments });
    // oxlint-disable-next-line react/exhaustive-deps
  }, [option.id, shown, date, meshes, ...parts]);
  if (refused) return <p className="visually-quiet">{refused}</p>;
  return (
    <Section title="Glass in sun" name="glass">
      {now.length === 0 ? (
        <p className="visually-quiet m-0">
          This option has no glazed openings yet; they are made on the Openings stage.
        </p>
      ) : (
        <>
          <Shares rows={now} />
          <ChoiceField
            label="Window"
            wide
            value={shown ?? ''}
            choices={Array.from(windowNames(now), ([value, name]) => ({ value, name }))}
            commit={(key) => useGlass.setState({ chosen: key })}
          />
          {one && (
            <p className="mb-1" data-testid="window-said">
              <strong>{percent(one.sunlitM2, one.areaM2)}</strong> of its {one.areaM2.toFixed(1)} m² in sun;{' '}
              {percent(one.bareM2, one.areaM2)} without devices.
            </p>
          )}
          {one && (
            <div className="d-flex gap-1 flex-wrap mb-1">
              <button className="btn btn-sm btn-quiet" onClick={() => lookAt(one)}>
                Look at it
              </button>
              <button
                className="btn btn-sm btn-quiet"
                title="Cuts square to the wall through the middle of the window"
                onClick={() => cutThrough(one)}
              >
                <Scissors size={13} /> Section
              </button>
              <button
                className="btn btn-sm btn-quiet"
                title="Cuts level half way up the window"
                onClick={() => planOf(one, groundLevel(project.site.ground, [one.at[0], one.at[1]]))}
              >
                <SquareDashedBottom size={13} /> Plan
              </button>
            </div>
          )}
          {one && <OverSet option={option} opening={one.key} />}
          {day.length > 1 && <WindowDay day={day} />}
        </>
      )}
    </Section>
  );
}

/** How far about a window the view shows, metres. */
const ABOUT_M = 2.2;

function lookAt({ at, normal }: GlassRow): void {
  const about = [-1, 0, 1].flatMap((side) =>
    [-1, 1].map((up) => [at[0] - normal[1] * side * ABOUT_M, at[1] + normal[0] * side * ABOUT_M, at[2] + up]),
  );
  focusedView()?.lookAtPlaces(
    Float64Array.from(about.flat()),
    Float64Array.from(about.flatMap(() => normal)),
  );
}

/** How far before and behind the wall a section through a window goes, and how much of it is seen, metres. */
const BEFORE_M = 3;
const BEHIND_M = 5;
const SEEN_M = 5;

/** A section square to the wall through the middle of a window; along it where it lies level. */
function cutThrough({ at: [x, y, z], normal: [nx, ny] }: GlassRow): void {
  const view = focusedView();
  if (!view) return;
  const level = Math.hypot(nx, ny);
  const [ux, uy] = level > 1e-6 ? [nx / level, ny / level] : [1, 0];
  const camera = sectionCamera(
    [x + ux * BEFORE_M, y + uy * BEFORE_M],
    [x - ux * BEHIND_M, y - uy * BEHIND_M],
    view.focusBox,
  );
  showCamera({ ...camera, alongM: BEFORE_M + 0.5, levelM: z, heightM: SEEN_M });
}

/** A plan cut level half way up a window. */
function planOf({ at: [x, y, z] }: GlassRow, groundM: number): void {
  const aboveM = Math.max(0.1, z - groundM);
  showCamera({
    kind: 'level',
    floorM: z - aboveM,
    aboveM,
    centre: [x, y],
    heightM: SEEN_M + 1,
    northUp: false,
  });
}

const percent = (part: number, whole: number) => `${(whole > 0 ? (100 * part) / whole : 0).toFixed(0)} %`;

/** The glass by the way it faces. */
function Shares({ rows }: { rows: readonly GlassRow[] }) {
  const sectors = useMemo(() => {
    const found = new Map<string, { areaM2: number; sunlitM2: number; bareM2: number }>();
    for (const { sector, areaM2, sunlitM2, bareM2 } of rows) {
      const name = sector ?? 'roof';
      const sum = found.get(name) ?? { areaM2: 0, sunlitM2: 0, bareM2: 0 };
      found.set(name, {
        areaM2: sum.areaM2 + areaM2,
        sunlitM2: sum.sunlitM2 + sunlitM2,
        bareM2: sum.bareM2 + bareM2,
      });
    }
    return [...found];
  }, [rows]);
  return (
    <table className="figures" data-testid="glass-shares">
      <thead>
        <tr>
          <th>Glass facing</th>
          <th>m²</th>
          <th>In sun</th>
          <th>Without devices</th>
        </tr>
      </thead>
      <tbody>
        {sectors.map(([name, { areaM2, sunlitM2, bareM2 }]) => (
          <tr key={name}>
            <td>{name}</td>
            <td>{areaM2.toFixed(1)}</td>
            <td>{percent(sunlitM2, areaM2)}</td>
            <td>{percent(bareM2, areaM2)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const W = 260;
const H = 104;
const LEFT = 30;
const RIGHT = 8;
const TOP = 8;
const BOTTOM = 18;

/** Share of a window in sun through the day: with the devices, and without as a dashed line. */
function WindowDay({ day }: { day: readonly { minutes: number; share: number; bare: number }[] }) {
  const minutes = useView((view) => view.minutes);
  const lit = day.filter(({ bare }) => bare > 0);
  const from = Math.max(0, Math.floor(((lit[0]?.minutes ?? 360) - 30) / 60) * 60);
  const to = Math.min(1440, Math.ceil(((lit.at(-1)?.minutes ?? 1080) + 30) / 60) * 60);
  const x = scaleLinear([from, to], [LEFT, W - RIGHT]).clamp(true);
  const y = scaleLinear([0, 1], [H - BOTTOM, TOP]);
  const shown = day.filter((one) => one.minutes >= from && one.minutes <= to);
  const path = (key: 'share' | 'bare') =>
    lineOf<(typeof day)[number]>()
      .x((one) => x(one.minutes))
      .y((one) => y(one[key]))(shown) ?? '';
  const hours = Array.from({ length: 25 }, (_, h) => h * 60).filter(
    (m) => m >= from && m <= to && (m / 60) % (to - from > 600 ? 3 : 2) === 0,
  );
  return (
    <svg
      className="climate-chart"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label="Glass in sun through the day"
    >
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <line x1={LEFT} x2={W - RIGHT} y1={y(share)} y2={y(share)} stroke="var(--rule)" strokeWidth={0.5} />
          <text x={LEFT - 3} y={y(share) + 2.6} textAnchor="end" fontSize={7.5} fill="var(--ink-soft)">
            {share * 100} %
          </text>
        </g>
      ))}
      {hours.map((m) => (
        <text key={m} x={x(m)} y={H - 6} textAnchor="middle" fontSize={7.5} fill="var(--ink-soft)">
          {m / 60}:00
        </text>
      ))}
      <path
        d={`${path('share')}L${x(to)} ${y(0)}L${x(from)} ${y(0)}Z`}
        fill="var(--sun)"
        fillOpacity={0.35}
      />
      <path d={path('bare')} fill="none" stroke="var(--ink-soft)" strokeDasharray="3 2.5" strokeWidth={1} />
      <path d={path('share')} fill="none" stroke="var(--sun)" strokeWidth={1.8} />
      {minutes >= from && minutes <= to && (
        <line
          x1={x(minutes)}
          x2={x(minutes)}
          y1={TOP}
          y2={H - BOTTOM}
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
      )}
    </svg>
  );
}
