import {
  analemma,
  dayArc,
  groundLevel,
  instantOf,
  offsetAt,
  type Project,
  RAD,
  seasons,
  clockAt,
  sunVector,
  type SunPosition,
} from '@dial-shade/core';
import type { Object3D } from 'three';
import { SCENE } from '../theme/palette';
import { ball, polyline, type Point3, segments } from './overlay-lines';
import type { Label } from './label-layer';

/** Where the ring and the sun path stand, and how large they are. */
export interface Circle {
  centre: readonly [number, number];
  radius: number;
}

/** A place on the ground at a true bearing from the middle of the ring. */
function onRing(project: Project, circle: Circle, bearingDeg: number, radius: number): Point3 {
  const { ground, north } = project.site;
  const b = (bearingDeg + north.trueNorthDeg) * RAD;
  const x = circle.centre[0] + radius * Math.sin(b);
  const y = circle.centre[1] + radius * Math.cos(b);
  return [x, y, groundLevel(ground, [x, y]) + 0.05];
}

/** Where the letter N of the north ring stands. */
export function northMark(project: Project, circle: Circle): Point3 {
  return onRing(project, circle, 0, circle.radius * 1.14);
}

/** The north ring on the ground: a circle with a tick every ten degrees of true bearing, and its four letters. */
export function northRing(
  project: Project,
  circle: Circle,
  theme: 'light' | 'dark',
): { lines: Object3D[]; labels: Label[] } {
  const at = (bearingDeg: number, radius: number) => onRing(project, circle, bearingDeg, radius);
  const ring = Array.from({ length: 180 }, (_, i) => at(i * 2, circle.radius));
  const ticks: number[] = [];
  for (let b = 0; b < 360; b += 10)
    ticks.push(
      ...at(b, circle.radius),
      ...at(b, circle.radius * (b % 90 === 0 ? 1.05 : b % 30 === 0 ? 1.03 : 1.015)),
    );
  const arrow = polyline([
    at(-1.6, circle.radius * 1.015),
    at(0, circle.radius * 1.09),
    at(1.6, circle.radius * 1.015),
  ]);
  const { ink, sun } = SCENE[theme];
  const soft = theme === 'light' ? ink : '#c9c4b8';
  const lines = [
    segments(polyline(ring, true), soft, 0.55),
    segments(ticks, soft, 0.7),
    segments(arrow, sun, 1, 9),
  ];
  const letters = ['N', 'E', 'S', 'W'] as const;
  const labels = letters.map((text, i) => {
    const [x, y, z] = i === 0 ? northMark(project, circle) : at(i * 90, circle.radius * 1.1);
    return { text, at: [x, y, z] as [number, number, number], className: i === 0 ? 'north' : 'bearing' };
  });
  return { lines, labels };
}

/** Distance of the lines of the ground grid, metres. */
const GRID_M = 10;

/** Lines on the ground every ten metres, along and across the drawing, round the middle of the ring. */
export function groundGrid(
  project: Project,
  { centre, radius }: Circle,
  theme: 'light' | 'dark',
): Object3D[] {
  const { ground } = project.site;
  const reach = Math.min(600, Math.ceil((radius * 1.3) / GRID_M) * GRID_M);
  const from = centre.map((v) => Math.round(v / GRID_M) * GRID_M) as [number, number];
  const at = (x: number, y: number): Point3 => [x, y, groundLevel(ground, [x, y]) + 0.04];
  const lines: number[] = [];
  for (let d = -reach; d <= reach; d += GRID_M)
    for (let s = -reach; s < reach; s += GRID_M) {
      const [x, y] = [from[0] + d, from[1] + d];
      lines.push(...at(x, from[1] + s), ...at(x, from[1] + s + GRID_M));
      lines.push(...at(from[0] + s, y), ...at(from[0] + s + GRID_M, y));
    }
  return [segments(lines, SCENE[theme].ink, 0.16, 3)];
}

/** Places on the dome of the sun path by altitude and azimuth. */
export function onDome({ site }: Project, { centre, radius }: Circle) {
  const base = groundLevel(site.ground, [centre[0], centre[1]]);
  return (altitudeDeg: number, azimuthDeg: number): Point3 => {
    const [x, y, z] = sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg);
    return [centre[0] + x * radius, centre[1] + y * radius, base + z * radius];
  };
}

function dayLine(project: Project, circle: Circle, day: string): Point3[] {
  const { place } = project.site;
  const at = onDome(project, circle);
  return dayArc(day, place, place.zone).map((s) => at(Math.max(0, s.altitudeDeg), s.azimuthDeg));
}

/** The sun's arcs at the solstices and the March equinox. */
export function seasonLines(project: Project, circle: Circle, theme: 'light' | 'dark'): Object3D[] {
  const { place, year } = project.site;
  const marks = seasons(year);
  const soft = theme === 'light' ? '#8a7a55' : '#c8b98f';
  return (['june-solstice', 'march-equinox', 'december-solstice'] as const).flatMap((mark) => {
    const points = dayLine(project, circle, clockAt(marks[mark], place.zone).date);
    return points.length ? [segments(polyline(points), soft, 0.4)] : [];
  });
}

/** The sun's arc of a day. */
export function dayPathLine(
  project: Project,
  circle: Circle,
  date: string,
  theme: 'light' | 'dark',
): Object3D[] {
  const today = dayLine(project, circle, date);
  return today.length ? [segments(polyline(today), SCENE[theme].sun, 1, 9)] : [];
}

/** Where the sun stands at one hour of standard time through the year: the figure of eight. */
export function hourPathLine(
  project: Project,
  circle: Circle,
  standardMinutes: number,
  theme: 'light' | 'dark',
): Object3D[] {
  const { place, year } = project.site;
  const at = onDome(project, circle);
  const eight = analemma(standardMinutes, year, place, place.zone);
  const seen: number[] = [];
  for (let i = 1; i < eight.length; i++)
    if (eight[i]!.altitudeDeg > 0 && eight[i - 1]!.altitudeDeg > 0)
      for (const point of [eight[i - 1]!, eight[i]!]) seen.push(...at(point.altitudeDeg, point.azimuthDeg));
  return seen.length ? [segments(seen, SCENE[theme].sun, 0.55)] : [];
}

/** The sun itself and its ray to the middle of the site; nothing at night. */
export function sunMark(
  project: Project,
  circle: Circle,
  sun: SunPosition,
  theme: 'light' | 'dark',
): Object3D[] {
  if (sun.altitudeDeg <= 0) return [];
  const [x, y] = circle.centre;
  const place = onDome(project, circle)(sun.altitudeDeg, sun.azimuthDeg);
  const { sun: colour } = SCENE[theme];
  return [
    ball(place, circle.radius * 0.019, colour),
    segments([...place, x, y, groundLevel(project.site.ground, [x, y])], colour, 0.35),
  ];
}

/** Minutes of the clock of 1 January at which the same hour of standard time is shown. */
export function standardMinutes(date: string, minutes: number, year: number, zone: string): number {
  const now = offsetAt(instantOf(date, minutes, zone), zone);
  const january = offsetAt(instantOf(`${year}-01-01`, 720, zone), zone);
  return minutes - (now - january);
}
