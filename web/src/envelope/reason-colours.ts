import { OBSTRUCTION_COLOURS, OTHER_OBSTRUCTION } from '../theme/palette';

/** Colour of limits of height and lines of slope. */
const LIMIT = '#8d877b';

/** The colour of a reason, by which of what an envelope keeps it is of; −1: a limit. */
export function reasonColour(kept: number | undefined): string {
  if (kept === undefined || kept < 0) return LIMIT;
  return OBSTRUCTION_COLOURS[kept % OBSTRUCTION_COLOURS.length] ?? OTHER_OBSTRUCTION;
}
