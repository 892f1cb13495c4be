/** Pauses before something that ended is started again, growing; after the last it is given up. */
const PAUSES_MS = [300, 1000, 2000, 4000, 8000, 15_000];
/** What has lived so long counts as well again. */
const WELL_MS = 60_000;

/**
 * Counts how often something ended by itself. `next` gives the pause before it is started again, or null when it has ended
 * too often in a row.
 */
export function patience(now = () => Date.now()) {
  let ends = 0;
  let startedAt = now();
  return {
    started: () => (startedAt = now()),
    next() {
      if (now() - startedAt > WELL_MS) ends = 0;
      return PAUSES_MS[ends++] ?? null;
    },
  };
}
