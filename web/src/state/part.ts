/** Between two tries to fetch a part of the page. */
const RETRY_MS = 3000;

/** A part of the page's script that its first view can do without. */
export interface Part<T> {
  /** What was fetched; null where it has not come yet. */
  readonly here: T | null;
  /** Fetches it, for as long as it takes; `missed` hears of it where it cannot be had yet. */
  fetch(missed?: () => void): Promise<T>;
}

const known: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that is fetched when it is needed, at the latest once the first view stands (`fetchParts`), so that it
 * is there when the server is away.
 */
export function part<T>(load: () => Promise<T>): Part<T> {
  let here: T | null = null;
  let coming: Promise<T> | null = null;
  const waiting = new Set<() => void>();
  const once = async () => (here ??= await load());
  const untilHere = async () => {
    for (;;) {
      try {
        return await once();
      } catch {
        for (const missed of waiting) missed();
        waiting.clear();
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      }
    }
  };
  known.push(once);
  return {
    get here() {
      return here;
    },
    fetch(missed) {
      if (missed && here === null) waiting.add(missed);
      return (coming ??= untilHere());
    },
  };
}

const idle = () =>
  new Promise<void>((resolve) => {
    if ('requestIdleCallback' in window) requestIdleCallback(() => resolve(), { timeout: 5000 });
    else setTimeout(resolve, 2000);
  });

/** Fetches all parts once the page has nothing else to do; ends when each has come, or could not be had. */
export async function fetchParts(): Promise<void> {
  if (known.length === 0) return;
  await idle();
  await Promise.allSettled(known.splice(0).map((once) => once()));
}
