import './browser-stand-in';
import { kelpLane } from '@dial-shade/samples';
import { sunPosition } from '@dial-shade/core';
import { Group, type LineSegments } from 'three';
import { dashed, empty, polyline, segments } from '../src/board/overlay-lines';
import {
  dayPathLine,
  hourPathLine,
  northRing,
  seasonLines,
  standardMinutes,
  sunMark,
} from '../src/board/sun-path-lines';

const SQUARE = [
  [0, 0, 0],
  [4, 0, 0],
  [4, 4, 0],
  [0, 4, 0],
] as const;

function total(points: number[]): number {
  let sum = 0;
  for (let i = 0; i < points.length; i += 6)
    sum += Math.hypot(
      points[i + 3]! - points[i]!,
      points[i + 4]! - points[i + 1]!,
      points[i + 5]! - points[i + 2]!,
    );
  return sum;
}

test('a polyline is as long as its edges, open or closed', () => {
  expect(total(polyline(SQUARE))).toBeCloseTo(12, 12);
  expect(total(polyline(SQUARE, true))).toBeCloseTo(16, 12);
});

test('dashes cover a little over half of a line, begin and end with ink', () => {
  const dashes = dashed(SQUARE, 0.2, true);
  expect(total(dashes) / 16).toBeGreaterThan(0.5);
  expect(total(dashes) / 16).toBeLessThan(0.6);
  expect(dashes.slice(0, 3)).toEqual([0, 0, 0]);
});

test('an emptied group holds nothing', () => {
  const group = new Group();
  const inner = new Group();
  inner.add(segments([0, 0, 0, 1, 1, 1], '#000000'));
  group.add(inner, segments([0, 0, 0, 1, 0, 0], '#000000'));
  empty(group);
  expect(group.children).toHaveLength(0);
});

test('the letters of the ring stand at true bearings, turned with true north', () => {
  const project = kelpLane();
  const circle = { centre: [10, 5] as const, radius: 50 };
  const { labels } = northRing(project, circle, 'light');
  const bearing = (text: string) => {
    const [x, y] = labels.find((label) => label.text === text)!.at;
    return ((Math.atan2(x - 10, y - 5) * 180) / Math.PI + 360) % 360;
  };
  expect(bearing('N')).toBeCloseTo(14, 6);
  expect(bearing('E')).toBeCloseTo(104, 6);
  expect(bearing('S')).toBeCloseTo(194, 6);
  expect(bearing('W')).toBeCloseTo(284, 6);
});

test('the sun path lies on its dome, and the figure of eight goes through the sun', () => {
  const project = kelpLane();
  const circle = { centre: [0, 0] as const, radius: 100 };
  const sun = sunPosition(Date.UTC(2026, 5, 21, 14), project.site.place);
  const hour = standardMinutes('2026-06-21', 900, 2026, project.site.place.zone);
  const eight = hourPathLine(project, circle, hour, 'light')[0] as LineSegments;
  const [ball] = sunMark(project, circle, sun, 'light');
  const arcs = [
    ...seasonLines(project, circle, 'light'),
    ...dayPathLine(project, circle, '2026-06-21', 'light'),
    eight,
  ];
  expect(arcs).toHaveLength(5);
  const distances: number[] = [];
  for (const arc of arcs) {
    const position = (arc as LineSegments).geometry.getAttribute('position');
    for (let i = 0; i < position.count; i++)
      distances.push(Math.hypot(position.getX(i), position.getY(i), position.getZ(i) - 12));
  }
  expect(Math.min(...distances)).toBeGreaterThan(99.9);
  expect(Math.max(...distances)).toBeLessThan(100.1);
  const position = eight.geometry.getAttribute('position');
  const near = Math.min(
    ...Array.from({ length: position.count }, (_, i) =>
      Math.hypot(
        position.getX(i) - ball!.position.x,
        position.getY(i) - ball!.position.y,
        position.getZ(i) - ball!.position.z,
      ),
    ),
  );
  expect(near).toBeLessThan(1.5);
});

test('at night there is no sun on the path, in polar night no arc of the day', () => {
  const project = kelpLane();
  const circle = { centre: [0, 0] as const, radius: 100 };
  const dark = sunPosition(Date.UTC(2026, 5, 21, 0), project.site.place);
  expect(sunMark(project, circle, dark, 'dark')).toEqual([]);
  expect(dayPathLine(project, circle, '2026-12-21', 'dark')).toHaveLength(1);
  expect(seasonLines(project, circle, 'dark')).toHaveLength(3);
  project.site.place.latitudeDeg = 80;
  expect(dayPathLine(project, circle, '2026-12-21', 'dark')).toEqual([]);
  expect(seasonLines(project, circle, 'dark')).toHaveLength(2);
});
