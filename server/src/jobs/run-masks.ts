import {
  findDirections,
  type KeptMask,
  type KeptShares,
  type Known,
  type KnownMask,
  type MaskKeys,
  type MaskOf,
  maskWords,
  movedShares,
  type ShareRow,
} from '@dial-shade/core';
import type { Database } from '../store/database';
import { keepMask, keptMask, masksOfPlace } from '../store/masks';

/** Masks of a run that all threads read and write: shared memory, layer by layer. */
export interface SharedMasks {
  keys: MaskKeys;
  layers: KeptMask[];
  /** Of each layer, masks in other directions that have some of those that are wanted. */
  others: KnownMask[][];
}

/** Bytes that all masks of a run may take together; a larger run is traced without keeping any. */
export const MAX_RUN_MASK_BYTES = 192 * 1024 ** 2;

/** Bytes of masks in other directions that are looked at for one layer. */
const MAX_OTHER_BYTES = 96 * 1024 ** 2;

/** Masks of a run, as far as they are known from before, and what is learnt of them. */
export class RunMasks {
  /** What open rays lose, by sensor. */
  readonly shares: KeptShares = [];
  private readonly known: boolean[];
  private knowsShares = false;
  /** Whether any of it was kept once and had to make room. */
  wasLetGo = false;

  constructor(
    readonly masks: SharedMasks,
    private readonly hasShares: boolean,
  ) {
    this.known = masks.layers.map(() => false);
  }

  /** Takes over what the run before has, or the database. */
  async recall(db: Database, last: RunMasks | null): Promise<void> {
    const { keys, layers } = this.masks;
    for (const [i, of] of keys.layers.entries()) {
      const layer = layers[i]!;
      const before = last?.wholeLayer(of);
      const bytes = before ? null : await this.kept(db, of);
      if (before) layer.mask.set(before.mask);
      else if (bytes?.length === layer.mask.byteLength)
        new Uint8Array(layer.mask.buffer, layer.mask.byteOffset, layer.mask.byteLength).set(bytes);
      else {
        const { others, isAll } = await this.otherMasks(db, of, layer.done.length);
        this.masks.others[i] = others;
        // What those have among them need not be kept once more.
        this.known[i] = isAll;
        continue;
      }
      layer.done.fill(1);
      this.known[i] = true;
    }
    if (!this.hasShares) return;
    const sensors = layers[0]?.done.length ?? 0;
    const before = last?.masks.keys.shares.key === keys.shares.key && last.isWhole() ? last.shares : null;
    const bytes = before ? null : await this.kept(db, keys.shares);
    const rows = before ?? (bytes && sharesFrom(bytes));
    if (rows?.length === sensors) {
      rows.forEach((row, s) => (this.shares[s] = row));
      this.knowsShares = true;
    } else this.knowsShares = await this.recallOtherShares(db, keys.shares, sensors);
  }

  /** Masks in other directions before the same sensors, as far as they have any of these. */
  private async otherMasks(
    db: Database,
    of: MaskOf,
    sensors: number,
  ): Promise<{ others: KnownMask[]; isAll: boolean }> {
    const others = await masksOfPlace(db, of.place);
    const { found, missing } = findDirections(
      of.vectors,
      others.map(({ vectors }) => vectors),
    );
    const known: KnownMask[] = [];
    let room = MAX_OTHER_BYTES;
    let isAll = missing.length === 0;
    for (const [i, { key, vectors }] of others.entries()) {
      const size = sensors * maskWords(vectors.length / 3) * 4;
      if (found[i]!.length === 0) continue;
      const bytes = size > room ? null : await this.kept(db, { key });
      if (bytes?.length !== size) {
        isAll = false;
        continue;
      }
      room -= size;
      const mask = new Uint32Array(new SharedArrayBuffer(size));
      new Uint8Array(mask.buffer).set(bytes);
      const done = new Uint8Array(new SharedArrayBuffer(sensors)).fill(1);
      const shared = new Float64Array(new SharedArrayBuffer(vectors.byteLength));
      shared.set(vectors);
      known.push({ vectors: shared, kept: { mask, done } });
    }
    return { others: known, isAll };
  }

  /** What open rays lose, where it is known in directions among which all of these are; gives whether it is. */
  private async recallOtherShares(db: Database, of: MaskOf, sensors: number): Promise<boolean> {
    for (const { key, vectors } of await masksOfPlace(db, of.place)) {
      if (findDirections(of.vectors, [vectors]).missing.length > 0) continue;
      const bytes = await this.kept(db, { key });
      const rows = bytes && sharesFrom(bytes);
      if (rows?.length !== sensors) continue;
      const other: Known<KeptShares> = { vectors, kept: rows };
      movedShares(of.vectors, [other], this.shares);
      return true;
    }
    return false;
  }

  private async kept(db: Database, { key }: Pick<MaskOf, 'key'>): Promise<Buffer | null> {
    const found = await keptMask(db, key);
    if (found === 'let-go') this.wasLetGo = true;
    return found === 'let-go' ? null : found;
  }

  /** Keeps in the database what was not known from before, once all of it was traced. */
  async remember(db: Database): Promise<void> {
    const { keys, layers } = this.masks;
    for (const [i, of] of keys.layers.entries()) {
      const { mask } = layers[i]!;
      if (this.known[i] || !this.wholeLayer(of)) continue;
      await keepMask(db, of, new Uint8Array(mask.buffer, mask.byteOffset, mask.byteLength));
    }
    if (this.hasShares && !this.knowsShares && this.isWhole())
      await keepMask(db, keys.shares, sharesToBytes(this.shares));
  }

  private wholeLayer({ key }: MaskOf): KeptMask | null {
    const layer = this.masks.layers[this.masks.keys.layers.findIndex((of) => of.key === key)];
    return layer?.done.every((done) => done === 1) ? layer : null;
  }

  private isWhole(): boolean {
    const count = this.masks.layers[0]?.done.length ?? 0;
    for (let s = 0; s < count; s++) if (!this.shares[s]) return false;
    return count > 0;
  }
}

/** Little-endian words: the count of sensors; for each its directions and crowns as counts, then the arrays of its row. */
export function sharesToBytes(rows: KeptShares): Uint8Array {
  const sizeOf = (row: ShareRow | undefined) => 2 + (row ? 3 * row.direction.length + row.crowns.length : 0);
  const words = new Uint32Array(1 + rows.reduce((sum, row) => sum + sizeOf(row), 0));
  const floats = new Float32Array(words.buffer);
  words[0] = rows.length;
  let at = 1;
  for (const row of rows) {
    words[at++] = row?.direction.length ?? 0;
    words[at++] = row?.crowns.length ?? 0;
    if (!row) continue;
    const count = row.direction.length;
    words.set(row.direction, at);
    floats.set(row.fixed, at + count);
    words.set(row.ends, at + 2 * count);
    words.set(row.crowns, at + 3 * count);
    at += 3 * count + row.crowns.length;
  }
  return new Uint8Array(words.buffer);
}

/** The rows in such bytes; null where they are none. */
export function sharesFrom(bytes: Uint8Array): ShareRow[] | null {
  if (bytes.length < 4 || bytes.length % 4 !== 0) return null;
  const words = new Uint32Array(Uint8Array.from(bytes).buffer);
  const floats = new Float32Array(words.buffer);
  const rows: ShareRow[] = [];
  let at = 1;
  for (let s = 0; s < words[0]!; s++) {
    const [count, crowns] = [words[at]!, words[at + 1]!];
    const end = at + 2 + 3 * count + crowns;
    if (!(end <= words.length)) return null;
    at += 2;
    rows.push({
      direction: words.slice(at, at + count),
      fixed: floats.slice(at + count, at + 2 * count),
      ends: words.slice(at + 2 * count, at + 3 * count),
      crowns: words.slice(at + 3 * count, end),
    });
    at = end;
  }
  return at === words.length ? rows : null;
}
