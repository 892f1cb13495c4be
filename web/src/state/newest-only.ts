/**
 * Works on one wish at a time, the newest only: those that come while it is at work and are followed by others are let go.
 * @param take given what was found, unless something else was wished for meanwhile
 */
export function newestOnly<W, R>(
  work: (wish: W) => Promise<R>,
  take: (found: R, wish: W) => void,
): (next: W | null) => Promise<void> {
  let wish: W | null = null;
  let isBusy = false;
  return async (next) => {
    wish = next;
    if (isBusy) return;
    isBusy = true;
    try {
      while (wish) {
        const mine: W = wish;
        const found = await work(mine);
        if (wish !== mine) continue;
        wish = null;
        take(found, mine);
      }
    } finally {
      isBusy = false;
    }
  };
}
