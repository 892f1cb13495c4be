import { maskWords } from './mask-kernel';

/** Goes up when tracing answers differently; masks of another version are not found again, since their keys begin with it. */
export const TRACING_VERSION = 1;

/** A mask of one layer that is kept: which directions of which sensors are open there, as far as it was traced. */
export interface KeptMask {
  /** Bits by sensor, `maskWords(directions)` words each. */
  mask: Uint32Array;
  /** 1 for each sensor that was traced. */
  done: Uint8Array;
}

/**
 * What open rays of a sensor meet of panes, fences and crowns: the directions that meet any, the share that panes and
 * fences let through, and the crowns on the way, which let through what the day has.
 */
export interface ShareRow {
  direction: Uint32Array;
  fixed: Float32Array;
  /** Where the crowns of each direction end in `crowns`. */
  ends: Uint32Array;
  /** Crowns by one of their triangles in the transmission. */
  crowns: Uint32Array;
}

/** The same of all sensors, as far as they were traced. */
export type KeptShares = (ShareRow | undefined)[];

/** What is kept: which obstacles, sensors and directions it is of. */
export interface MaskOf {
  /** Hash of obstacles, sensors and directions. */
  key: string;
  /** Hash of obstacles and sensors alone: what was traced there in other directions serves too. */
  place: string;
  /** 3 numbers a direction. */
  vectors: Float64Array;
}

/** Something that is kept, with its directions. */
export interface Known<T> {
  vectors: Float64Array;
  kept: T;
}
export type KnownMask = Known<KeptMask>;

/** Where masks are kept. */
export interface MaskStore {
  /** The mask of these, or a new one without anything traced; null where there is no room for it. */
  mask(of: MaskOf, sensors: number): KeptMask | null;
  /** What is lost on the way; null where it is not kept. */
  shares(of: MaskOf): KeptShares | null;
  /** Masks of the same place in other directions, the newest first. */
  otherMasks(of: MaskOf): KnownMask[];
  /** What is lost on the way in other directions, the newest first. */
  otherShares(of: MaskOf): Known<KeptShares>[];
}

/** Bytes that one mask may take. */
export const MAX_MASK_BYTES = 64 * 1024 ** 2;

/** A mask without anything traced yet. */
export function blankMask(sensors: number, words: number): KeptMask {
  return { mask: new Uint32Array(sensors * words), done: new Uint8Array(sensors) };
}

/** Sets of other directions that are looked through for those that are asked for. */
const MAX_OTHERS = 24;

type Kept = KeptMask | KeptShares;

/** Masks kept in memory, those that were not asked for the longest going first. */
export class MemoryMasks implements MaskStore {
  private readonly kept = new Map<string, { of: MaskOf; what: Kept }>();

  constructor(private readonly mostBytes: number) {}

  mask(of: MaskOf, sensors: number): KeptMask | null {
    const words = maskWords(of.vectors.length / 3);
    if (sensors * (words * 4 + 1) > Math.min(this.mostBytes, MAX_MASK_BYTES)) return null;
    return this.asked(of, () => blankMask(sensors, words)) as KeptMask;
  }

  shares(of: MaskOf): KeptShares {
    return this.asked(of, () => []) as KeptShares;
  }

  otherMasks(of: MaskOf): KnownMask[] {
    return this.others(of, (what): what is KeptMask => !Array.isArray(what));
  }

  otherShares(of: MaskOf): Known<KeptShares>[] {
    return this.others(of, (what): what is KeptShares => Array.isArray(what));
  }

  private others<T extends Kept>({ key, place }: MaskOf, is: (what: Kept) => what is T): Known<T>[] {
    const found: Known<T>[] = [];
    for (const { of, what } of [...this.kept.values()].reverse()) {
      if (of.place !== place || of.key === key || !is(what)) continue;
      found.push({ vectors: of.vectors, kept: what });
      if (found.length === MAX_OTHERS) break;
    }
    return found;
  }

  private asked(of: MaskOf, make: () => Kept): Kept {
    const found = this.kept.get(of.key) ?? { of, what: make() };
    this.kept.delete(of.key);
    this.kept.set(of.key, found);
    let bytes = [...this.kept.values()].reduce((sum, one) => sum + bytesOf(one), 0);
    for (const [old, one] of this.kept) {
      if (bytes <= this.mostBytes || old === of.key) break;
      this.kept.delete(old);
      bytes -= bytesOf(one);
    }
    return found.what;
  }
}

function bytesOf({ of, what }: { of: MaskOf; what: Kept }): number {
  const directions = of.vectors.byteLength;
  if (!Array.isArray(what)) return directions + what.mask.byteLength + what.done.byteLength;
  return what.reduce(
    (sum, row) => sum + (row ? 64 + row.fixed.byteLength * 3 + row.crowns.byteLength : 8),
    directions,
  );
}
