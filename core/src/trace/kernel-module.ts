import { KERNEL_BYTES } from './kernel-bytes';

/** What the kernel offers; addresses are bytes from the beginning of its memory. */
export interface KernelExports {
  setTree(
    nodesAt: number,
    trianglesAt: number,
    nodes: number,
    stackAt: number,
    recentAt: number,
    startsAt: number,
    x: number,
    y: number,
    z: number,
  ): void;
  setDirections(packetsAt: number, packets: number, hintsAt: number): void;
  forget(): void;
  /** Gives the number of nodes. */
  buildTree(recordsAt: number, count: number, nodesAt: number, scratchAt: number): number;
  nearestBySensor(sensorsAt: number, count: number, idsAt: number, directions: number): void;
  bySensor(sensorsAt: number, count: number, isBounded: boolean, maskAt: number, words: number): void;
}

export interface KernelMemory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}

/** The part of WebAssembly that is used: the same in browsers and in Node. */
declare const WebAssembly: {
  Module: new (bytes: Uint8Array) => object;
  Memory: new (limits: { initial: number; maximum: number }) => KernelMemory;
  Instance: new (module: object, imports: object) => { exports: unknown };
};

const MAX_PAGES = 65_535;
let compiled: object | null = null;

/** The kernel with a memory of its own, of so many pages of 64 KiB. */
export function kernelModule(pages: number): { memory: KernelMemory; wasm: KernelExports } {
  compiled ??= new WebAssembly.Module(fromBase64(KERNEL_BYTES));
  const memory = new WebAssembly.Memory({ initial: pages, maximum: MAX_PAGES });
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory } });
  return { memory, wasm: exports as KernelExports };
}

const DIGITS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

function fromBase64(text: string): Uint8Array {
  const plain = text.replace(/=+$/, '');
  const bytes = new Uint8Array((plain.length * 3) >> 2);
  let bits = 0;
  let held = 0;
  let at = 0;
  for (const digit of plain) {
    bits = (bits << 6) | DIGITS.indexOf(digit);
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at++] = (bits >> held) & 255;
  }
  return bytes;
}
