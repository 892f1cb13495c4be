import { dayArc, clockAt, IN_SUN, RAD, seasons } from '@dial-shade/core';
import { useMemo } from 'react';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { OTHER_OBSTRUCTION, OBSTRUCTION_COLOURS } from '../theme/palette';
import type { ProbeYear } from './use-probe-year';

const R = 100;

/** Place of a direction on the dial: the horizon is its rim, the zenith its middle, north at the top. */
function onDial(altitudeDeg: number, azimuthDeg: number): [number, number] {
  const r = R * (1 - altitudeDeg / 90);
  return [r * Math.sin(azimuthDeg * RAD), -r * Math.cos(azimuthDeg * RAD)];
}

/** The sky of a probe: what stands in it, in the colour of who takes its sun, and the paths of the sun. */
export function SunDial({ light }: { light: ProbeYear }) {
  const { site } = useDocument();
  const date = useView((view) => view.date);
  const { place, year } = site;
  const cells = useMemo(() => {
    const { azimuths, altitudes, state } = light.sky;
    const colours = new Map(
      light.obstructions.map((obstruction, i) => [
        obstruction.owner,
        OBSTRUCTION_COLOURS[i] ?? OTHER_OBSTRUCTION,
      ]),
    );
    const paths = new Map<string, string>();
    for (let a = 0; a < azimuths; a++) {
      for (let h = 0; h < altitudes; h++) {
        const owner = state[a * altitudes + h]!;
        if (owner === IN_SUN) continue;
        const colour = colours.get(owner) ?? '#b9b2a3';
        const [a0, a1] = [(a * 360) / azimuths, ((a + 1) * 360) / azimuths];
        const [h0, h1] = [(h * 90) / altitudes, ((h + 1) * 90) / altitudes];
        const corners = [onDial(h0, a0), onDial(h0, a1), onDial(h1, a1), onDial(h1, a0)];
        const path = `M${corners.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join('L')}Z`;
        paths.set(colour, (paths.get(colour) ?? '') + path);
      }
    }
    return [...paths];
  }, [light]);
  const arcs = useMemo(() => {
    const marks = seasons(year);
    const line = (day: string) =>
      dayArc(day, place, place.zone, 15)
        .map((sun) =>
          onDial(Math.max(0, sun.altitudeDeg), sun.azimuthDeg)
            .map((v) => v.toFixed(1))
            .join(','),
        )
        .join(' ');
    return {
      marks: (['june-solstice', 'march-equinox', 'december-solstice'] as const).map((mark) =>
        line(clockAt(marks[mark], place.zone).date),
      ),
      day: line(date),
    };
  }, [place, year, date]);
  return (
    <svg
      className="sun-dial"
      viewBox="-116 -116 232 232"
      role="img"
      aria-label="Sun dial: the sky of the probe with obstructions and sun paths"
    >
      <circle r={R} fill="var(--raised)" stroke="var(--ink-soft)" />
      {cells.map(([colour, path]) => (
        <path key={colour} d={path} fill={colour} stroke={colour} strokeWidth={0.5} fillOpacity={0.85} />
      ))}
      {[30, 60].map((altitude) => (
        <circle
          key={altitude}
          r={R * (1 - altitude / 90)}
          fill="none"
          stroke="var(--ink-soft)"
          strokeWidth={0.5}
          strokeDasharray="2 3"
        />
      ))}
      {arcs.marks.map((points, i) => (
        <polyline key={i} points={points} fill="none" stroke="#a8842f" strokeWidth={1} />
      ))}
      <polyline points={arcs.day} fill="none" stroke="var(--sun)" strokeWidth={2.4} />
      {(['N', 'E', 'S', 'W'] as const).map((letter, i) => {
        const [x, y] = onDial(-9, i * 90);
        return (
          <text
            key={letter}
            x={x}
            y={y + 4}
            textAnchor="middle"
            fontSize={11}
            fontWeight={letter === 'N' ? 700 : 400}
            fill="var(--ink)"
          >
            {letter}
          </text>
        );
      })}
    </svg>
  );
}
