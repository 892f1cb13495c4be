/** Lets so many in at once; the others wait for their turn in the order in which they came. */
export class Gate {
  private free: number;
  private readonly waiting: (() => void)[] = [];

  constructor(places: number) {
    this.free = places;
  }

  async run<T>(work: () => Promise<T>): Promise<T> {
    if (this.free > 0) this.free--;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    try {
      return await work();
    } finally {
      const next = this.waiting.shift();
      if (next) next();
      else this.free++;
    }
  }
}
