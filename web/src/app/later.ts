import { type ComponentType, lazy } from 'react';

const loads: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that its first view can do without. It is fetched when it is first shown, at the latest once the first
 * view stands, so that it is there when the server is away.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>) {
  const fetched = async () => ({ default: await load() });
  loads.push(fetched);
  return lazy(fetched);
}

/** Fetches all such parts when the page has nothing else to do. What cannot be had is tried again when it is shown. */
export function fetchLater(): void {
  const fetchAll = () => {
    for (const load of loads.splice(0)) void load().catch(() => {});
  };
  if ('requestIdleCallback' in window) requestIdleCallback(fetchAll, { timeout: 5000 });
  else setTimeout(fetchAll, 2000);
}
