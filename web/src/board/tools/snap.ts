import { type Point2, type Project, segmentDistance, TODAY } from '@dial-shade/core';
import { currentProject } from '../../state/project-store';
import { useView } from '../../state/view-store';
import { onGround, type ToolHost } from './host';

/** Grid that drawn points fall on, metres. */
export const GRID_M = 0.5;
/** How near, in pixels, the pointer must be to what it snaps to. */
const SNAP_PX = 11;

/** Corners and edges that drawing may snap to. */
export interface SnapTargets {
  corners: Point2[];
  edges: [Point2, Point2][];
}

/** A drawn point, why it lies where it does, and guides that show it. */
export interface Snapped {
  p: Point2;
  by: 'corner' | 'edge' | 'line' | 'right angle' | 'grid';
  guides: [Point2, Point2][];
}

/** What stands in an option and on the site, as corners and edges. */
export function snapTargets(project: Project, optionId: string, draft: readonly Point2[]): SnapTargets {
  const rings: (readonly Point2[])[] = [
    ...project.options
      .filter((option) => option.id === optionId || option.id === TODAY)
      .flatMap((option) => option.masses.flatMap(({ footprint }) => [footprint.outer, ...footprint.holes])),
    ...project.neighbours.flatMap((n) => (n.kind === 'building' ? [n.footprint.outer] : [])),
    ...project.targets.flatMap((t) => (t.kind === 'ground' ? [t.outline] : [])),
    ...project.areas.map((area) => area.outline),
    ...(project.site.boundary ? [project.site.boundary] : []),
  ];
  return {
    corners: [...rings.flat(), ...draft],
    edges: rings.flatMap((ring) => ring.map((p, i): [Point2, Point2] => [p, ring[(i + 1) % ring.length]!])),
  };
}

const grid = (v: number) => Math.round(v / GRID_M) * GRID_M;
const near = Math.tan((4 * Math.PI) / 180);

/**
 * Where a point that is meant at `raw` falls: on a corner; on an edge; in line with a corner, along x or y; square to
 * the edge drawn before; on the grid. `reachM` is how far it may be drawn, metres.
 */
export function snap(raw: Point2, targets: SnapTargets, draft: readonly Point2[], reachM: number): Snapped {
  const distance = (p: Point2) => Math.hypot(p[0] - raw[0], p[1] - raw[1]);
  const corner = nearestOf(targets.corners, distance, reachM);
  if (corner) return { p: [corner[0], corner[1]], by: 'corner', guides: [] };
  const edge = targets.edges
    .map((e) => ({ e, d: segmentDistance(raw, e[0], e[1]) }))
    .reduce<{ e: [Point2, Point2]; d: number } | null>(
      (best, x) => (x.d < (best?.d ?? reachM) ? x : best),
      null,
    );
  if (edge) return { p: footOn(raw, edge.e), by: 'edge', guides: [edge.e] };
  const last = draft.at(-1);
  const before = draft.at(-2);
  if (last && before) {
    const square = squareTo(before, last, raw);
    if (square) return { p: square, by: 'right angle', guides: [[last, square]] };
  }
  const p: [number, number] = [grid(raw[0]), grid(raw[1])];
  const guides: [Point2, Point2][] = [];
  for (const axis of [0, 1] as const) {
    const other = targets.corners
      .filter((c) => distance(c) < 60)
      .reduce<Point2 | null>(
        (best, c) =>
          Math.abs(c[axis] - raw[axis]) < Math.abs((best?.[axis] ?? Infinity) - raw[axis]) ? c : best,
        null,
      );
    if (other && Math.abs(other[axis] - raw[axis]) < reachM * 0.6) {
      p[axis] = other[axis];
      guides.push([other, p]);
    }
  }
  if (last) {
    const [dx, dy] = [raw[0] - last[0], raw[1] - last[1]];
    if (Math.abs(dy) < Math.abs(dx) * near) p[1] = last[1];
    else if (Math.abs(dx) < Math.abs(dy) * near) p[0] = last[0];
  }
  return { p, by: guides.length ? 'line' : 'grid', guides };
}

function nearestOf(
  points: readonly Point2[],
  distance: (p: Point2) => number,
  within: number,
): Point2 | null {
  let best: Point2 | null = null;
  let least = within;
  for (const p of points) {
    const d = distance(p);
    if (d < least) [best, least] = [p, d];
  }
  return best;
}

/** The point of an edge below p, in steps of the grid from where the edge begins. */
function footOn(p: Point2, [a, b]: [Point2, Point2]): Point2 {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const along = Math.min(length, Math.max(0, grid((p[0] - a[0]) * ux + (p[1] - a[1]) * uy)));
  return [a[0] + ux * along, a[1] + uy * along];
}

/** The point square to, or straight on from, the edge before, when the pointer nearly is; lengths in steps of the grid. */
function squareTo(before: Point2, last: Point2, raw: Point2): Point2 | null {
  const length = Math.hypot(last[0] - before[0], last[1] - before[1]);
  const along: Point2 = [(last[0] - before[0]) / length, (last[1] - before[1]) / length];
  if (Math.abs(along[0]) < 1e-9 || Math.abs(along[1]) < 1e-9) return null;
  const [rx, ry] = [raw[0] - last[0], raw[1] - last[1]];
  for (const [ux, uy] of [along, [-along[1], along[0]]] as const) {
    const forward = rx * ux + ry * uy;
    const aside = Math.abs(ux * ry - uy * rx);
    if (aside < Math.abs(forward) * near && Math.abs(forward) > GRID_M)
      return [last[0] + ux * grid(forward), last[1] + uy * grid(forward)];
  }
  return null;
}

/** The point that is meant at a place of the ground or a level, snapped to what is near on the screen. */
export function snappedAt(
  host: ToolHost,
  x: number,
  y: number,
  draft: readonly (readonly [number, number])[],
  levelM?: number,
): Snapped | null {
  const raw = onGround(host, x, y, levelM);
  if (!raw) return null;
  const beside = onGround(host, x + SNAP_PX, y, levelM) ?? raw;
  const reach = Math.min(4, Math.max(0.05, Math.hypot(beside[0] - raw[0], beside[1] - raw[1])));
  return snap(raw, snapTargets(currentProject(), useView.getState().optionId, draft), draft, reach);
}
