import { InputError } from '../errors';

const BINS = 16;
/** Bins enough for a node of few triangles. */
const FEW_BINS = 6;
const LEAF = 4;
const TRAVERSAL_COST = 1.2;

const EMPTY_BINS = Float64Array.from({ length: BINS * 6 }, (_, i) => (i % 6 < 3 ? Infinity : -Infinity));

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
    return new TriangleTree(new Builder(positions).build());
  }
}

class Builder {
  private readonly count: number;
  private readonly boxes: Float64Array;
  private readonly centres: Float64Array;
  private readonly order: Uint32Array;
  private readonly bounds: Float32Array;
  private readonly links: Int32Array;
  private nodes = 0;

  private readonly binBox = new Float64Array(BINS * 6);
  private readonly binCount = new Int32Array(BINS);
  private readonly rightArea = new Float64Array(BINS);
  private readonly rightCount = new Int32Array(BINS);
  private readonly run = new Float64Array(6);

  constructor(private readonly positions: Float64Array) {
    this.count = positions.length / 9;
    this.boxes = new Float64Array(this.count * 6);
    this.centres = new Float64Array(this.count * 3);
    this.order = new Uint32Array(this.count);
    const maxNodes = Math.max(1, 2 * this.count - 1);
    this.bounds = new Float32Array(maxNodes * 6);
    this.links = new Int32Array(maxNodes * 2);
    for (let t = 0; t < this.count; t++) this.measure(t);
  }

  private measure(t: number): void {
    this.order[t] = t;
    for (let axis = 0; axis < 3; axis++) {
      const a = this.positions[t * 9 + axis]!;
      const b = this.positions[t * 9 + 3 + axis]!;
      const c = this.positions[t * 9 + 6 + axis]!;
      const low = Math.min(a, b, c);
      const high = Math.max(a, b, c);
      if (!Number.isFinite(low + high))
        throw new InputError('triangles', `Triangle ${t + 1} has a coordinate that is not a finite number.`);
      this.boxes[t * 6 + axis] = low;
      this.boxes[t * 6 + 3 + axis] = high;
      this.centres[t * 3 + axis] = (low + high) / 2;
    }
  }

  build(): TreeBuffers {
    if (this.count > 0) this.split(0, this.count);
    const vertices = new Float64Array(this.count * 9);
    for (let i = 0; i < this.count; i++) {
      const from = this.order[i]! * 9;
      vertices.set(this.positions.subarray(from, from + 9), i * 9);
    }
    return {
      bounds: this.bounds.slice(0, this.nodes * 6),
      links: this.links.slice(0, this.nodes * 2),
      vertices,
      order: this.order,
    };
  }

  private split(start: number, end: number): number {
    const node = this.nodes++;
    const { boxes, centres, order } = this;
    let x0 = Infinity,
      y0 = Infinity,
      z0 = Infinity,
      x1 = -Infinity,
      y1 = -Infinity,
      z1 = -Infinity;
    let cx0 = Infinity,
      cy0 = Infinity,
      cz0 = Infinity,
      cx1 = -Infinity,
      cy1 = -Infinity,
      cz1 = -Infinity;
    for (let i = start; i < end; i++) {
      const b = order[i]! * 6;
      const c = order[i]! * 3;
      if (boxes[b]! < x0) x0 = boxes[b]!;
      if (boxes[b + 1]! < y0) y0 = boxes[b + 1]!;
      if (boxes[b + 2]! < z0) z0 = boxes[b + 2]!;
      if (boxes[b + 3]! > x1) x1 = boxes[b + 3]!;
      if (boxes[b + 4]! > y1) y1 = boxes[b + 4]!;
      if (boxes[b + 5]! > z1) z1 = boxes[b + 5]!;
      if (centres[c]! < cx0) cx0 = centres[c]!;
      if (centres[c + 1]! < cy0) cy0 = centres[c + 1]!;
      if (centres[c + 2]! < cz0) cz0 = centres[c + 2]!;
      if (centres[c]! > cx1) cx1 = centres[c]!;
      if (centres[c + 1]! > cy1) cy1 = centres[c + 1]!;
      if (centres[c + 2]! > cz1) cz1 = centres[c + 2]!;
    }
    this.setBounds(node, [x0, y0, z0, x1, y1, z1]);
    const size = end - start;
    const best = size > 1 ? this.bestSplit(start, end, [cx0, cy0, cz0], [cx1, cy1, cz1]) : null;
    const ownArea = halfArea(x1 - x0, y1 - y0, z1 - z0);
    if (size <= LEAF && (!best || best.cost / ownArea + TRAVERSAL_COST >= size)) {
      this.links[node * 2] = ~start;
      this.links[node * 2 + 1] = size;
      return node;
    }
    const axis = best ? best.axis : 0;
    const middle = best ? this.partition(start, end, best) : start + (size >> 1);
    this.split(start, middle);
    this.links[node * 2] = this.split(middle, end);
    this.links[node * 2 + 1] = axis;
    return node;
  }

  /** Bounds in single precision, rounded outwards by more than its rounding step. */
  private setBounds(node: number, box: number[]): void {
    for (let i = 0; i < 6; i++) {
      const slack = 1e-6 + Math.abs(box[i]!) * 2.4e-7;
      this.bounds[node * 6 + i] = i < 3 ? box[i]! - slack : box[i]! + slack;
    }
  }

  private bestSplit(start: number, end: number, low: number[], high: number[]) {
    let best: { axis: number; bin: number; cost: number; origin: number; scale: number } | null = null;
    for (let axis = 0; axis < 3; axis++) {
      const width = high[axis]! - low[axis]!;
      if (width <= 1e-12) continue;
      const bins = end - start < 24 ? FEW_BINS : BINS;
      const scale = (bins * (1 - 1e-9)) / width;
      const found = this.sweep(start, end, axis, low[axis]!, scale, bins);
      if (found && (!best || found.cost < best.cost)) best = { axis, ...found, origin: low[axis]!, scale };
    }
    return best;
  }

  private sweep(start: number, end: number, axis: number, origin: number, scale: number, bins: number) {
    const { binBox, binCount, rightArea, rightCount } = this;
    binCount.fill(0);
    binBox.set(EMPTY_BINS);
    for (let i = start; i < end; i++) {
      const t = this.order[i]!;
      const bin = ((this.centres[t * 3 + axis]! - origin) * scale) | 0;
      binCount[bin]!++;
      grow(binBox, bin * 6, this.boxes, t * 6);
    }
    const { run } = this;
    empty(run);
    let count = 0;
    for (let b = bins - 1; b > 0; b--) {
      grow(run, 0, binBox, b * 6);
      count += binCount[b]!;
      rightArea[b] = count ? halfArea(run[3]! - run[0]!, run[4]! - run[1]!, run[5]! - run[2]!) : 0;
      rightCount[b] = count;
    }
    empty(run);
    count = 0;
    let best: { bin: number; cost: number } | null = null;
    for (let b = 0; b < bins - 1; b++) {
      grow(run, 0, binBox, b * 6);
      count += binCount[b]!;
      if (count === 0 || rightCount[b + 1] === 0) continue;
      const area = halfArea(run[3]! - run[0]!, run[4]! - run[1]!, run[5]! - run[2]!);
      const cost = area * count + rightArea[b + 1]! * rightCount[b + 1]!;
      if (!best || cost < best.cost) best = { bin: b, cost };
    }
    return best;
  }

  private partition(
    start: number,
    end: number,
    { axis, bin, origin, scale }: { axis: number; bin: number; origin: number; scale: number },
  ): number {
    const { order, centres } = this;
    let i = start;
    let j = end - 1;
    while (i <= j) {
      const t = order[i]!;
      if ((((centres[t * 3 + axis]! - origin) * scale) | 0) <= bin) i++;
      else {
        order[i] = order[j]!;
        order[j--] = t;
      }
    }
    return i;
  }
}

function halfArea(x: number, y: number, z: number): number {
  return x * y + y * z + z * x;
}

function empty(box: Float64Array): void {
  box[0] = box[1] = box[2] = Infinity;
  box[3] = box[4] = box[5] = -Infinity;
}

function grow(into: Float64Array, at: number, box: Float64Array, from: number): void {
  if (box[from]! < into[at]!) into[at] = box[from]!;
  if (box[from + 1]! < into[at + 1]!) into[at + 1] = box[from + 1]!;
  if (box[from + 2]! < into[at + 2]!) into[at + 2] = box[from + 2]!;
  if (box[from + 3]! > into[at + 3]!) into[at + 3] = box[from + 3]!;
  if (box[from + 4]! > into[at + 4]!) into[at + 4] = box[from + 4]!;
  if (box[from + 5]! > into[at + 5]!) into[at + 5] = box[from + 5]!;
}
