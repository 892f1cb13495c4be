import { gridOf, type LightDirections, type OpenDirections, type SensorGrid } from '../study';
import { maskWords } from '../trace';

type Row = NonNullable<OpenDirections['shares']>[number];

/** Places that are kept, at most. */
const MAX_KEPT = 20_000;

/** What is open from places past the same obstacles in the same directions, kept: a device that is dragged leaves most of them. */
export class KeptPlaces {
  private readonly rows = new Map<string, { mask: Uint32Array; shares: Row | null }>();

  /** @param trace of some places of a grid, all of them, when they are not known */
  constructor(private readonly trace: (grid: SensorGrid, directions: LightDirections) => OpenDirections) {}

  /** What is open from the places of a grid. */
  open(grid: SensorGrid, directions: LightDirections): OpenDirections {
    const words = maskWords(directions.count);
    const keys = Array.from({ length: grid.count }, (_, s) => keyOf(grid, s));
    if (this.rows.size > MAX_KEPT) this.rows.clear();
    const missing = keys.flatMap((key, s) => (this.rows.has(key) ? [] : [s]));
    if (missing.length > 0) {
      const { mask, shares } = this.trace(gridOf(grid, missing), directions);
      missing.forEach((s, i) =>
        this.rows.set(keys[s]!, {
          mask: mask.slice(i * words, (i + 1) * words),
          shares: shares ? shares[i]! : null,
        }),
      );
    }
    const found = keys.map((key) => this.rows.get(key)!);
    const mask = new Uint32Array(grid.count * words);
    found.forEach((row, s) => mask.set(row.mask, s * words));
    const none: Row = { direction: new Uint32Array(), share: new Float32Array() };
    return {
      sensors: grid.count,
      from: 0,
      mask,
      shares: found.some(({ shares }) => shares) ? found.map(({ shares }) => shares ?? none) : null,
    };
  }
}

function keyOf({ positions: p, normals: n }: SensorGrid, s: number): string {
  const o = s * 3;
  return `${p[o]} ${p[o + 1]} ${p[o + 2]} ${n[o]} ${n[o + 1]} ${n[o + 2]}`;
}
