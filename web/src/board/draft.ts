import type { Point2 } from '@dial-shade/core';
import { create } from 'zustand';
import type { Tool } from '../state/view-store';

/** What is being drawn, and where the pointer is. */
export interface Draft {
  points: Point2[];
  pointer: Point2 | null;
  /** Lines that show why the point falls where it does. */
  guides: [Point2, Point2][];
  /** A length being typed. */
  typed: string;
  /** Why what was typed cannot be used. */
  wrong: string | null;
}

const BLANK: Draft = { points: [], pointer: null, guides: [], typed: '', wrong: null };

export const useDraft = create<Draft>(() => BLANK);

export type DrawTool = Extract<Tool, { kind: 'draw' }>;

/** The outline or line as it stands with the pointer as its next point. */
export function draftOutline(
  { points, pointer }: Pick<Draft, 'points' | 'pointer'>,
  shape: DrawTool['shape'],
): Point2[] {
  if (!pointer) return points;
  const first = points[0];
  if (shape === 'rectangle' && first) return [first, [pointer[0], first[1]], pointer, [first[0], pointer[1]]];
  return [...points, pointer];
}

export function cancelDrawing(): void {
  useDraft.setState(BLANK);
}
