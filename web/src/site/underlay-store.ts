import type { Point2, Project, Underlay } from '@dial-shade/core';
import { create } from 'zustand';
import { forgetWithProject } from '../state/project-store';

/** What is done with pictures on the ground. */
interface Underlays {
  /** The picture that is worked on, by its id. */
  chosen: string | null;
  /** Points that have been clicked with the tool at hand, and where the pointer is. */
  points: readonly Point2[];
  pointer: Point2 | null;
}

const NOTHING: Underlays = { chosen: null, points: [], pointer: null };

export const useUnderlays = create<Underlays>(() => NOTHING);

forgetWithProject(() => useUnderlays.setState(NOTHING));

export const forgetPoints = () => useUnderlays.setState({ points: [], pointer: null });

/** The picture that is chosen, where it can be taken hold of. */
export function underlayInHand(
  { underlays }: Pick<Project, 'underlays'>,
  chosen: string | null,
): Underlay | undefined {
  return underlays.find(({ id, locked, shown }) => id === chosen && !locked && shown);
}
