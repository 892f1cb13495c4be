import type { FlatTarget } from './flat-target';
import { type GlassPoints, partOfPoint, POINT_PARTS } from './glass-points';
import { angularG } from './kinds/angular-g';
import { type CellsSeen, GLASS_RAYS, type ReflectedLight } from './reflected-light';

/** How many rays panes send to what throws light back: fewer each where many are read together. */
export interface PaneRays {
  together: number;
  least: number;
  most: number;
}

/** Of each point where that many of each eighth of them would be too many. */
const FEW_RAYS = { rays: 4, inTurn: 256 };

/**
 * What throws light back onto panes: the first points of each eighth of their points, as many as it takes, and the cells
 * that these see, weighed as if they were all points of the pane.
 */
export function paneCells(
  { grid, targets }: Pick<GlassPoints, 'grid'> & { targets: readonly FlatTarget[] },
  light: ReflectedLight,
  { together, least, most }: PaneRays,
): (CellsSeen & { point: number })[] {
  const perPane = grid.count / targets.length;
  const wanted = Math.min(most, Math.max(least, together / targets.length));
  const { rays, inTurn } = wanted < GLASS_RAYS.rays * POINT_PARTS ? FEW_RAYS : GLASS_RAYS;
  const anEighth = perPane / POINT_PARTS;
  const own = Math.max(1, Math.min(anEighth, Math.round(wanted / rays / POINT_PARTS)));
  const points: number[] = [];
  const turns = new Map<number, number>();
  for (let s = 0; s < grid.count; s++) {
    const i = s % perPane;
    if (i - partOfPoint(i, perPane) * anEighth >= own) continue;
    turns.set(s, points.length);
    points.push(s);
  }
  const glassOf = (point: number) => targets[grid.target[point]!]!.glass!;
  const seen = light.seenFrom(grid, points, {
    rays,
    inTurn,
    turnOf: (point) => turns.get(point)!,
    passes: (point, cosine) => {
      const glass = glassOf(point);
      return glass.gValue * (1 - glass.frameShare) * angularG(cosine, glass);
    },
    also: (point) => JSON.stringify(glassOf(point)),
  });
  const scale = anEighth / own;
  return seen.map(({ cell, onto, inside }, i) => ({
    point: points[i]!,
    cell,
    onto: onto.map((weight) => weight * scale),
    inside: inside.map((weight) => weight * scale),
  }));
}
