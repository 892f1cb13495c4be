export type Checks = typeof import('./document-checks');

/** Between two tries to fetch the checks. */
const RETRY_MS = 3000;

let here: Checks | null = null;
let coming: Promise<Checks> | null = null;

/** What checks and merges documents, where it has been fetched. */
export function checksHere(): Checks | null {
  return here;
}

/** Fetches what checks and merges documents, for as long as it takes. The first view does without. */
export function fetchChecks(): Promise<Checks> {
  return (coming ??= fetchOnce());
}

async function fetchOnce(): Promise<Checks> {
  for (;;) {
    try {
      return (here = await import('./document-checks'));
    } catch {
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    }
  }
}
