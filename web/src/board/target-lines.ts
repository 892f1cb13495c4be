import {
  type Face,
  type Ground,
  groundLevel,
  innerPoint,
  onFace,
  type Site,
  type FlatTarget,
  targetSurface,
} from '@dial-shade/core';
import type { Object3D } from 'three';
import { SCENE } from '../theme/palette';
import { dashed, polyline, segments } from './overlay-lines';

const LIFT_M = 0.07;
/** Length of the tick that shows which side a plane target faces, metres. */
const TICK_M = 1.2;

/** The outline of a target; of one in a plane also a tick on the side that it faces. */
export function targetLines(target: FlatTarget, ground: Ground): number[] {
  const { outline, holes, at } = targetSurface(target, ground);
  const lines = [outline, ...holes].flatMap((ring) =>
    polyline(
      ring.map((p) => at(p, LIFT_M)),
      true,
    ),
  );
  if (target.kind !== 'plane') return lines;
  const middle = innerPoint({ outer: outline, holes });
  const tip = at(middle, TICK_M);
  const barb = (du: number, dv: number) => at([middle[0] + du, middle[1] + dv], TICK_M * 0.75);
  const head = [barb(0.15, 0), barb(-0.15, 0), barb(0, 0.15), barb(0, -0.15)];
  return [...lines, ...polyline([at(middle, LIFT_M), tip]), ...head.flatMap((p) => polyline([p, tip]))];
}

/** The outline of a face, a little before it. */
export function faceLines(face: Face): number[] {
  return [face.outline, ...face.holes].flatMap((ring) =>
    polyline(
      ring.map((p) => onFace(face, p, -0.03)),
      true,
    ),
  );
}

/** The boundary of the site, dashed. */
export function boundaryLines(
  { boundary, ground }: Pick<Site, 'boundary' | 'ground'>,
  theme: 'light' | 'dark',
): Object3D[] {
  if (!boundary) return [];
  const line = boundary.map(([x, y]) => [x, y, groundLevel(ground, [x, y]) + LIFT_M] as const);
  return [segments(dashed(line, 1.4, true), SCENE[theme].accent, 0.8)];
}
