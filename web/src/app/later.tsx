import { type ComponentType, useEffect, useState } from 'react';
import { notify } from '../state/notice-store';
import { type Part, part } from '../state/part';

/**
 * What to say of something of the page that could not be fetched: the server is away, or what it has bears other names now.
 * `then` is what comes of it when the server is back.
 */
export async function whyMissed(what: string, then: string): Promise<string> {
  const answers = await fetch('/api/health').then(
    ({ ok }) => ok,
    () => false,
  );
  return answers
    ? `${what} could not be fetched although the server answers: Dial Shade may have been renewed. Reload the page; your work is kept.`
    : `${what} could not be fetched: the server is away. ${then}`;
}

/** Says that something of the page is not there yet, and why. */
export function tellMissed(): void {
  void whyMissed('This part of the page', 'It comes when the server answers.').then((sentence) =>
    notify(sentence, true),
  );
}

/** A part of the page, fetched where it is wanted; null until it has come. One that cannot be had is told. */
export function usePart<T>(own: Part<T>, isWanted = true): T | null {
  const [here, setHere] = useState(() => own.here);
  useEffect(() => {
    if (here || !isWanted) return;
    let isShown = true;
    void own.fetch(() => isShown && tellMissed()).then((found) => isShown && setHere(() => found));
    return () => {
      isShown = false;
    };
  }, [own, here, isWanted]);
  return here;
}

/**
 * A component that is a part of its own, see `part`. One that cannot be had is told, and comes when it can; React's own `lazy`
 * would take the page down, and keep the failure for good.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const own = part(load);
  return function Later(props: P) {
    const Part = usePart(own);
    return Part && <Part {...props} />;
  };
}
