import { contains, type Point2 } from '../src/geometry';

/** Points of a grid that lie within an outline. */
export function gridIn(outer: readonly Point2[], step: number): Point2[] {
  const xs = outer.map(([x]) => x);
  const ys = outer.map(([, y]) => y);
  const points: Point2[] = [];
  for (let x = Math.min(...xs) + 0.031; x < Math.max(...xs); x += step)
    for (let y = Math.min(...ys) + 0.037; y < Math.max(...ys); y += step)
      if (contains(outer, [x, y])) points.push([x, y]);
  return points;
}

/** Whether a point lies within 2 mm of the edge of a ring. */
export function nearEdge(ring: readonly Point2[], [x, y]: Point2): boolean {
  return ring.some((a, i) => {
    const b = ring[(i + 1) % ring.length]!;
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const t = Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)));
    return Math.hypot(a[0] + dx * t - x, a[1] + dy * t - y) < 0.002;
  });
}
