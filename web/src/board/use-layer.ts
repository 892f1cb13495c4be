import { useEffect, useRef } from 'react';
import { Group, type Object3D } from 'three';
import { empty } from './overlay-lines';
import type { Label } from './label-layer';
import type { Labeller, PaneView } from './pane-view';

/** Keeps what is made of some values in the overlay of a view; made anew only when one of the values changes. */
export function useLayer(view: PaneView, make: () => readonly Object3D[], values: readonly unknown[]): void {
  const group = useRef<Group | null>(null);
  useEffect(() => {
    const made = new Group();
    group.current = made;
    view.overlay.add(made);
    return () => {
      empty(made);
      view.overlay.remove(made);
    };
  }, [view]);
  useEffect(() => {
    const objects = make();
    if (objects.length) group.current!.add(...objects);
    view.render();
    const layer = group.current!;
    return () => empty(layer);
    // What is made depends on the values alone.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [view, ...values]);
}

/** Pins labels to the scene of a view for as long as whoever gives them is there. */
export function useLabels(view: PaneView, by: Labeller, labels: readonly Label[]): void {
  useEffect(() => view.setLabels(by, labels), [view, by, labels]);
  useEffect(() => () => view.setLabels(by, []), [view, by]);
}
