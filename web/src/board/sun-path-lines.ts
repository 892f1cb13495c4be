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
import { Group } from 'three';
import { SCENE } from '../theme/palette';
import { ball, polyline, type Point3, segments } from './overlay-lines';
import type { Label } from './scene-view';

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
): { group: Group; labels: Label[] } {
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
  const group = new Group();
  const { ink, sun } = SCENE[theme];
  const soft = theme === 'light' ? ink : '#c9c4b8';
  group.add(
    segments(polyline(ring, true), soft, 0.55),
    segments(ticks, soft, 0.7),
    segments(arrow, sun, 1, 9),
  );
  const letters = ['N', 'E', 'S', 'W'] as const;
  const labels = letters.map((text, i) => {
    const [x, y, z] = i === 0 ? northMark(project, circle) : at(i * 90, circle.radius * 1.1);
    return { text, at: [x, y, z] as [number, number, number], className: i === 0 ? 'north' : 'bearing' };
  });
  return { group, labels };
}

/**
 * The sun's arcs over the site: the day at hand, the solstices and the March equinox, where the sun stands at this hour
 * of standard time through the year (the figure of eight), and the sun itself.
 */
export function sunPathLines(
  project: Project,
  circle: Circle,
  date: string,
  minutes: number,
  sun: SunPosition,
  theme: 'light' | 'dark',
): Group {
  const { place, ground, north, year } = project.site;
  const colours = SCENE[theme];
  const base = groundLevel(ground, [circle.centre[0], circle.centre[1]]);
  const at = (altitudeDeg: number, azimuthDeg: number): Point3 => {
    const [x, y, z] = sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg);
    return [
      circle.centre[0] + x * circle.radius,
      circle.centre[1] + y * circle.radius,
      base + z * circle.radius,
    ];
  };
  const arc = (day: string) =>
    dayArc(day, place, place.zone).map((s) => at(Math.max(0, s.altitudeDeg), s.azimuthDeg));
  const group = new Group();
  const marks = seasons(year);
  const soft = theme === 'light' ? '#8a7a55' : '#c8b98f';
  for (const mark of ['june-solstice', 'march-equinox', 'december-solstice'] as const) {
    const points = arc(clockAt(marks[mark], place.zone).date);
    if (points.length) group.add(segments(polyline(points), soft, 0.4));
  }
  const today = arc(date);
  if (today.length) group.add(segments(polyline(today), colours.sun, 1, 9));
  const eight = analemma(standardMinutes(date, minutes, year, place.zone), year, place, place.zone);
  const seen: number[] = [];
  for (let i = 1; i < eight.length; i++)
    if (eight[i]!.altitudeDeg > 0 && eight[i - 1]!.altitudeDeg > 0)
      for (const point of [eight[i - 1]!, eight[i]!]) seen.push(...at(point.altitudeDeg, point.azimuthDeg));
  if (seen.length) group.add(segments(seen, colours.sun, 0.55));
  if (sun.altitudeDeg > 0) {
    const place3 = at(sun.altitudeDeg, sun.azimuthDeg);
    group.add(ball(place3, circle.radius * 0.022, colours.sun));
    group.add(segments([...place3, circle.centre[0], circle.centre[1], base], colours.sun, 0.35));
  }
  return group;
}

/** Minutes of the clock of 1 January at which the same hour of standard time is shown. */
function standardMinutes(date: string, minutes: number, year: number, zone: string): number {
  const now = offsetAt(instantOf(date, minutes, zone), zone);
  const january = offsetAt(instantOf(`${year}-01-01`, 720, zone), zone);
  return minutes - (now - january);
}
