import { type DirectionSet, directionSetOf } from './direction-set';
import { maskWords } from './mask-kernel';
import { copyBits, findDirections, type KnownDirections } from './known-directions';
import { type KeptMask, type KnownMask } from './kept-masks';
import { LayerTracer, type ObstacleLayer } from './layers';

/** Sensors, 3 numbers each. */
interface Sensors {
  positions: Float64Array;
  normals: Float64Array;
}

/**
 * One layer of obstacles before some sensors, in some directions: its mask as it is kept, gathered from masks of other
 * directions before the same sensors, or traced; what no mask has is traced alone.
 */
export class KeptLayer {
  private readonly tracer: LayerTracer;
  private readonly words: number;
  private readonly known: KnownDirections | null;
  private readonly rest: { tracer: LayerTracer; known: KnownDirections; words: number } | null;

  /** @param others masks of this layer before the same sensors */
  constructor(
    layer: ObstacleLayer,
    vectors: Float64Array,
    private readonly directions: DirectionSet,
    private readonly kept: KeptMask | null,
    private readonly others: readonly KnownMask[],
  ) {
    this.tracer = new LayerTracer(layer, vectors, directions);
    this.words = maskWords(directions.count);
    const isWhole = kept?.done.every((done) => done === 1) ?? true;
    const known =
      isWhole || others.length === 0
        ? null
        : findDirections(
            vectors,
            others.map((one) => one.vectors),
          );
    this.known = known && known.missing.length < directions.count ? known : null;
    this.rest =
      this.known && this.known.missing.length > 0 ? restOf(layer, vectors, this.known.missing) : null;
  }

  /** The mask of the sensors from `from` up to `to`, and how many rays were traced for it. */
  mask({ positions, normals }: Sensors, from: number, to: number): { mask: Uint32Array; traced: number } {
    const { kept, words } = this;
    if (kept && isDone(kept, from, to))
      return { mask: kept.mask.subarray(from * words, to * words), traced: 0 };
    const mask = new Uint32Array((to - from) * words);
    const traced = this.gather(positions, normals, from, to, mask);
    if (kept) {
      kept.mask.set(mask, from * words);
      kept.done.fill(1, from, to);
    }
    return { mask, traced };
  }

  private gather(
    positions: Float64Array,
    normals: Float64Array,
    from: number,
    to: number,
    mask: Uint32Array,
  ): number {
    const { known, rest, words } = this;
    const used = known ? this.others.filter((_, i) => known.found[i]!.length > 0) : [];
    if (!known || !used.every(({ kept }) => isDone(kept, from, to))) {
      this.tracer.trace(positions, normals, from, to, mask);
      return (to - from) * this.directions.count;
    }
    this.others.forEach(({ vectors, kept }, i) => {
      take(known, i, kept.mask, from, maskWords(vectors.length / 3), mask, to - from, words);
    });
    if (!rest) return 0;
    const part = new Uint32Array((to - from) * rest.words);
    rest.tracer.trace(positions, normals, from, to, part);
    take(rest.known, 0, part, 0, rest.words, mask, to - from, words);
    return (to - from) * known.missing.length;
  }
}

const isDone = ({ done }: KeptMask, from: number, to: number) => {
  for (let s = from; s < to; s++) if (done[s] !== 1) return false;
  return true;
};

/** A tracer of the directions that are left, and where they go. */
function restOf(layer: ObstacleLayer, vectors: Float64Array, missing: Uint32Array) {
  const left = new Float64Array(missing.length * 3);
  missing.forEach((d, i) => left.set(vectors.subarray(d * 3, d * 3 + 3), i * 3));
  return {
    tracer: new LayerTracer(layer, left, directionSetOf(left)),
    known: findDirections(vectors, [left]),
    words: maskWords(missing.length),
  };
}

/** Copies what is taken from one of the others, sensor by sensor, into rows whose bits there are 0. */
function take(
  { found }: KnownDirections,
  other: number,
  source: Uint32Array,
  from: number,
  sourceWords: number,
  mask: Uint32Array,
  sensors: number,
  words: number,
): void {
  const runs = found[other]!;
  for (let s = 0; s < sensors; s++)
    for (const run of runs)
      copyBits(source, (from + s) * sourceWords * 32 + run.from, mask, s * words * 32 + run.at, run.count);
}
