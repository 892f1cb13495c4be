import { bounds, contains, type Point2, type Point3, type Ring } from '../geometry';
import type { Ground } from '../project';
import { groundLevel, groundNormal } from './ground';
import { terrainSurface } from './terrain';

/** A plane that is not upright: the level over a place, and its upward unit normal. */
export interface CleanPlane {
  levelAt(p: Point2): number;
  normal: Point3;
}

/** Places along the outline, and in a row of its box, at which the ground is looked at. */
const ALONG = 400;
const IN_A_ROW = 24;

/**
 * The plane that lies clean over the ground within an outline: the one nearest to it (least squares), raised until no
 * ground within the outline stands out of it. Of ground that is a plane, the ground itself.
 */
export function cleanPlane(ground: Ground, outline: Ring): CleanPlane {
  if (ground.kind !== 'terrain')
    return { levelAt: (p) => groundLevel(ground, p), normal: groundNormal(ground) };
  const spots = spotsWithin(ground, outline);
  const [x0, y0] = [0, 1].map((k) => spots.reduce((sum, p) => sum + p[k]!, 0) / spots.length) as [
    number,
    number,
  ];
  const z0 = spots.reduce((sum, p) => sum + p[2], 0) / spots.length;
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
  for (const [x, y, z] of spots) {
    xx += (x - x0) ** 2;
    xy += (x - x0) * (y - y0);
    yy += (y - y0) ** 2;
    xz += (x - x0) * (z - z0);
    yz += (y - y0) * (z - z0);
  }
  const det = xx * yy - xy * xy;
  const [a, b] = [(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det];
  // The ground is flat between its edges: it stands out the most at a spot height, a corner, or where an edge leaves.
  const raise = [...spots, ...leaving(ground, outline)].reduce(
    (most, [x, y, z]) => Math.max(most, z - z0 - a * (x - x0) - b * (y - y0)),
    -Infinity,
  );
  const length = Math.hypot(a, b, 1);
  return {
    levelAt: ([x, y]) => z0 + raise + a * (x - x0) + b * (y - y0),
    normal: [-a / length, -b / length, 1 / length],
  };
}

/** The spot heights within an outline, and the ground along it and on a grid within. */
function spotsWithin(ground: Extract<Ground, { kind: 'terrain' }>, outline: Ring): Point3[] {
  const { vertices } = terrainSurface(ground);
  const spots: Point3[] = [];
  for (let i = 0; i < vertices.length; i += 3)
    if (contains(outline, [vertices[i]!, vertices[i + 1]!]))
      spots.push([vertices[i]!, vertices[i + 1]!, vertices[i + 2]!]);
  const look = (p: Point2) => spots.push([p[0], p[1], groundLevel(ground, p)]);
  const around = outline.reduce((sum, p, i) => sum + distance(p, outline[(i + 1) % outline.length]!), 0);
  outline.forEach((p, i) => {
    const q = outline[(i + 1) % outline.length]!;
    const steps = Math.max(1, Math.ceil((ALONG * distance(p, q)) / around));
    for (let k = 0; k < steps; k++)
      look([p[0] + ((q[0] - p[0]) * k) / steps, p[1] + ((q[1] - p[1]) * k) / steps]);
  });
  const { minX, minY, maxX, maxY } = bounds(outline);
  const step = Math.max(maxX - minX, maxY - minY) / IN_A_ROW;
  for (let x = minX + step / 2; x < maxX; x += step)
    for (let y = minY + step / 2; y < maxY; y += step) if (contains(outline, [x, y])) look([x, y]);
  return spots;
}

/** Where edges of the triangulated ground cross the outline. */
function leaving(ground: Extract<Ground, { kind: 'terrain' }>, outline: Ring): Point3[] {
  const { vertices: v, triangles } = terrainSurface(ground);
  const found: Point3[] = [];
  for (let t = 0; t < triangles.length; t++) {
    // Each inner edge is met twice, once from either side; the outer ones once.
    const [i, j] = [triangles[t]! * 3, triangles[t % 3 === 2 ? t - 2 : t + 1]! * 3];
    const [ax, ay, dx, dy] = [v[i]!, v[i + 1]!, v[j]! - v[i]!, v[j + 1]! - v[i + 1]!];
    outline.forEach(([px, py], k) => {
      const [qx, qy] = outline[(k + 1) % outline.length]!;
      const [ex, ey] = [qx - px, qy - py];
      const cross = dx * ey - dy * ex;
      if (cross === 0) return;
      const along = ((px - ax) * ey - (py - ay) * ex) / cross;
      const across = ((px - ax) * dy - (py - ay) * dx) / cross;
      if (along < 0 || along > 1 || across < 0 || across > 1) return;
      found.push([ax + dx * along, ay + dy * along, v[i + 2]! + (v[j + 2]! - v[i + 2]!) * along]);
    });
  }
  return found;
}

const distance = (a: Point2, b: Point2) => Math.hypot(a[0] - b[0], a[1] - b[1]);
