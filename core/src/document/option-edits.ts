import { InputError } from '../errors';
import { type Option, type Project, TODAY } from '../project';
import type { Edit } from './list-edits';
import { newId } from './ids';

/** Move an option one place forwards or backwards among the proposals. */
export const shiftOption =
  (optionId: string, by: 1 | -1): Edit =>
  (project) => {
    const proposals = project.options.filter((option) => option.id !== TODAY);
    const at = proposals.findIndex((option) => option.id === optionId);
    const to = at + by;
    if (at < 0 || to < 0 || to >= proposals.length) return project;
    [proposals[at], proposals[to]] = [proposals[to]!, proposals[at]!];
    return {
      ...project,
      options: [...project.options.filter((option) => option.id === TODAY), ...proposals],
    };
  };

/** A copy of an option with everything in it, under a new letter, behind the last proposal. */
export const duplicateOption =
  (optionId: string): Edit =>
  (project) => {
    const source = project.options.find((option) => option.id === optionId);
    if (!source) return project;
    const letter = nextLetter(project);
    const id = newId(letter.toLowerCase());
    const copy: Option = { ...source, id, letter, hue: nextHue(project), name: `${source.name} copy` };
    return { ...project, options: [...project.options, copy] };
  };

/** The next letter that no option has: A, B … Z. */
export function nextLetter(project: Project): string {
  const used = new Set(project.options.map((option) => option.letter));
  for (let code = 65; code <= 90; code++) {
    const letter = String.fromCharCode(code);
    if (!used.has(letter)) return letter;
  }
  throw new InputError('options', 'All letters from A to Z are taken; remove an option first.');
}

/** The option hue used least so far. */
export function nextHue(project: Project): number {
  const counts = new Array<number>(7).fill(0);
  for (const option of project.options) if (option.hue < 7) counts[option.hue]!++;
  return counts.indexOf(Math.min(...counts));
}
