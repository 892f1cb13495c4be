import { bounds, containsWithHoles, type Point2 } from '../geometry';
import type { Ground } from '../project';
import type { Piece } from '../scene';
import type { FlatTarget } from './flat-target';
import { coverTest } from './inside-solid';
import { blankPoints, INSIDE, type SensorGrid } from './sensor-grid';
import { targetAreaM2, targetSurface } from './target-surface';

/** Parts that the points of a pane fall into, each of them spread over all of it: what they differ by tells the error. */
export const POINT_PARTS = 8;

/** How far before its pane a point of glass lies, metres, whatever the offset of the target: shade is that of the glass. */
export const GLASS_OFF_M = 0.001;

/** Points of panes, as sensors: each stands for the same share of its pane, covered or not. */
export interface GlassPoints {
  grid: SensorGrid;
  /** Of each point, which eighth of its pane's it is among. */
  part: Uint8Array;
}

/**
 * So many points on every pane in a low-discrepancy order (Sobol's first two dimensions, scrambled after Owen by a hash of
 * the pane): any strip, slat or corner of it holds its share of them, and no spacing is in step with theirs. Those that lie
 * inside the ground or a solid are flagged and keep their area: nothing reaches them.
 * @param perPane a multiple of 8
 */
export function glassPoints(
  panes: readonly FlatTarget[],
  ground: Ground,
  solids: readonly Piece[],
  perPane: number,
): GlassPoints {
  const count = panes.length * perPane;
  const isCovered = coverTest(ground, solids);
  const grid = blankPoints(count, panes.length);
  const part = new Uint8Array(count);
  panes.forEach((pane, t) => {
    const surface = targetSurface(pane, ground);
    const areaM2 = targetAreaM2(pane) / perPane;
    spreadPoints(pane, perPane).forEach((p, i) => {
      const s = t * perPane + i;
      const at = surface.at(p, GLASS_OFF_M);
      grid.positions.set(at, s * 3);
      grid.normals.set(surface.normal(p), s * 3);
      grid.areas[s] = areaM2;
      grid.target[s] = t;
      grid.cells[s * 2] = i;
      part[s] = partOfPoint(i, perPane);
      if (isCovered(at)) {
        grid.covered[s] = INSIDE;
        grid.insideM2[t]! += areaM2;
      }
    });
  });
  return { grid, part };
}

/** Which eighth a point is among, by its number in their order. */
export function partOfPoint(i: number, perPane: number): number {
  return Math.floor((i * POINT_PARTS) / perPane);
}

/** How many points panes have: fewer each where many are read together, never less than the least nor more than the most. */
export interface PointsWanted {
  together: number;
  least: number;
  most: number;
}

/** Points of each of so many panes: a power of two, but where least and most are one. */
export function pointsFor({ together, least, most }: PointsWanted, panes: number): number {
  if (least === most) return least;
  return 2 ** Math.round(Math.log2(Math.min(most, Math.max(least, together / Math.max(1, panes)))));
}

/** Tries for each point that is wanted: a pane that fills less of its box is a sliver. */
const MAX_TRIES = 64;

/** Points spread over an outline, in its own coordinates. */
export function spreadPoints(pane: FlatTarget, count: number): Point2[] {
  const { minX, minY, maxX, maxY } = bounds(pane.outline);
  const shape = { outer: pane.outline, holes: pane.kind === 'plane' ? pane.holes : [] };
  const seed = hashOf(pane.id);
  const found: Point2[] = [];
  for (let i = 0; found.length < count && i < count * MAX_TRIES; i++) {
    const [x, y] = scrambled(i, seed);
    const p: Point2 = [minX + x * (maxX - minX), minY + y * (maxY - minY)];
    if (containsWithHoles(shape, p)) found.push(p);
  }
  const [any] = found;
  while (found.length < count) found.push(any ?? pane.outline[0]!);
  return found;
}

/** The first two dimensions of Sobol's sequence, scrambled: two numbers from 0 up to 1. */
function scrambled(i: number, seed: number): Point2 {
  return [owen(reversed(i), seed) / 2 ** 32, owen(sobolSecond(i), mixed(seed)) / 2 ** 32];
}

/** Sobol's second dimension: its directions are the rows of Pascal's triangle modulo 2. */
function sobolSecond(i: number): number {
  let result = 0;
  for (let rest = i, v = 0x80000000; rest !== 0; rest >>>= 1, v = (v ^ (v >>> 1)) >>> 0)
    if (rest & 1) result ^= v;
  return result >>> 0;
}

/** Owen's nested scrambling by a hash (Burley, Practical hash-based Owen scrambling, JCGT 9 (2020); constants of Vegdahl). */
function owen(bits: number, seed: number): number {
  let x = reversed(bits);
  x ^= Math.imul(x, 0x3d20adea);
  x = (x + seed) | 0;
  x = Math.imul(x, (seed >>> 16) | 1);
  x ^= Math.imul(x, 0x05526c56);
  x ^= Math.imul(x, 0x53a22864);
  return reversed(x);
}

function reversed(bits: number): number {
  let x = bits;
  x = ((x >>> 1) & 0x55555555) | ((x & 0x55555555) << 1);
  x = ((x >>> 2) & 0x33333333) | ((x & 0x33333333) << 2);
  x = ((x >>> 4) & 0x0f0f0f0f) | ((x & 0x0f0f0f0f) << 4);
  x = ((x >>> 8) & 0x00ff00ff) | ((x & 0x00ff00ff) << 8);
  return ((x >>> 16) | (x << 16)) >>> 0;
}

function mixed(seed: number): number {
  let x = (seed ^ 0x9e3779b9) | 0;
  x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
  return (x ^ (x >>> 16)) >>> 0;
}

/** A name as 32 bits (FNV-1a, mixed once more). */
function hashOf(name: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < name.length; i++) h = Math.imul(h ^ name.charCodeAt(i), 0x01000193);
  return mixed(h);
}

/**
 * What a figure may be off by, of its parts: twice the standard error, for parts that are each spread over the whole. Points
 * in a low-discrepancy order get nearer with their number n as n^−¾ where what they meet has edges, so all of them are
 * 8^¾ times as near as an eighth is.
 * @param at where the parts begin; each adds to the figure, which is their sum
 */
export function partsError(parts: ArrayLike<number>, at = 0): number {
  let sum = 0;
  for (let b = 0; b < POINT_PARTS; b++) sum += parts[at + b]!;
  const mean = sum / POINT_PARTS;
  let squares = 0;
  for (let b = 0; b < POINT_PARTS; b++) squares += (parts[at + b]! - mean) ** 2;
  const deviation = POINT_PARTS * Math.sqrt(squares / (POINT_PARTS - 1));
  return (2 * deviation) / POINT_PARTS ** 0.75;
}
