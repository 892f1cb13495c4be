import type { MassingNumber, Option } from '@dial-shade/core';

/** The numbers of a massing that can be free, and between what they are tried at first. */
export const MASSING_NUMBERS: Record<
  MassingNumber['of'],
  { name: string; short: string; unit: string; from: number; to: number; steps: number }
> = {
  storeys: { name: 'number of storeys', short: 'Storeys', unit: '', from: 2, to: 6, steps: 5 },
  turn: { name: 'turned by', short: 'Turn °', unit: '°', from: -20, to: 20, steps: 5 },
  push: { name: 'a wall pushed out by', short: 'Push m', unit: 'm', from: -3, to: 3, steps: 5 },
  setback: { name: 'upper storeys set back by', short: 'Setback m', unit: 'm', from: 0, to: 3, steps: 4 },
  along: { name: 'moved by', short: 'Move m', unit: 'm', from: -4, to: 4, steps: 5 },
};

/** A number in words, as a heading. */
export function numberInWords(option: Option | undefined, number: MassingNumber): string {
  const name = option?.masses.find(({ id }) => id === number.mass)?.name ?? 'gone';
  const { name: kind, unit } = MASSING_NUMBERS[number.of];
  return `${name}: ${kind}${unit ? ` (${unit})` : ''}`;
}

/** A number as the heading of a column. */
export const shortNumber = ({ of }: MassingNumber) => MASSING_NUMBERS[of].short;

/** A number of a kind, to begin with. */
export function massingNumber(of: MassingNumber['of'], mass: string): MassingNumber {
  if (of === 'push') return { of, mass, edge: 0 };
  if (of === 'setback') return { of, mass, fromStorey: 1 };
  if (of === 'along') return { of, mass, bearingDeg: 0 };
  return { of, mass };
}
