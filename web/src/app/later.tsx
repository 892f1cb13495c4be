import { type ComponentType, useEffect, useState } from 'react';
import { fetchChecks } from '../state/checks';
import { notify } from '../state/notice-store';

/** Between two tries to fetch what is to be shown. */
const RETRY_MS = 3000;

const loads: (() => Promise<unknown>)[] = [];

/**
 * A part of the page that its first view can do without. It is fetched when it is first shown, at the latest once the first
 * view stands, so that it is there when the server is away. One that cannot be had is told, and comes when it can; React's own
 * `lazy` would take the page down, and keep the failure for good.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  let part: ComponentType<P> | null = null;
  const fetchPart = async () => (part ??= await load());
  loads.push(fetchPart);
  return function Later(props: P) {
    const [Part, setPart] = useState(() => part);
    useEffect(() => {
      if (Part) return;
      let retry: ReturnType<typeof setTimeout> | undefined;
      let isHere = true;
      const show = (isFirst: boolean) =>
        fetchPart().then(
          (found) => isHere && setPart(() => found),
          () => {
            if (!isHere) return;
            if (isFirst)
              notify(
                'This part of the page could not be fetched yet; it comes when the server answers.',
                true,
              );
            retry = setTimeout(() => void show(false), RETRY_MS);
          },
        );
      void show(true);
      return () => {
        isHere = false;
        clearTimeout(retry);
      };
    }, [Part]);
    return Part && <Part {...props} />;
  };
}

/** Fetches all such parts, and what checks edits, when the page has nothing else to do. */
export function fetchLater(): void {
  const fetchAll = () => {
    void fetchChecks();
    for (const load of loads.splice(0)) void load().catch(() => {});
  };
  if ('requestIdleCallback' in window) requestIdleCallback(fetchAll, { timeout: 5000 });
  else setTimeout(fetchAll, 2000);
}
