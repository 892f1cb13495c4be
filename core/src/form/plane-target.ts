import { areaWithHoles, type Ring } from '../geometry';
import type { PlaneTarget, Target } from '../project';
import type { Face } from './faces';
import { isMirror, type Motion, movePoint } from './transform';

/** Spacing of a grid that gives at most 2,500 points. */
export function defaultSpacing(areaM2: number): number {
  return [0.25, 0.5, 1, 2, 5, 10].find((s) => areaM2 / s / s <= 2500) ?? 20;
}

type Numbers = [number, number, number];

/** A flat face as a target that faces outwards, 1 cm off it. */
export function targetOfFace(face: Face, id: string, name: string, of: PlaneTarget['of']): PlaneTarget {
  const ring = (points: Ring) => points.map(([u, v]): [number, number] => [u, v]);
  const outline = ring(face.outline);
  const holes = face.holes.map(ring);
  return {
    id,
    name,
    kind: 'plane',
    origin: [...face.origin] as Numbers,
    u: [...face.u] as Numbers,
    v: [...face.v] as Numbers,
    outline,
    holes,
    spacingM: defaultSpacing(areaWithHoles({ outer: outline, holes })),
    offsetM: 0.01,
    of,
  };
}

/** The same plane facing the other side. */
export function flipTarget<T extends Target>(target: T): T {
  if (target.kind !== 'plane') return target;
  const turned = (points: Ring) => points.map(([u, v]): [number, number] => [-u, v]).reverse();
  const { u, outline, holes } = target;
  return { ...target, u: u.map((x) => -x) as Numbers, outline: turned(outline), holes: holes.map(turned) };
}

/** A plane target moved, turned or raised with what it was taken from. */
export function movePlane(target: PlaneTarget, motion: Motion, raiseM = 0): PlaneTarget {
  if (isMirror(motion)) return target;
  const { origin, u, v } = target;
  const turned = ([x, y, z]: Numbers): Numbers => [
    motion.a * x + motion.c * y,
    motion.b * x + motion.d * y,
    z,
  ];
  const [x, y] = movePoint(motion, [origin[0], origin[1]]);
  return { ...target, origin: [x, y, origin[2] + raiseM], u: turned(u), v: turned(v) };
}
