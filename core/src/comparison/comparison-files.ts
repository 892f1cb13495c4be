import { csvText } from '../civil';
import { trim } from '../study';
import type { ComparedMeasure, MeasureValues } from './measures';

/** An option with its figures. */
export interface ComparedOption {
  id: string;
  letter: string;
  name: string;
  values: MeasureValues;
}

const heading = ({ of, name, unit }: ComparedMeasure) =>
  `${of ? `${of}: ` : ''}${name}${unit ? ` (${unit})` : ''}`;

/** `option,name` and a column for each measure with its unit in the heading, a line an option; empty where there is no figure. */
export function comparisonCsv(
  measures: readonly ComparedMeasure[],
  options: readonly ComparedOption[],
): string {
  return csvText([
    ['option', 'name', ...measures.map(heading)],
    ...options.map(({ letter, name, values }) => [
      letter,
      name,
      ...measures.map(({ key }) => (key in values ? trim(values[key]!.value, 4) : '')),
    ]),
  ]);
}

/** `measures` with key, name, unit and better; `options` with the figures by key, and whether they pass. */
export function comparisonJson(
  measures: readonly ComparedMeasure[],
  options: readonly ComparedOption[],
): string {
  const round = (value: number) => Number(value.toFixed(6));
  return `${JSON.stringify(
    {
      measures: measures.map(({ key, of, name, unit, better }) => ({ key, of, name, unit, better })),
      options: options.map(({ id, letter, name, values }) => ({
        ...{ id, letter, name },
        values: Object.fromEntries(
          measures.filter(({ key }) => key in values).map(({ key }) => [key, round(values[key]!.value)]),
        ),
        passes: Object.fromEntries(
          measures.flatMap(({ key }) => {
            const passes = values[key]?.passes;
            return passes === undefined ? [] : [[key, passes]];
          }),
        ),
      })),
    },
    null,
    1,
  )}\n`;
}
