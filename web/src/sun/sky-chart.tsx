import {
  analemma,
  clockAt,
  dayArc,
  IN_SUN,
  offsetAt,
  instantOf,
  onSkyChart,
  seasons,
  type SkyProjection,
  sunPosition,
} from '@dial-shade/core';
import { type PointerEvent, type ReactNode, type Ref, useMemo, useRef } from 'react';
import { useDocument } from '../state/project-store';
import { setView, useMoment, useView } from '../state/view-store';
import type { ProbeYear } from '../studies/use-probe-year';
import { DOME_RADIUS, domeCells } from '../climate/dome-cells';
import { OBSTRUCTION_COLOURS, OTHER_OBSTRUCTION, RAMPS } from '../theme/palette';

const R = 100;
/** Half the width of a chart of altitude over azimuth, and its height. */
const WIDE = 150;
const HIGH = 120;

type Place = [number, number];

/** Where directions lie on the chart, in its own units; y downwards. */
function placer(projection: SkyProjection, middleDeg: number) {
  const isFlat = projection === 'azimuth-altitude';
  return (altitudeDeg: number, azimuthDeg: number): Place => {
    const [x, y] = onSkyChart(projection, altitudeDeg, azimuthDeg, middleDeg);
    return isFlat ? [x * WIDE, -y * HIGH] : [x * R, -y * R];
  };
}

/** Runs of places as one path; broken where a chart of altitude over azimuth comes round. */
function pathOf(places: readonly Place[]): string {
  return places
    .map(([x, y], i) => {
      const isNew = i === 0 || Math.abs(x - places[i - 1]![0]) > WIDE;
      return `${isNew ? 'M' : 'L'}${x.toFixed(2)} ${y.toFixed(2)}`;
    })
    .join('');
}

/**
 * The sky of the place, flat: paths of the sun at the marks of the year and on the day, its hours through the year, the
 * sun at the moment, and what stands in the sky of a probe, by owner. Dragging moves the moment along the day.
 */
export function SkyChart({
  projection,
  light,
  patches = null,
  over,
  svg,
  label,
}: {
  projection: SkyProjection;
  light: ProbeYear | null;
  /** Of each of the 145 patches, what comes from it; drawn on a stereographic chart. */
  patches?: Float64Array | null;
  /** Drawn over the sky and under the paths, by where directions lie. */
  over?: (at: (altitudeDeg: number, azimuthDeg: number) => [number, number]) => ReactNode;
  svg?: Ref<SVGSVGElement>;
  label: string;
}) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const atMs = useMoment();
  const { place } = site;
  const isHeld = useRef(false);
  const isFlat = projection === 'azimuth-altitude';
  const middleDeg = place.latitudeDeg < 0 ? 0 : 180;
  const at = useMemo(() => placer(projection, middleDeg), [projection, middleDeg]);
  const fixed = useMemo(() => yearPaths(site, at), [site, at]);
  const day = useMemo(() => dayArc(date, place, place.zone, 5), [date, place]);
  const cells = useMemo(() => (light ? obstructionPaths(light, at) : []), [light, at]);
  const sun = useMemo(() => sunPosition(atMs, place), [atMs, place]);

  const follow = (event: PointerEvent<SVGSVGElement>) => {
    const matrix = event.currentTarget.getScreenCTM();
    if (!matrix || day.length === 0) return;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    const far = (stop: (typeof day)[number]) => {
      const [x, y] = at(Math.max(0, stop.altitudeDeg), stop.azimuthDeg);
      return Math.hypot(x - p.x, y - p.y);
    };
    const near = day.reduce((best, stop) => (far(stop) < far(best) ? stop : best));
    const clock = clockAt(near.atMs, place.zone);
    setView({ date: clock.date, minutes: Math.round(clock.minutes), play: null });
  };
  return (
    <svg
      ref={svg}
      className="sky-chart"
      viewBox={isFlat ? `${-WIDE - 16} ${-HIGH - 8} ${2 * WIDE + 32} ${HIGH + 30}` : '-116 -116 232 232'}
      role="img"
      aria-label={label}
      onPointerDown={(event) => {
        isHeld.current = true;
        event.currentTarget.setPointerCapture(event.pointerId);
        follow(event);
      }}
      onPointerMove={(event) => isHeld.current && follow(event)}
      onPointerUp={() => (isHeld.current = false)}
      onPointerCancel={() => (isHeld.current = false)}
    >
      <Vault isFlat={isFlat} />
      {patches && <Patches patches={patches} />}
      {cells.map(([colour, path]) => (
        <path
          key={colour}
          d={path}
          fill={colour}
          stroke={colour}
          strokeWidth={0.5}
          opacity={patches ? 0.62 : 0.85}
        />
      ))}
      {over?.(at)}
      <Grid at={at} isFlat={isFlat} />
      <SunPaths fixed={fixed} day={day} sun={sun} at={at} />
    </svg>
  );
}

/** The sky itself, empty. */
function Vault({ isFlat }: { isFlat: boolean }) {
  const drawn = { fill: 'var(--raised)', stroke: 'var(--ink-soft)' };
  if (!isFlat) return <circle r={R} {...drawn} />;
  return <rect x={-WIDE} y={-HIGH} width={2 * WIDE} height={HIGH} {...drawn} />;
}

/** The paths of the sun through the year and on the day, and the sun at the moment. */
function SunPaths({
  fixed,
  day,
  sun,
  at,
}: {
  fixed: ReturnType<typeof yearPaths>;
  day: ReturnType<typeof dayArc>;
  sun: ReturnType<typeof sunPosition>;
  at: (altitudeDeg: number, azimuthDeg: number) => Place;
}) {
  const [cx, cy] = at(sun.altitudeDeg, sun.azimuthDeg);
  return (
    <>
      {fixed.hours.map((path, i) => (
        <path key={i} d={path} fill="none" stroke="#a8842f" strokeWidth={0.5} strokeOpacity={0.7} />
      ))}
      {fixed.marks.map((path, i) => (
        <path key={i} d={path} fill="none" stroke="#a8842f" strokeWidth={1} />
      ))}
      <path
        d={pathOf(day.map((s) => at(Math.max(0, s.altitudeDeg), s.azimuthDeg)))}
        fill="none"
        stroke="var(--sun)"
        strokeWidth={2.4}
      />
      {sun.altitudeDeg > 0 && (
        <circle cx={cx} cy={cy} r={4.5} fill="var(--sun)" stroke="var(--ink)" strokeWidth={0.8} />
      )}
    </>
  );
}

/** The patches of the sky by how much comes from them, per steradian. */
function Patches({ patches }: { patches: Float64Array }) {
  const cells = domeCells(1);
  const density = cells.map(({ solidAngle }, p) => patches[p]! / solidAngle);
  const most = Math.max(...density, 1e-12);
  return (
    <g transform={`scale(${R / DOME_RADIUS})`}>
      {cells.map(({ path }, p) => (
        <path
          key={p}
          d={path}
          fill={RAMPS.heat(0.25 + 0.75 * Math.sqrt(density[p]! / most))}
          fillOpacity={density[p]! > 0 ? 1 : 0}
          stroke="var(--sheet)"
          strokeWidth={0.3}
        />
      ))}
    </g>
  );
}

/** Circles or lines of equal altitude, and the names of bearings. */
function Grid({ at, isFlat }: { at: (altitudeDeg: number, azimuthDeg: number) => Place; isFlat: boolean }) {
  const ring = (altitude: number) =>
    pathOf(Array.from({ length: 73 }, (_, i) => at(altitude, isFlat ? i * 4.9999 + 0.001 : i * 5)));
  return (
    <>
      {[30, 60].map((altitude) => (
        <path
          key={altitude}
          d={ring(altitude)}
          fill="none"
          stroke="var(--ink-soft)"
          strokeWidth={0.5}
          strokeDasharray="2 3"
        />
      ))}
      {(['N', 'E', 'S', 'W'] as const).map((letter, i) => {
        const [x, y] = at(0, i * 90);
        return (
          <text
            key={letter}
            x={isFlat ? x : x * 1.09}
            y={isFlat ? 14 : y * 1.09 + 4}
            textAnchor="middle"
            fontSize={11}
            fontWeight={letter === 'N' ? 700 : 400}
            fill="var(--ink)"
          >
            {letter}
          </text>
        );
      })}
    </>
  );
}

/** Paths of the sun that hold for the year: at its marks, and at each hour of standard time. */
function yearPaths(
  { place, year }: ReturnType<typeof useDocument>['site'],
  at: (altitudeDeg: number, azimuthDeg: number) => Place,
): { marks: string[]; hours: string[] } {
  const marks = seasons(year);
  const january = instantOf(`${year}-01-01`, 720, place.zone);
  const standard = Math.min(offsetAt(january, place.zone), offsetAt(january + 182 * 86_400_000, place.zone));
  const shift = offsetAt(january, place.zone) - standard;
  return {
    marks: (['june-solstice', 'march-equinox', 'december-solstice'] as const).map((mark) =>
      pathOf(
        dayArc(clockAt(marks[mark], place.zone).date, place, place.zone, 15).map((sun) =>
          at(Math.max(0, sun.altitudeDeg), sun.azimuthDeg),
        ),
      ),
    ),
    hours: Array.from({ length: 24 }, (_, hour) =>
      pathOf(
        analemma(hour * 60 + shift, year, place, place.zone)
          .filter(({ altitudeDeg }) => altitudeDeg >= 0)
          .map((sun) => at(sun.altitudeDeg, sun.azimuthDeg)),
      ),
    ).filter(Boolean),
  };
}

/** What stands in the sky of a point, as one path for each colour of owner. */
function obstructionPaths(
  { sky, obstructions }: ProbeYear,
  at: (altitudeDeg: number, azimuthDeg: number) => Place,
): [string, string][] {
  const { azimuths, altitudes, state } = sky;
  const colours = new Map(
    obstructions.map(({ owner }, i) => [owner, OBSTRUCTION_COLOURS[i] ?? OTHER_OBSTRUCTION]),
  );
  const paths = new Map<string, string>();
  for (let a = 0; a < azimuths; a++)
    for (let h = 0; h < altitudes; h++) {
      const owner = state[a * altitudes + h]!;
      if (owner === IN_SUN) continue;
      const colour = colours.get(owner) ?? '#b9b2a3';
      // A hair less than the whole way, so that the last column does not come round.
      const [a0, a1] = [(a * 360) / azimuths, ((a + 1) * 360) / azimuths - 1e-6];
      const [h0, h1] = [(h * 90) / altitudes, ((h + 1) * 90) / altitudes];
      const corners = [at(h0, a0), at(h0, a1), at(h1, a1), at(h1, a0)];
      const path = `M${corners.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join('L')}Z`;
      paths.set(colour, (paths.get(colour) ?? '') + path);
    }
  return [...paths];
}
