import { allBlocks, firstBlock, type Piece, TriangleTree } from '@dial-shade/core';
import type { Ray } from 'three';
import type { PieceHit } from './piece-rays';

/** Trees of pieces, built when a ray is first asked about: a piece that stays as it is keeps its own. */
const trees = new WeakMap<Piece, TriangleTree>();

function treeOf(piece: Piece): TriangleTree {
  let tree = trees.get(piece);
  if (!tree) trees.set(piece, (tree = TriangleTree.build(piece.positions)));
  return tree;
}

/** The nearest triangle of a piece along a ray, whichever side it shows, nearer than `within` metres; null where there is none. */
export function nearestInTree(piece: Piece, ray: Ray, within: number): PieceHit | null {
  const { origin: o, direction: d } = ray;
  const triangle = firstBlock(treeOf(piece), o.x, o.y, o.z, d.x, d.y, d.z, within);
  if (triangle < 0) return null;
  const at = triangle * 9;
  const p = piece.positions;
  const [x, y, z] = across(p, triangle);
  const away = x * (p[at]! - o.x) + y * (p[at + 1]! - o.y) + z * (p[at + 2]! - o.z);
  return { triangle, distance: away / (x * d.x + y * d.y + z * d.z) };
}

/** The same of what shows its outside, and of the first `count` triangles only. */
export function nearestFrontInTree(piece: Piece, count: number, ray: Ray, within: number): PieceHit | null {
  const { origin: o, direction: d } = ray;
  let nearest: PieceHit | null = null;
  allBlocks(treeOf(piece), o.x, o.y, o.z, d.x, d.y, d.z, (triangle, distance) => {
    if (triangle >= count || distance >= (nearest?.distance ?? within)) return;
    const [x, y, z] = across(piece.positions, triangle);
    if (x * d.x + y * d.y + z * d.z < 0) nearest = { triangle, distance };
  });
  return nearest;
}

/** Across a triangle, to its outside; as long as twice its area. */
function across(p: Float64Array, triangle: number): [number, number, number] {
  const at = triangle * 9;
  const edge = (corner: number, axis: number) => p[at + corner * 3 + axis]! - p[at + axis]!;
  const [ux, uy, uz] = [edge(1, 0), edge(1, 1), edge(1, 2)];
  const [vx, vy, vz] = [edge(2, 0), edge(2, 1), edge(2, 2)];
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
}
