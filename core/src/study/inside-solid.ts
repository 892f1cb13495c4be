import type { Point3 } from '../geometry';
import type { Ground } from '../project';
import type { Piece } from '../scene';
import { groundLevel } from '../site';

/** How far below the ground a point must lie to be inside it, metres: more than rounding makes. */
const UNDER_M = 1e-6;

/** Tells whether a point lies inside the ground or one of the solids, where nothing reaches it. */
export function coverTest(ground: Ground, solids: readonly Piece[]): (at: Point3) => boolean {
  const isInside = insideTest(solids);
  return (at) => at[2] < groundLevel(ground, [at[0], at[1]]) - UNDER_M || isInside(at);
}

/**
 * Tells whether a point lies inside a solid: an odd number of its surfaces lies above the point and an odd number below.
 * So what is not closed, as a sheet or a terrain, has no inside. Bodies with openings, partitions or furniture are
 * hollow: what lies in them lies in a room.
 */
export function insideTest(pieces: readonly Piece[]): (at: Point3) => boolean {
  const solids = pieces
    .filter((piece) => piece.opaque >= 4 && !isHollow(piece))
    .map((piece) => new Columns(piece));
  return (at) => solids.some((solid) => solid.holds(at));
}

function isHollow({ surfaces }: Piece): boolean {
  return surfaces.some(
    ({ kind, opening }) => opening !== null || kind === 'partition' || kind === 'furniture',
  );
}

/** Triangles that block, by columns of the plan. */
class Columns {
  private readonly low = [Infinity, Infinity, Infinity];
  private readonly high = [-Infinity, -Infinity, -Infinity];
  private cells: number[][] | null = null;
  private readonly side: number;

  constructor(private readonly piece: Piece) {
    const { positions: p, opaque } = piece;
    for (let i = 0; i < opaque * 9; i++) {
      const axis = i % 3;
      if (p[i]! < this.low[axis]!) this.low[axis] = p[i]!;
      if (p[i]! > this.high[axis]!) this.high[axis] = p[i]!;
    }
    this.side = Math.max(1, Math.min(128, Math.ceil(Math.sqrt(opaque / 4))));
  }

  holds([x, y, z]: Point3): boolean {
    const { low, high } = this;
    if (x < low[0]! || x > high[0]! || y < low[1]! || y > high[1]! || z < low[2]! || z > high[2]!)
      return false;
    this.cells ??= this.sort();
    const { positions: p } = this.piece;
    let above = 0;
    let below = 0;
    for (const t of this.cells[this.row(y) * this.side + this.column(x)]!) {
      const level = levelAt(p, t * 9, x, y);
      if (level === null) continue;
      if (level > z) above++;
      else below++;
    }
    return (above & 1) === 1 && (below & 1) === 1;
  }

  private column(x: number): number {
    return this.cell(x, 0);
  }

  private row(y: number): number {
    return this.cell(y, 1);
  }

  private cell(value: number, axis: number): number {
    const width = this.high[axis]! - this.low[axis]! || 1;
    return Math.max(0, Math.min(this.side - 1, Math.floor(((value - this.low[axis]!) / width) * this.side)));
  }

  private sort(): number[][] {
    const cells: number[][] = Array.from({ length: this.side ** 2 }, () => []);
    const { positions: p, opaque } = this.piece;
    for (let t = 0; t < opaque; t++) {
      const o = t * 9;
      const [x0, x1] = [Math.min(p[o]!, p[o + 3]!, p[o + 6]!), Math.max(p[o]!, p[o + 3]!, p[o + 6]!)];
      const [y0, y1] = [Math.min(p[o + 1]!, p[o + 4]!, p[o + 7]!), Math.max(p[o + 1]!, p[o + 4]!, p[o + 7]!)];
      for (let r = this.row(y0); r <= this.row(y1); r++)
        for (let c = this.column(x0); c <= this.column(x1); c++) cells[r * this.side + c]!.push(t);
    }
    return cells;
  }
}

/** Level at which an upright line meets a triangle, or null; of two triangles that share an edge just one is met. */
function levelAt(p: Float64Array, o: number, x: number, y: number): number | null {
  let inside = false;
  for (let i = 0, j = 6; i < 9; j = i, i += 3) {
    const [xi, yi] = [p[o + i]!, p[o + i + 1]!];
    const [xj, yj] = [p[o + j]!, p[o + j + 1]!];
    if (yi > y === yj > y) continue;
    // The same edge gives the same number from both its sides.
    const [ax, ay, bx, by] = yi < yj ? [xi, yi, xj, yj] : [xj, yj, xi, yi];
    if (x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  if (!inside) return null;
  const [ux, uy, uz] = [p[o + 3]! - p[o]!, p[o + 4]! - p[o + 1]!, p[o + 5]! - p[o + 2]!];
  const [vx, vy, vz] = [p[o + 6]! - p[o]!, p[o + 7]! - p[o + 1]!, p[o + 8]! - p[o + 2]!];
  const nz = ux * vy - uy * vx;
  if (nz === 0) return null;
  const [nx, ny] = [uy * vz - uz * vy, uz * vx - ux * vz];
  return p[o + 2]! - (nx * (x - p[o]!) + ny * (y - p[o + 1]!)) / nz;
}
