import {
  type ComparedMeasure,
  comparedMeasures,
  firstMeasures,
  type Option,
  type Project,
  type Variant,
  variantOf,
} from '@dial-shade/core';
import { edit } from '../state/project-store';
import { optionsInOrder } from '../state/view-store';

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
