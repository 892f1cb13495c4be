import { forgetWithProject } from './project-store';

/**
 * Works on one wish at a time, the newest only: those that come while it is at work and are followed by others are let go.
 * What was wished for in another project is let go too; its answer may never come.
 * @param take given what was found, unless something else was wished for meanwhile
 */
export function newestOnly<W, R>(
  work: (wish: W) => Promise<R>,
  take: (found: R, wish: W) => void,
): (next: W | null) => Promise<void> {
  let wish: W | null = null;
  let isBusy = false;
  let turn = 0;
  forgetWithProject(() => {
    wish = null;
    isBusy = false;
    turn++;
  });
  return async (next) => {
    wish = next;
    if (isBusy) return;
    isBusy = true;
    const began = turn;
    try {
      while (wish) {
        const mine: W = wish;
        const found = await work(mine);
        if (turn !== began) return;
        if (wish !== mine) continue;
        wish = null;
        take(found, mine);
      }
    } finally {
      if (turn === began) isBusy = false;
    }
  };
}
