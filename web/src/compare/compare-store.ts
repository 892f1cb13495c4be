import {
  type Variant,
  variantOf,
  type ComparedMeasure,
  comparedMeasures,
  firstMeasures,
  type MeasureValues,
  type Option,
  type Project,
} from '@dial-shade/core';
import { create } from 'zustand';
import { edit, forgetWithProject } from '../state/project-store';
import { optionsInOrder } from '../state/view-store';

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

/** The measures that are shown, in their order; those that are gone are left out. */
export function chosenMeasures(project: Project): ComparedMeasure[] {
  const all = new Map(comparedMeasures(project).map((measure) => [measure.key, measure]));
  const keys = project.comparison.measures.length > 0 ? project.comparison.measures : firstMeasures(project);
  return keys.flatMap((key) => all.get(key) ?? []);
}

/** What is shown, in its order: options, and options with another scheme. */
export function chosenVariants(project: Project): Variant[] {
  const { options } = project.comparison;
  if (options === null) return optionsInOrder(project).map((option) => variantOf(project, option.id)!);
  return options.flatMap((id) => variantOf(project, id) ?? []);
}

/** The options among what is shown, each once. */
export function chosenOptions(project: Project): Option[] {
  return [...new Set(chosenVariants(project).map(({ option }) => option))];
}

/** Changes what is compared. */
export function setComparison(name: string, fields: Partial<Project['comparison']>): void {
  edit(name, (project) => ({ ...project, comparison: { ...project.comparison, ...fields } }), {
    quiet: true,
  });
}

/** A measure by its name and what it is of. */
export const nameOf = ({ of, name }: ComparedMeasure) => (of ? `${of}: ${name}` : name);
