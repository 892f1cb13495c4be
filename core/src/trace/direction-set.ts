/** Directions in a packet. */
export const PACKET = 16;

/** Directions to trace to. What a kernel makes of them is made once. */
export class DirectionSet {
  readonly count: number;
  private made: DirectionLanes | null = null;
  private readonly packed = new Map<number, ReturnType<typeof orderedPackets>>();

  /** @param vectors 3 numbers a direction, unit length, pointing away from the sensor */
  constructor(readonly vectors: Float64Array) {
    this.count = vectors.length / 3;
  }

  get lanes(): DirectionLanes {
    return (this.made ??= new DirectionLanes(this.vectors));
  }

  /** The directions in packets of so many neighbours. */
  packets(size: number): ReturnType<typeof orderedPackets> {
    let packets = this.packed.get(size);
    if (!packets) this.packed.set(size, (packets = orderedPackets(this.vectors, size)));
    return packets;
  }
}

const sets = new WeakMap<Float64Array, DirectionSet>();

/** The set of these directions, made once for the same array. */
export function directionSetOf(vectors: Float64Array): DirectionSet {
  let set = sets.get(vectors);
  if (!set) sets.set(vectors, (set = new DirectionSet(vectors)));
  return set;
}

/**
 * Directions put in order once: by octant, then split along the longest axis into packets of neighbours, so that the
 * directions of a packet agree in the signs of their components and meet mostly the same triangles.
 */
export class DirectionLanes {
  readonly packets: number;
  /** x, y, z of each lane, packet after packet; short packets are padded. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  readonly z: Float64Array;
  /** Magnitudes of the reciprocals of the components; never infinite. */
  readonly ix: Float64Array;
  readonly iy: Float64Array;
  readonly iz: Float64Array;
  /** Number of the direction in the caller's order, −1 in padding lanes. */
  readonly index: Int32Array;
  /** Octant of each packet: bit 0 set where x is negative, bit 1 y, bit 2 z. */
  readonly octant: Uint8Array;
  /** 6 numbers a packet: least and greatest magnitude of the reciprocals along x, y and z. */
  readonly spread: Float64Array;

  constructor(vectors: Float64Array) {
    const packets = orderedPackets(vectors, PACKET);

    this.packets = packets.length;
    const lanes = this.packets * PACKET;
    this.x = new Float64Array(lanes);
    this.y = new Float64Array(lanes);
    this.z = new Float64Array(lanes);
    this.ix = new Float64Array(lanes);
    this.iy = new Float64Array(lanes);
    this.iz = new Float64Array(lanes);
    this.index = new Int32Array(lanes).fill(-1);
    this.octant = new Uint8Array(this.packets);
    this.spread = new Float64Array(this.packets * 6);
    packets.forEach(({ octant, members }, p) => {
      this.octant[p] = octant;
      members.forEach((member, l) => {
        const lane = p * PACKET + l;
        this.index[lane] = member;
        this.x[lane] = vectors[member * 3]!;
        this.y[lane] = vectors[member * 3 + 1]!;
        this.z[lane] = vectors[member * 3 + 2]!;
        this.ix[lane] = reciprocal(this.x[lane]!);
        this.iy[lane] = reciprocal(this.y[lane]!);
        this.iz[lane] = reciprocal(this.z[lane]!);
      });
      [this.ix, this.iy, this.iz].forEach((reciprocals, axis) => {
        const sizes = reciprocals.subarray(p * PACKET, p * PACKET + members.length);
        this.spread[p * 6 + axis * 2] = Math.min(...sizes);
        this.spread[p * 6 + axis * 2 + 1] = Math.max(...sizes);
      });
    });
  }
}

/** Directions by octant, split along the longest axis into packets of at most `size` neighbours. */
export function orderedPackets(
  vectors: Float64Array,
  size: number,
): { octant: number; members: Uint32Array }[] {
  const groups: number[][] = Array.from({ length: 8 }, () => []);
  for (let i = 0; i < vectors.length / 3; i++) groups[octantOf(vectors, i)]!.push(i);
  const packets: { octant: number; members: Uint32Array }[] = [];
  groups.forEach((group, octant) => {
    const halve = (part: Uint32Array) => {
      if (part.length === 0) return;
      if (part.length <= size) {
        packets.push({ octant, members: part });
        return;
      }
      const half = Math.ceil(part.length / 2 / size) * size;
      if (half < part.length) splitAt(vectors, longestAxis(vectors, part), part, half);
      halve(part.subarray(0, half));
      halve(part.subarray(half));
    };
    halve(Uint32Array.from(group));
  });
  return packets;
}

/**
 * Puts those of a part that come first along an axis, of equal ones those of the lesser number, before place `at`, and the
 * others behind it (Hoare 1961).
 */
function splitAt(vectors: Float64Array, axis: number, part: Uint32Array, at: number): void {
  let [low, high] = [0, part.length - 1];
  while (low < high) {
    const pivot = part[(low + high) >> 1]!;
    const value = vectors[pivot * 3 + axis]!;
    const isBefore = (a: number) => vectors[a * 3 + axis]! - value || a - pivot;
    let [i, j] = [low, high];
    while (i <= j) {
      while (isBefore(part[i]!) < 0) i++;
      while (isBefore(part[j]!) > 0) j--;
      if (i <= j) {
        [part[i], part[j]] = [part[j]!, part[i]!];
        i++;
        j--;
      }
    }
    if (at <= j) high = j;
    else if (at >= i) low = i;
    else return;
  }
}

function octantOf(vectors: Float64Array, i: number): number {
  return (
    (vectors[i * 3]! < 0 ? 1 : 0) | (vectors[i * 3 + 1]! < 0 ? 2 : 0) | (vectors[i * 3 + 2]! < 0 ? 4 : 0)
  );
}

function reciprocal(component: number): number {
  return 1 / Math.max(Math.abs(component), 1e-18);
}

function longestAxis(vectors: Float64Array, part: Uint32Array): number {
  let best = 0;
  let widest = -1;
  for (let axis = 0; axis < 3; axis++) {
    let low = Infinity;
    let high = -Infinity;
    for (const i of part) {
      const value = vectors[i * 3 + axis]!;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    if (high - low > widest) {
      widest = high - low;
      best = axis;
    }
  }
  return best;
}
