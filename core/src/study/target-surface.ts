import { areaWithHoles, cross, dot, type Point2, type Point3, type Ring } from '../geometry';
import type { Ground } from '../project';
import type { FlatTarget } from './flat-target';
import { type CleanPlane, cleanPlane, groundLevel, groundNormal } from '../site';

/** A target as a surface: an outline with holes in two coordinates, and where its points lie in space. */
export interface TargetSurface {
  outline: Ring;
  holes: readonly Ring[];
  /** A point of the surface in space, so far off it on the side that it faces. */
  at(p: Point2, offM?: number): Point3;
  /** Unit normal on the side that it faces. */
  normal(p: Point2): Point3;
  /** The point of the surface under a place in space, and how far off the place lies, metres. */
  under(at: Point3): { p: Point2; offM: number };
}

/** Where a target lies: on the ground or at a level (x and y), or in a plane of its own (u and v). */
export function targetSurface(target: FlatTarget, ground: Ground): TargetSurface {
  if (target.kind === 'plane') return planeSurface(target);
  const { levelM } = target;
  const clean = target.clean && levelM === undefined ? cleanOnce(target, ground) : null;
  const level = (p: Point2) => levelM ?? clean?.levelAt(p) ?? groundLevel(ground, p);
  const normal = (p: Point2): Point3 =>
    levelM !== undefined ? [0, 0, 1] : (clean?.normal ?? groundNormal(ground, p));
  return {
    outline: target.outline,
    holes: [],
    normal,
    at(p, offM = 0) {
      const n = normal(p);
      return [p[0] + n[0] * offM, p[1] + n[1] * offM, level(p) + n[2] * offM];
    },
    under: ([x, y, z]) => ({ p: [x, y], offM: z - level([x, y]) }),
  };
}

/** The clean plane of a target over the ground that it was asked for last. */
const planes = new WeakMap<FlatTarget, { ground: Ground; plane: CleanPlane }>();

function cleanOnce(target: FlatTarget, ground: Ground): CleanPlane {
  const known = planes.get(target);
  if (known?.ground === ground) return known.plane;
  const plane = cleanPlane(ground, target.outline);
  planes.set(target, { ground, plane });
  return plane;
}

function planeSurface({
  origin: o,
  u,
  v,
  outline,
  holes,
}: Extract<FlatTarget, { kind: 'plane' }>): TargetSurface {
  const n = cross(u, v);
  return {
    outline,
    holes,
    normal: () => n,
    at: ([a, b], offM = 0) => [
      o[0] + u[0] * a + v[0] * b + n[0] * offM,
      o[1] + u[1] * a + v[1] * b + n[1] * offM,
      o[2] + u[2] * a + v[2] * b + n[2] * offM,
    ],
    under(at) {
      const d: Point3 = [at[0] - o[0], at[1] - o[1], at[2] - o[2]];
      return { p: [dot(d, u), dot(d, v)], offM: dot(d, n) };
    },
  };
}

/** Area of a target as drawn, m²; of one on sloping ground, its area in plan. */
export function targetAreaM2(target: FlatTarget): number {
  return areaWithHoles({ outer: target.outline, holes: target.kind === 'plane' ? target.holes : [] });
}
