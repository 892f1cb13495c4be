import { type Point2, type Point3, triangleNormal } from '../geometry';
import type { FenceNeighbour, Ground, TreeNeighbour, WallNeighbour } from '../project';
import { groundLevel } from '../site';
import { box } from './mass-solid';
import { type Passing, type Piece, PieceBuilder } from './piece';

/** A free-standing wall: a box for each stretch of its line, its top following the ground. */
export function wallSolid(wall: WallNeighbour, ground: Ground): Piece {
  const builder = new PieceBuilder();
  eachStretch(wall.path, (p, q, along) => {
    const half = wall.thicknessM / 2;
    const aside: Point2 = [-along[1] * half, along[0] * half];
    const low = Math.min(groundLevel(ground, p), groundLevel(ground, q));
    box(builder, 'wall', (u, v, top) => {
      const end = u === 0 ? p : q;
      const side = v === 0 ? -1 : 1;
      const z = top ? groundLevel(ground, end) + wall.heightM : low;
      return [end[0] + aside[0] * side, end[1] + aside[1] * side, z];
    });
  });
  return builder.build();
}

/** A fence: a sheet for each stretch of its line that lets a share of the light pass. */
export function fenceSolid(fence: FenceNeighbour, ground: Ground): Piece {
  const builder = new PieceBuilder();
  const passing: Passing | null = fence.openness > 0 ? { through: 'fence', share: fence.openness } : null;
  eachStretch(fence.path, (p, q, along) => {
    const [a, b] = [p, q].map((x): Point3 => [x[0], x[1], groundLevel(ground, x)]) as [Point3, Point3];
    const up = (x: Point3): Point3 => [x[0], x[1], x[2] + fence.heightM];
    builder.surface('fence', [along[1], -along[0], 0], { passing });
    builder.quad(a, b, up(b), up(a));
  });
  return builder.build();
}

function eachStretch(path: readonly Point2[], put: (p: Point2, q: Point2, along: Point2) => void): void {
  for (let i = 1; i < path.length; i++) {
    const [p, q] = [path[i - 1]!, path[i]!];
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    put(p, q, [(q[0] - p[0]) / length, (q[1] - p[1]) / length]);
  }
}

const ROUND = 12;

/** Rings of a crown as shares of its height and half its width, from below. */
const PROFILES: Record<TreeNeighbour['crown'], [height: number, width: number][]> = {
  round: [
    [0, 0],
    [0.07, 0.5],
    [0.25, 0.87],
    [0.5, 1],
    [0.75, 0.87],
    [0.93, 0.5],
    [1, 0],
  ],
  cone: [
    [0, 0],
    [0.02, 1],
    [1, 0],
  ],
  column: [
    [0, 0],
    [0.05, 0.8],
    [0.15, 1],
    [0.85, 1],
    [0.95, 0.7],
    [1, 0],
  ],
};

/** A tree: a closed crown that lets a share of the light pass by the season, and a trunk that lets none. */
export function treeSolid(tree: TreeNeighbour, ground: Ground): Piece {
  const builder = new PieceBuilder();
  const foot = groundLevel(ground, tree.at);
  const clear = Math.min(tree.clearM, tree.heightM - 0.1);
  const crownM = tree.heightM - clear;
  const ring = (height: number, width: number): Point3[] =>
    Array.from({ length: ROUND }, (_, i) => {
      const a = (i / ROUND) * 2 * Math.PI;
      const r = (width * tree.crownM) / 2;
      return [tree.at[0] + r * Math.cos(a), tree.at[1] + r * Math.sin(a), foot + clear + height * crownM];
    });
  const passing: Passing = {
    through: 'leaves',
    leaf: tree.leafOpenness,
    bare: tree.bareOpenness,
    from: tree.leafFrom,
    until: tree.leafUntil,
  };
  builder.surface('crown', [0, 0, 1], { passing });
  const profile = PROFILES[tree.crown].map(([h, w]) => ring(h, w));
  for (let k = 1; k < profile.length; k++) {
    const [below, above] = [profile[k - 1]!, profile[k]!];
    for (let i = 0; i < ROUND; i++) {
      const j = (i + 1) % ROUND;
      if (k > 1) builder.triangle(below[i]!, below[j]!, above[k === profile.length - 1 ? 0 : j]!);
      if (k < profile.length - 1) builder.triangle(k === 1 ? below[0]! : below[i]!, above[j]!, above[i]!);
    }
  }
  trunk(builder, tree, foot, clear + crownM * 0.3);
  return builder.build();
}

function trunk(builder: PieceBuilder, tree: TreeNeighbour, foot: number, heightM: number): void {
  const r = Math.max(0.08, tree.heightM * 0.02);
  const sides = 6;
  const at = (i: number, top: boolean): Point3 => {
    const a = (i / sides) * 2 * Math.PI;
    return [tree.at[0] + r * Math.cos(a), tree.at[1] + r * Math.sin(a), foot + (top ? heightM : -0.3)];
  };
  for (let i = 0; i < sides; i++) {
    const k = (i + 1) % sides;
    builder.surface('trunk', triangleNormal(at(i, false), at(k, false), at(i, true)));
    builder.quad(at(i, false), at(k, false), at(k, true), at(i, true));
  }
  builder.surface('trunk', [0, 0, 1]);
  for (let i = 1; i < sides - 1; i++) builder.triangle(at(0, true), at(i, true), at(i + 1, true));
  builder.surface('trunk', [0, 0, -1]);
  for (let i = 1; i < sides - 1; i++) builder.triangle(at(0, false), at(i + 1, false), at(i, false));
}
