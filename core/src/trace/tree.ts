import { InputError } from '../errors';
import { kernelModule } from './kernel-module';

/** Bytes of what the builder reads and writes; see `core/kernel/tree-builder.ts`. */
const RECORD = 32;
const NODE = 32;
const SCRATCH_AT = 1024;
/** After the scratch. */
const RECORDS_AT = SCRATCH_AT + 2048;
const PAGE = 65_536;
/** Pages of the builder that is kept for the next tree; a larger one only as long as nothing else needs the room. */
const KEPT_PAGES = 256;
/** Numbers of triangles stand beside their boxes in single precision, which counts no further. */
const MAX_TRIANGLES = 1 << 24;

/** The buffers of a tree, for crossing a thread boundary. */
export interface TreeBuffers {
  bounds: Float32Array;
  links: Int32Array;
  vertices: Float64Array;
  order: Uint32Array;
}

/**
 * A bounding volume tree over triangles, built by binned surface area heuristic, flat in typed arrays.
 * Nodes stand in depth-first order, so that the left child of node n is n + 1.
 */
export class TriangleTree {
  /** 6 numbers a node: least x, y, z, greatest x, y, z; rounded outwards. */
  readonly bounds: Float32Array;
  /** 2 numbers a node: inner: right child, split axis; leaf: ~first triangle, count. */
  readonly links: Int32Array;
  /** 9 numbers a triangle, in leaf order. */
  readonly vertices: Float64Array;
  /** Triangle of the input for each triangle in leaf order. */
  readonly order: Uint32Array;

  private constructor(buffers: TreeBuffers) {
    this.bounds = buffers.bounds;
    this.links = buffers.links;
    this.vertices = buffers.vertices;
    this.order = buffers.order;
  }

  /** A tree made from the buffers of another. */
  static from(buffers: TreeBuffers): TriangleTree {
    return new TriangleTree(buffers);
  }

  /**
   * @param positions 9 numbers a triangle
   * Throws InputError `triangles` when a coordinate is not finite or the length is not a multiple of nine.
   */
  static build(positions: Float64Array): TriangleTree {
    if (positions.length % 9 !== 0)
      throw new InputError('triangles', 'Triangles need nine coordinates each.');
    return new TriangleTree(built(positions));
  }
}

type Builder = ReturnType<typeof kernelModule>;

let kept: Builder | null = null;
/** One that was made for a large tree, used for others as long as it is there. */
let large: WeakRef<Builder> | null = null;

function builderOf(pages: number): Builder {
  if (pages <= KEPT_PAGES) return (kept ??= kernelModule(KEPT_PAGES));
  const known = large?.deref();
  if (known) {
    const missing = pages - known.memory.buffer.byteLength / PAGE;
    if (missing > 0) known.memory.grow(missing);
    return known;
  }
  const made = kernelModule(pages);
  large = new WeakRef(made);
  return made;
}

/** Puts the triangles' boxes before the builder and takes the tree that it makes. */
function built(positions: Float64Array): TreeBuffers {
  const count = positions.length / 9;
  if (count > MAX_TRIANGLES)
    throw new InputError('triangles', `A tree holds up to ${MAX_TRIANGLES} triangles.`);
  const nodesAt = RECORDS_AT + count * RECORD;
  const end = nodesAt + Math.max(1, 2 * count) * NODE;
  const { memory, wasm } = builderOf(Math.ceil(end / PAGE));
  const records = new Float32Array(memory.buffer, RECORDS_AT, count * 8);
  for (let t = 0; t < count; t++) {
    for (let axis = 0; axis < 3; axis++) {
      const a = positions[t * 9 + axis]!;
      const b = positions[t * 9 + 3 + axis]!;
      const c = positions[t * 9 + 6 + axis]!;
      const low = Math.min(a, b, c);
      const high = Math.max(a, b, c);
      if (!Number.isFinite(low + high))
        throw new InputError('triangles', `Triangle ${t + 1} has a coordinate that is not a finite number.`);
      records[t * 8 + axis] = low;
      records[t * 8 + 4 + axis] = high;
    }
    records[t * 8 + 3] = t;
  }
  const nodes = wasm.buildTree(RECORDS_AT, count, nodesAt, SCRATCH_AT);
  const order = new Uint32Array(count);
  const vertices = new Float64Array(count * 9);
  for (let i = 0; i < count; i++) {
    const from = (order[i] = records[i * 8 + 3]!) * 9;
    for (let k = 0; k < 9; k++) vertices[i * 9 + k] = positions[from + k]!;
  }
  return { ...nodesFrom(memory.buffer, nodesAt, nodes), vertices, order };
}

/** Bounds in single precision, rounded outwards by more than two rounding steps, and links. */
function nodesFrom(buffer: ArrayBuffer, at: number, count: number) {
  const boxes = new Float32Array(buffer, at, count * 8);
  const whole = new Int32Array(buffer, at, count * 8);
  const bounds = new Float32Array(count * 6);
  const links = new Int32Array(count * 2);
  for (let n = 0; n < count; n++) {
    for (let k = 0; k < 3; k++) {
      const low = boxes[n * 8 + k]!;
      const high = boxes[n * 8 + 4 + k]!;
      bounds[n * 6 + k] = low - 1e-6 - Math.abs(low) * 2.4e-7;
      bounds[n * 6 + 3 + k] = high + 1e-6 + Math.abs(high) * 2.4e-7;
    }
    links[n * 2] = whole[n * 8 + 3]!;
    links[n * 2 + 1] = whole[n * 8 + 7]!;
  }
  return { bounds, links };
}
