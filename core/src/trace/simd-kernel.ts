import type { DirectionSet } from './direction-set';
import { endOf, KernelPlace } from './kernel-place';
import { type Kernel, MaskKernel } from './mask-kernel';
import type { TriangleTree } from './tree';

/** Triangles after which a copy of the tree in every thread would take too much memory. */
export const MAX_SIMD_TRIANGLES = 1_000_000;
/**
 * Memories of a thread. Each takes gigabytes of the address space of its process, however little of it is used, and a page
 * of a browser has room for little more than a hundred with all its workers; devices that move have hundreds of trees.
 */
const MAX_PLACES = 8;
/** Bytes that they hold together, but for one tree that needs more by itself. */
const MAX_BYTES = 1024 ** 3;
/** A memory never shrinks: one that is larger than this, and so many times as large as what is to be put there, is let go. */
const LARGE_BYTES = 16 * 1024 ** 2;
const LARGE_TIMES = 8;

/** A place and who works there, by number: it must not keep a kernel or its tree, which may be large. */
interface Taken {
  place: KernelPlace;
  kernel: number;
  /** Which of the trees that the kernel has had is there. */
  tree: number;
  /** The kernel is no more. */
  isLeft: boolean;
}

/** The one that was used last comes last. */
const taken: Taken[] = [];
const ends = new FinalizationRegistry<number>((kernel) => {
  const own = taken.find((one) => one.kernel === kernel);
  if (own) own.isLeft = true;
});
let kernelsMade = 0;

/**
 * The mask kernel in WebAssembly with SIMD: the same masks as `MaskKernel`, bit for bit but for rays that graze an edge.
 * Kernels share a few memories; one that finds its own taken by another puts its tree anew.
 */
export class SimdKernel implements Kernel {
  private readonly number = kernelsMade++;
  private treesHad = 1;

  constructor(private tree: TriangleTree) {
    ends.register(this, this.number);
  }

  /** Traces against another tree from now on. What was made of the directions stays as it is where the tree has room. */
  setTree(tree: TriangleTree): void {
    this.tree = tree;
    this.treesHad++;
  }

  trace(
    sensors: Float64Array,
    normals: Float64Array | null,
    from: number,
    to: number,
    directions: DirectionSet,
    mask: Uint32Array,
  ): void {
    this.place().trace(sensors, normals, from, to, directions, mask);
  }

  /** See `nearestLeaves`. */
  nearest(sensors: Float64Array, directions: DirectionSet, into: Int32Array): void {
    this.place().nearest(sensors, directions, into);
  }

  /** A place with its tree: its own, one that nobody has any longer, a new one, or that of whoever was at work longest ago. */
  private place(): KernelPlace {
    const { number: kernel, treesHad, tree } = this;
    const at = taken.findIndex((one) => one.kernel === kernel);
    const own = at < 0 ? null : taken.splice(at, 1)[0]!;
    let place = own ? own.place : freePlace(endOf(tree));
    if (!place) place = new KernelPlace(tree);
    else if (own?.tree !== treesHad) place.setTree(tree);
    taken.push({ place, kernel, tree: treesHad, isLeft: false });
    return place;
  }
}

/** A place for a tree of so many bytes; null where a new one is to be made. */
function freePlace(bytes: number): KernelPlace | null {
  const isFit = ({ place }: Taken) => place.bytes <= Math.max(LARGE_BYTES, LARGE_TIMES * bytes);
  const letGo = (at: number) => taken.splice(at, 1)[0]!;
  const left = taken.findIndex((one) => one.isLeft && isFit(one));
  if (left >= 0) return letGo(left).place;
  const held = () => taken.reduce((sum, { place }) => sum + place.bytes, 0);
  let last: Taken | undefined;
  while (taken.length >= MAX_PLACES || (taken.length > 0 && held() + bytes > MAX_BYTES))
    last = letGo(
      Math.max(
        0,
        taken.findIndex(({ isLeft }) => isLeft),
      ),
    );
  return last && isFit(last) ? last.place : null;
}

const kernels = new WeakMap<TriangleTree, Kernel>();

/** The kernel for a tree, made once: with SIMD, in plain TypeScript for trees of over a million triangles. */
export function kernelFor(tree: TriangleTree): Kernel {
  let kernel = kernels.get(tree);
  if (!kernel) {
    kernel = tree.order.length > MAX_SIMD_TRIANGLES ? new MaskKernel(tree) : new SimdKernel(tree);
    kernels.set(tree, kernel);
  }
  return kernel;
}
