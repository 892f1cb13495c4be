import { InputError } from '../errors';
import { summaryRows } from './summary';
import type { StudyResult } from './result-bytes';

/** What a surface would give with panels on it: an estimate at a glance. */
export interface PvGlance {
  areaM2: number;
  /** kWh by month, January first, and together. */
  months: number[];
  kWh: number;
  kWhPerM2: number;
}

/**
 * Insolation × area × efficiency × performance ratio, by month, over the targets that are chosen (all when none is).
 * Throws InputError `pv` for a result of another kind, or shares out of 0 to 1.
 */
export function pvGlance(
  { summary, targets, grid, values }: StudyResult,
  efficiency: number,
  performance: number,
  chosen: readonly string[] = [],
): PvGlance {
  if (summary.kind !== 'insolation')
    throw new InputError('pv', 'What panels would give is told of insolation only.');
  for (const [name, share] of [
    ['efficiency', efficiency],
    ['performance ratio', performance],
  ] as const)
    if (!(share > 0 && share <= 1))
      throw new InputError('pv', `The ${name} is a share above 0 and at most 1, not ${share}.`);
  const isChosen = (id: string) => chosen.length === 0 || chosen.includes(id);
  const sumOf = (key: string) =>
    summaryRows({ targets, grid, values: values[key]! }, 0)
      .filter(({ id }) => isChosen(id))
      .reduce((sum, { mean, areaM2 }) => sum + mean * areaM2, 0);
  const areaM2 = summaryRows({ targets, grid, values: values.insolation! }, 0)
    .filter(({ id }) => isChosen(id))
    .reduce((sum, row) => sum + row.areaM2, 0);
  const factor = efficiency * performance;
  const months = Array.from({ length: 12 }, (_, m) => sumOf(`m${String(m + 1).padStart(2, '0')}`) * factor);
  const kWh = sumOf('insolation') * factor;
  return { areaM2, months, kWh, kWhPerM2: areaM2 > 0 ? kWh / areaM2 : 0 };
}
