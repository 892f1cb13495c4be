import { overcast } from './sky-models';
import { DEG } from '../civil';

/** Directions over the vault, each of which carries the same light of the overcast sky. Project frame; they do not turn with true north. */
export interface SkySpiral {
  count: number;
  /** 3 numbers a direction: unit vector away from the sensor. */
  vectors: Float64Array;
  /** Luminance of the overcast sky in each against its zenith. */
  luminance: Float64Array;
  /** Steradians that each stands for; they sum to 2π within what their number resolves. */
  solidAngle: Float64Array;
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** ∫ of (1 + 2 sin γ)/3 over the vault. */
const WHOLE = (4 * Math.PI) / 3;

const made = new Map<number, SkySpiral>();

/**
 * So many directions of the vault in a spiral that turns by the golden section, as dense as the overcast sky is bright: the
 * share of its light below a height s = sin γ is (s + s²)/2. The same whatever the sensor's normal, so that one mask serves
 * every study of the sky.
 */
export function skySpiral(count: number): SkySpiral {
  const known = made.get(count);
  if (known) return known;
  const spiral: SkySpiral = {
    count,
    vectors: new Float64Array(count * 3),
    luminance: new Float64Array(count),
    solidAngle: new Float64Array(count),
  };
  for (let i = 0; i < count; i++) {
    const s = (-1 + Math.sqrt(1 + (8 * (i + 0.5)) / count)) / 2;
    const turn = 2 * Math.PI * ((i * GOLDEN) % 1);
    const r = Math.sqrt(1 - s * s);
    spiral.vectors.set([r * Math.cos(turn), r * Math.sin(turn), s], i * 3);
    spiral.luminance[i] = overcast(Math.asin(s) * DEG);
    spiral.solidAngle[i] = WHOLE / (count * spiral.luminance[i]!);
  }
  made.set(count, spiral);
  return spiral;
}

/** Of each direction of one spiral, those of another that lie nearest, and their weights, which sum to 1. */
export interface SkyNeighbours {
  /** `NEAREST` numbers a direction. */
  of: Uint32Array;
  weight: Float64Array;
}

/** Directions between which is read. */
export const NEAREST = 3;

const neighbours = new WeakMap<SkySpiral, Map<SkySpiral, SkyNeighbours>>();

/**
 * For reading between the directions of a spiral at those of another: the three nearest, weighed by the inverse square of
 * their distance. Made once.
 */
export function skyNeighbours(from: SkySpiral, at: SkySpiral): SkyNeighbours {
  const known = neighbours.get(from) ?? new Map<SkySpiral, SkyNeighbours>();
  neighbours.set(from, known);
  let found = known.get(at);
  if (!found) known.set(at, (found = nearest(from, at)));
  return found;
}

/** How far off its nearest may lie, in steps between neighbours. */
const REACH = 2.2;

function nearest(from: SkySpiral, at: SkySpiral): SkyNeighbours {
  const found: SkyNeighbours = {
    of: new Uint32Array(at.count * NEAREST),
    weight: new Float64Array(at.count * NEAREST),
  };
  const near = new DiscCells(from, Math.sqrt((2 * Math.PI) / from.count) * REACH);
  const v = from.vectors;
  const best = new Float64Array(NEAREST);
  const who = new Uint32Array(NEAREST);
  for (let d = 0; d < at.count; d++) {
    const [x, y, z] = [at.vectors[d * 3]!, at.vectors[d * 3 + 1]!, at.vectors[d * 3 + 2]!];
    best.fill(Infinity);
    for (const i of near.about(x, y)) {
      const off = (v[i * 3]! - x) ** 2 + (v[i * 3 + 1]! - y) ** 2 + (v[i * 3 + 2]! - z) ** 2;
      if (off >= best[NEAREST - 1]!) continue;
      let k = NEAREST - 1;
      for (; k > 0 && best[k - 1]! > off; k--) {
        best[k] = best[k - 1]!;
        who[k] = who[k - 1]!;
      }
      best[k] = off;
      who[k] = i;
    }
    let sum = 0;
    for (let k = 0; k < NEAREST; k++) sum += best[k] = 1 / Math.max(best[k]!, 1e-12);
    for (let k = 0; k < NEAREST; k++) {
      found.of[d * NEAREST + k] = who[k]!;
      found.weight[d * NEAREST + k] = best[k]! / sum;
    }
  }
  return found;
}

/** Directions by squares of the disc below them: what lies near in space lies near there. */
class DiscCells {
  private readonly side: number;
  private readonly cells: number[][];

  constructor(
    { count, vectors }: SkySpiral,
    private readonly reach: number,
  ) {
    this.side = Math.ceil(2 / reach) + 1;
    const own: number[][] = Array.from({ length: this.side ** 2 }, () => []);
    for (let d = 0; d < count; d++) own[this.cell(vectors[d * 3]!, vectors[d * 3 + 1]!)]!.push(d);
    // Those of a square and of all about it, side by side.
    this.cells = own.map((_, c) => {
      const [row, column] = [Math.floor(c / this.side), c % this.side];
      return [-1, 0, 1].flatMap((dy) =>
        [-1, 0, 1].flatMap((dx) => {
          const [r, k] = [row + dy, column + dx];
          return r < 0 || k < 0 || r >= this.side || k >= this.side ? [] : own[r * this.side + k]!;
        }),
      );
    });
  }

  about(x: number, y: number): readonly number[] {
    return this.cells[this.cell(x, y)]!;
  }

  private cell(x: number, y: number): number {
    return Math.floor((y + 1) / this.reach) * this.side + Math.floor((x + 1) / this.reach);
  }
}
