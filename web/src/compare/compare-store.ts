import type { MeasureValues } from '@dial-shade/core';
import { create } from 'zustand';
import { forgetWithProject } from '../state/project-store';

/** What lies on the board of the Compare stage. */
export type CompareShow = 'table' | 'trade-off' | 'sweep' | 'wall' | 'split' | 'board';

interface CompareState {
  show: CompareShow;
  /** Keys of the measures of a trade-off. */
  x: string | null;
  y: string | null;
  /** The two options of a split, and where its divider stands, as a share. */
  left: string | null;
  right: string | null;
  divider: number;
  /** Whether results of the active study lie on the board. */
  onBoard: boolean;
  /** Massing, envelopes and rooms by what is compared. */
  values: Readonly<Record<string, MeasureValues>>;
  /** Runs that are being brought up to date: how many were asked for, or null. */
  asked: number | null;
}

const NOTHING: CompareState = {
  ...{
    show: 'table',
    x: null,
    y: null,
    left: null,
    right: null,
    divider: 0.5,
    onBoard: false,
    values: {},
    asked: null,
  },
};

export const useCompare = create<CompareState>(() => NOTHING);
forgetWithProject(() => useCompare.setState(NOTHING));
