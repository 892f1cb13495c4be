import type { Piece } from '@dial-shade/core';
import { Box3, type Ray, Vector3 } from 'three';

/** A triangle of a piece that a ray meets, and how far along it, metres. */
export interface PieceHit {
  triangle: number;
  distance: number;
}

/** Triangles from which a piece is asked by its tree; most have some dozens, and the code of trees is fetched when one has more. */
const MIN_FOR_TREE = 400;

/** Between two tries to fetch them. */
const RETRY_MS = 3000;

/** Asks pieces by their trees. */
interface ByTree {
  nearest: typeof nearestOf;
  nearestFront: typeof nearestFrontOf;
}

let trees: ByTree | null = null;
let fetching: Promise<void> | null = null;

/** Fetches what asks large pieces by their trees; until then they are asked triangle by triangle. */
export function fetchTrees(): Promise<void> {
  fetching ??= import('./piece-tree').then(
    ({ nearestInTree, nearestFrontInTree }) =>
      void (trees = { nearest: nearestInTree, nearestFront: nearestFrontInTree }),
    // The server may be away: who asks after a while tries again.
    () => void setTimeout(() => (fetching = null), RETRY_MS),
  );
  return fetching;
}

/** The nearest triangle of a piece along a ray, whichever side it shows, nearer than `within` metres; null where there is none. */
export function nearestOf(piece: Piece, ray: Ray, within: number): PieceHit | null {
  const tree = treeFor(piece);
  return tree ? tree.nearest(piece, ray, within) : nearest(piece, piece.surfaceOf.length, ray, within, false);
}

/** The same of what shows its outside, and of the first `count` triangles only. */
export function nearestFrontOf(piece: Piece, count: number, ray: Ray, within: number): PieceHit | null {
  const tree = treeFor(piece);
  return tree ? tree.nearestFront(piece, count, ray, within) : nearest(piece, count, ray, within, true);
}

function treeFor({ surfaceOf }: Piece): ByTree | null {
  if (surfaceOf.length < MIN_FOR_TREE) return null;
  if (!trees) void fetchTrees();
  return trees;
}

function nearest(piece: Piece, count: number, ray: Ray, within: number, isFront: boolean): PieceHit | null {
  let found: PieceHit | null = null;
  if (!ray.intersectsBox(boxOf(piece))) return found;
  for (let triangle = 0; triangle < count; triangle++) {
    const distance = reach(piece.positions, triangle, ray, isFront);
    if (distance !== null && distance < (found?.distance ?? within)) found = { triangle, distance };
  }
  return found;
}

const boxes = new WeakMap<Piece, Box3>();

/** The box of a piece, with a hair round it: flat ones are met too. */
function boxOf(piece: Piece): Box3 {
  let box = boxes.get(piece);
  if (!box) {
    box = new Box3().setFromArray(piece.positions as unknown as number[]).expandByScalar(1e-4);
    boxes.set(piece, box);
  }
  return box;
}

const [a, b, c, met] = [new Vector3(), new Vector3(), new Vector3(), new Vector3()];

/** How far along a ray a triangle is met, of either side or from its outside only; null where it is not. */
function reach(p: Float64Array, triangle: number, ray: Ray, isFront: boolean): number | null {
  a.fromArray(p, triangle * 9);
  b.fromArray(p, triangle * 9 + 3);
  c.fromArray(p, triangle * 9 + 6);
  return ray.intersectTriangle(a, b, c, isFront, met) && met.distanceTo(ray.origin);
}
