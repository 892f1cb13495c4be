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

/** Where masks are kept, each under the hash of its obstacles, sensors and directions. */
export interface MaskStore {
  /** The mask of this key, or a new one without anything traced; null where there is no room for it. */
  mask(key: string, sensors: number, words: number): KeptMask | null;
  /** What is lost on the way, under this key; null where it is not kept. */
  shares(key: string): KeptShares | null;
}

/** Bytes that one mask may take. */
export const MAX_MASK_BYTES = 64 * 1024 ** 2;

/** A mask without anything traced yet. */
export function blankMask(sensors: number, words: number): KeptMask {
  return { mask: new Uint32Array(sensors * words), done: new Uint8Array(sensors) };
}

/** Masks kept in memory, those that were not asked for the longest going first. */
export class MemoryMasks implements MaskStore {
  private readonly kept = new Map<string, KeptMask | KeptShares>();

  constructor(private readonly mostBytes: number) {}

  mask(key: string, sensors: number, words: number): KeptMask | null {
    if (sensors * (words * 4 + 1) > Math.min(this.mostBytes, MAX_MASK_BYTES)) return null;
    return this.asked(key, () => blankMask(sensors, words)) as KeptMask;
  }

  shares(key: string): KeptShares {
    return this.asked(key, () => []) as KeptShares;
  }

  private asked(key: string, make: () => KeptMask | KeptShares): KeptMask | KeptShares {
    const found = this.kept.get(key) ?? make();
    this.kept.delete(key);
    this.kept.set(key, found);
    let bytes = [...this.kept.values()].reduce((sum, one) => sum + bytesOf(one), 0);
    for (const [old, one] of this.kept) {
      if (bytes <= this.mostBytes || old === key) break;
      this.kept.delete(old);
      bytes -= bytesOf(one);
    }
    return found;
  }
}

function bytesOf(kept: KeptMask | KeptShares): number {
  if (!Array.isArray(kept)) return kept.mask.byteLength + kept.done.byteLength;
  return kept.reduce(
    (sum, row) => sum + (row ? 64 + row.fixed.byteLength * 3 + row.crowns.byteLength : 8),
    0,
  );
}
