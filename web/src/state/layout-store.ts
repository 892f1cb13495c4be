import type { CsvForm } from '@dial-shade/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Stage } from './view-store';

/** Bounds of what can be dragged, CSS pixels. */
export const SHEET_WIDTH = { least: 260, most: 460, plain: 296 };
export const ALMANAC_HEIGHT = { least: 120, most: 420, plain: 196, folded: 40 };

interface Layout {
  sheetWidth: number;
  almanacHeight: number;
  /** Stages on which the almanac was folded (true) or opened by hand. */
  almanacFolded: Partial<Record<Stage, boolean>>;
  /** Sections of sheets that are folded, by name. */
  foldedSections: Record<string, boolean>;
  /** What parts the cells of CSV files. */
  csvForm: Exclude<CsvForm, 'plain'>;
}

/** How the frame is laid out on this screen; remembered from visit to visit. */
export const useLayout = create<Layout>()(
  persist(
    (): Layout => ({
      sheetWidth: SHEET_WIDTH.plain,
      almanacHeight: ALMANAC_HEIGHT.plain,
      almanacFolded: {},
      foldedSections: {},
      csvForm: 'comma',
    }),
    { name: 'dial-shade:layout' },
  ),
);

const within = (value: number, { least, most }: { least: number; most: number }) =>
  Math.round(Math.min(most, Math.max(least, value)));

export function setSheetWidth(pixels: number): void {
  useLayout.setState({ sheetWidth: within(pixels, SHEET_WIDTH) });
}

/** The almanac as high as asked; pulled below its least height it folds. */
export function setAlmanacHeight(stage: Stage, pixels: number): void {
  const isFolded = pixels < (ALMANAC_HEIGHT.least + ALMANAC_HEIGHT.folded) / 2;
  useLayout.setState(({ almanacFolded, almanacHeight }) => ({
    almanacHeight: isFolded ? almanacHeight : within(pixels, ALMANAC_HEIGHT),
    almanacFolded: { ...almanacFolded, [stage]: isFolded },
  }));
}

/** Whether the almanac is a strip on a stage: where nobody has said, on those where a model is made. */
export function isAlmanacFolded({ almanacFolded }: Pick<Layout, 'almanacFolded'>, stage: Stage): boolean {
  return almanacFolded[stage] ?? (stage === 'form' || stage === 'openings' || stage === 'compare');
}

export function foldAlmanac(stage: Stage, folded: boolean): void {
  useLayout.setState(({ almanacFolded }) => ({ almanacFolded: { ...almanacFolded, [stage]: folded } }));
}

export function foldSection(name: string, folded: boolean): void {
  useLayout.setState(({ foldedSections }) => ({ foldedSections: { ...foldedSections, [name]: folded } }));
}
