import type { DirectionSet } from './direction-set';
import { kernelModule, type KernelExports, type KernelMemory } from './kernel-module';
import { maskWords } from './mask-kernel';
import type { TriangleTree } from './tree';

/** Bytes of what the kernel reads; see `core/kernel/mask-kernel.ts`. */
const NODE = 32;
const TRIANGLE = 96;
const PACKET = 256;
const SENSOR = 48;
/** Directions in a packet. */
const LANES = 8;
const STACK_AT = 1024;
const RECENT_AT = STACK_AT + 4096;
/** After the recent blockers: where walks begin, fourteen rows of 64. */
const STARTS_AT = RECENT_AT + 4 * 144;
const TREE_AT = STARTS_AT + 14 * 256;
/** Triangles that are remembered of each packet. */
const HINTS = 4;
/** Sensors that are handed over at a time. */
const CHUNK = 256;
/** The same of those whose nearest triangles are asked for. */
const TOGETHER = 32;
const PAGE = 65_536;

/** A memory in which the kernel works: a copy of a tree, directions as it reads them, and room for sensors and masks. */
export class KernelPlace {
  private readonly memory: KernelMemory;
  private readonly wasm: KernelExports;
  private treeEnd = 0;
  private directions: DirectionSet | null = null;
  private sensorsAt = 0;
  private maskAt = 0;

  constructor(tree: TriangleTree) {
    ({ memory: this.memory, wasm: this.wasm } = kernelModule(Math.ceil(endOf(tree) / PAGE) + 1));
    this.setTree(tree);
  }

  get bytes(): number {
    return this.memory.buffer.byteLength;
  }

  /** Traces against another tree from now on. What was made of the directions stays as it is where the tree has room. */
  setTree(tree: TriangleTree): void {
    const nodes = tree.links.length / 2;
    const trianglesAt = TREE_AT + nodes * NODE;
    const end = endOf(tree);
    if (end > this.treeEnd) {
      // Room for twice as much, so that the next one does not move everything again.
      this.treeEnd = this.treeEnd > 0 ? 2 * end : end;
      const missing = Math.ceil(this.treeEnd / PAGE) - this.memory.buffer.byteLength / PAGE;
      if (missing > 0) this.memory.grow(missing);
      this.directions = null;
    }
    const centre = centreOf(tree);
    this.putNodes(tree, nodes, centre);
    this.putTriangles(tree, trianglesAt);
    this.wasm.setTree(TREE_AT, trianglesAt, nodes, STACK_AT, RECENT_AT, STARTS_AT, ...centre);
  }

  /** See `Kernel.trace`. */
  trace(
    sensors: Float64Array,
    normals: Float64Array | null,
    from: number,
    to: number,
    directions: DirectionSet,
    mask: Uint32Array,
  ): void {
    if (this.directions !== directions) this.putDirections(directions);
    else this.wasm.forget();
    const words = maskWords(directions.count);
    for (let start = from; start < to; start += CHUNK) {
      const count = Math.min(CHUNK, to - start);
      const into = new Float64Array(this.memory.buffer, this.sensorsAt, count * 6);
      for (let s = 0; s < count; s++)
        for (let k = 0; k < 3; k++) {
          into[s * 6 + k] = sensors[(start + s) * 3 + k]!;
          into[s * 6 + 3 + k] = normals ? normals[(start + s) * 3 + k]! : 0;
        }
      const out = new Uint32Array(this.memory.buffer, this.maskAt, count * words).fill(0);
      this.wasm.bySensor(this.sensorsAt, count, normals !== null, this.maskAt, words);
      mask.set(out, (start - from) * words);
    }
  }

  /** See `nearestLeaves`. */
  nearest(sensors: Float64Array, directions: DirectionSet, into: Int32Array): void {
    if (this.directions !== directions) this.putDirections(directions);
    const { count: each } = directions;
    const sensorCount = sensors.length / 3;
    const idsAt = aligned(this.maskAt + CHUNK * maskWords(each) * 4);
    const missing = Math.ceil((idsAt + TOGETHER * each * 4) / PAGE) - this.memory.buffer.byteLength / PAGE;
    if (missing > 0) this.memory.grow(missing);
    for (let start = 0; start < sensorCount; start += TOGETHER) {
      const count = Math.min(TOGETHER, sensorCount - start);
      const place = new Float64Array(this.memory.buffer, this.sensorsAt, count * 6);
      for (let s = 0; s < count; s++)
        for (let k = 0; k < 3; k++) place[s * 6 + k] = sensors[(start + s) * 3 + k]!;
      this.wasm.nearestBySensor(this.sensorsAt, count, idsAt, each);
      into.set(new Int32Array(this.memory.buffer, idsAt, count * each), start * each);
    }
  }

  /** Boxes from the centre of the tree, rounded outwards, with the links of each node behind its corners. */
  private putNodes({ bounds, links }: TriangleTree, nodes: number, centre: readonly number[]): void {
    const boxes = new Float32Array(this.memory.buffer, TREE_AT, nodes * 8);
    const whole = new Int32Array(this.memory.buffer, TREE_AT, nodes * 8);
    for (let n = 0; n < nodes; n++) {
      for (let k = 0; k < 3; k++) {
        boxes[n * 8 + k] = roundedDown(bounds[n * 6 + k]! - centre[k]!);
        boxes[n * 8 + 4 + k] = -roundedDown(centre[k]! - bounds[n * 6 + 3 + k]!);
      }
      whole[n * 8 + 3] = links[n * 2]!;
      whole[n * 8 + 7] = links[n * 2 + 1]!;
    }
  }

  /** Corners by coordinate: x of the three corners and a blank, then y, then z. */
  private putTriangles({ vertices, order }: TriangleTree, at: number): void {
    const into = new Float64Array(this.memory.buffer, at, order.length * 12);
    for (let t = 0; t < order.length; t++)
      for (let k = 0; k < 3; k++)
        for (let corner = 0; corner < 3; corner++)
          into[t * 12 + k * 4 + corner] = vertices[t * 9 + corner * 3 + k]!;
  }

  private putDirections(directions: DirectionSet): void {
    const packets = directions.packets(LANES);
    const words = maskWords(directions.count);
    const packetsAt = aligned(this.treeEnd);
    const hintsAt = packetsAt + packets.length * PACKET;
    this.sensorsAt = aligned(hintsAt + packets.length * HINTS * 4);
    this.maskAt = this.sensorsAt + CHUNK * SENSOR;
    const end = this.maskAt + CHUNK * words * 4;
    const missing = Math.ceil(end / PAGE) - this.memory.buffer.byteLength / PAGE;
    if (missing > 0) this.memory.grow(missing);
    new Float32Array(this.memory.buffer, packetsAt, packets.length * 64).set(packed(directions));
    this.wasm.setDirections(packetsAt, packets.length, hintsAt);
    this.wasm.forget();
    this.directions = directions;
  }
}

/** Directions as the kernel has them; kept, since a kernel may go from one set to another and back. */
const laid = new WeakMap<DirectionSet, Float32Array>();

function packed(directions: DirectionSet): Float32Array {
  let lanes = laid.get(directions);
  if (!lanes) laid.set(directions, (lanes = lanesOf(directions)));
  return lanes;
}

function lanesOf(directions: DirectionSet): Float32Array {
  const { vectors } = directions;
  const packets = directions.packets(LANES);
  const lanes = new Float32Array(packets.length * 64);
  const whole = new Int32Array(lanes.buffer);
  packets.forEach(({ octant, members }, p) => {
    for (let lane = 0; lane < LANES; lane++) {
      // The last packet of an octant is filled up with copies that count for nothing.
      const member = members[Math.min(lane, members.length - 1)]!;
      for (let k = 0; k < 3; k++) {
        const component = vectors[member * 3 + k]!;
        const sign = (octant >> k) & 1 ? -1 : 1;
        lanes[p * 64 + k * 8 + lane] = component;
        lanes[p * 64 + 24 + k * 8 + lane] = sign / Math.max(Math.abs(component), 1e-18);
      }
      whole[p * 64 + 48 + lane] = lane < members.length ? member : -1;
    }
    whole[p * 64 + 56] = octant;
    // The least and the greatest reciprocal by axis.
    for (let k = 0; k < 3; k++) {
      const reciprocals = lanes.subarray(p * 64 + 24 + k * 8, p * 64 + 32 + k * 8);
      lanes[p * 64 + 57 + k] = Math.min(...reciprocals);
      lanes[p * 64 + 60 + k] = Math.max(...reciprocals);
    }
  });
  return lanes;
}

/** Where a tree ends in the memory, bytes. */
export function endOf({ links, order }: TriangleTree): number {
  return TREE_AT + (links.length / 2) * NODE + order.length * TRIANGLE;
}

function aligned(at: number): number {
  return (at + 15) & ~15;
}

function centreOf({ bounds, links }: TriangleTree): [number, number, number] {
  if (links.length === 0) return [0, 0, 0];
  return [0, 1, 2].map((k) => (bounds[k]! + bounds[k + 3]!) / 2) as [number, number, number];
}

/** The number in single precision that is not above it. */
function roundedDown(value: number): number {
  const rounded = Math.fround(value);
  return rounded <= value ? rounded : Math.fround(value - Math.abs(value) * 1.2e-7 - 1e-30);
}
