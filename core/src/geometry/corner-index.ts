/** Numbers corners by where they lie: the same place has the same number. Open addressing over their bits, no strings. */
export class CornerIndex {
  private xyz: Float64Array;
  private table: Int32Array;
  private readonly value = new Float64Array(3);
  private readonly bits = new Uint32Array(this.value.buffer);
  count = 0;

  /** @param room for so many places at first; more are taken in too */
  constructor(room = 1024) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(4, room)));
    this.xyz = new Float64Array(3 * size);
    this.table = new Int32Array(4 * size).fill(-1);
  }

  /** The number of a place; a new one where nothing lies there yet. */
  add(x: number, y: number, z: number): number {
    // Nothing and minus nothing are one place.
    const [a, b, c] = [x + 0, y + 0, z + 0];
    const { table, xyz } = this;
    const mask = table.length - 1;
    let slot = this.hash(a, b, c) & mask;
    for (let found = table[slot]!; found >= 0; found = table[slot]!) {
      if (xyz[found * 3] === a && xyz[found * 3 + 1] === b && xyz[found * 3 + 2] === c) return found;
      slot = (slot + 1) & mask;
    }
    const number = this.count++;
    if (this.xyz.length < this.count * 3) this.xyz = doubled(this.xyz);
    this.xyz[number * 3] = a;
    this.xyz[number * 3 + 1] = b;
    this.xyz[number * 3 + 2] = c;
    table[slot] = number;
    if (this.count * 2 > table.length) this.widen();
    return number;
  }

  /** The places, three numbers each, in the order of their numbers; good until the next is added. */
  get places(): Float64Array {
    return this.xyz.subarray(0, this.count * 3);
  }

  private hash(x: number, y: number, z: number): number {
    const { value, bits } = this;
    value[0] = x;
    value[1] = y;
    value[2] = z;
    let h = 0x9e3779b9;
    for (let i = 0; i < 6; i++) {
      h = Math.imul(h ^ bits[i]!, 0x85ebca6b);
      h ^= h >>> 13;
    }
    h = Math.imul(h, 0xc2b2ae35);
    return (h ^ (h >>> 16)) >>> 0;
  }

  private widen(): void {
    const table = new Int32Array(this.table.length * 2).fill(-1);
    const mask = table.length - 1;
    for (let number = 0; number < this.count; number++) {
      const i = number * 3;
      let slot = this.hash(this.xyz[i]!, this.xyz[i + 1]!, this.xyz[i + 2]!) & mask;
      while (table[slot]! >= 0) slot = (slot + 1) & mask;
      table[slot] = number;
    }
    this.table = table;
  }
}

/** Twice as much room, with what there was. */
export function doubled<T extends Float32Array | Float64Array | Uint32Array>(old: T): T {
  const bigger = new (old.constructor as new (length: number) => T)(old.length * 2);
  bigger.set(old);
  return bigger;
}
