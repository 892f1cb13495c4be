/** How many memories of WebAssembly some work makes. */
export function memoriesMade(work: () => void): number {
  const { Memory } = WebAssembly;
  let made = 0;
  WebAssembly.Memory = class extends Memory {
    constructor(limits: WebAssembly.MemoryDescriptor) {
      super(limits);
      made++;
    }
  };
  try {
    work();
  } finally {
    WebAssembly.Memory = Memory;
  }
  return made;
}
