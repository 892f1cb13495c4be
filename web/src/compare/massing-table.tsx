import { betterOf, type ComparedMeasure, comparedMeasures, csvText, type Option } from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField } from '../app/fields';
import { saveCsv } from '../app/save-file';
import { useDocument } from '../state/project-store';
import { chosenMeasures, nameOf } from './compared';
import { readFigure } from './compare-table';
import { numberInWords, shortNumber } from './massing-numbers';
import { type MassingRun, useMassing } from './massing-store';

/** Rows of the table. */
const ROWS = 60;

/** The massings that have a figure, the best first; the greatest where neither way is better. */
function inOrder({ found }: MassingRun, { key, better }: ComparedMeasure) {
  const way = { better: better ?? 'more' };
  const all = found.flatMap((one, at) => {
    const figure = one?.figures?.[key];
    return figure ? [{ at, values: one!.values, figures: one!.figures!, value: figure.value }] : [];
  });
  return all.sort((a, b) =>
    betterOf(way, a.value, b.value) ? -1 : betterOf(way, b.value, a.value) ? 1 : a.at - b.at,
  );
}

/** The massings of a sweep in the order of a measure, best first; a click chooses one. */
export function MassingTable({ option, run }: { option: Option; run: MassingRun }) {
  const project = useDocument();
  const chosen = useMassing((state) => state.chosen);
  const measures = chosenMeasures(project).filter(({ key }) =>
    run.found.some((one) => one?.figures?.[key] !== undefined),
  );
  const [by, setBy] = useState<string | null>(null);
  const measure = measures.find(({ key }) => key === by) ?? measures.at(-1);
  const rows = measure ? inOrder(run, measure) : [];
  if (!measure || rows.length === 0) return null;
  const numbers = run.ranges.map(({ number }) => numberInWords(option, number));
  const save = () => {
    const all = comparedMeasures(project).filter(({ key }) => rows.some(({ figures }) => key in figures));
    saveCsv(
      csvText([
        [...numbers, ...all.map((one) => `${nameOf(one)}${one.unit ? ` (${one.unit})` : ''}`)],
        ...rows.map(({ values, figures }) => [
          ...values,
          ...all.map(({ key }) => (figures[key] ? Number(figures[key].value.toFixed(4)) : '')),
        ]),
      ]),
      'massings.csv',
    );
  };
  return (
    <div data-testid="massing-table">
      <ChoiceField
        label="In order of"
        wide
        value={measure.key}
        choices={measures.map((one) => ({ value: one.key, name: nameOf(one) }))}
        commit={setBy}
      />
      <div className="sweep-table">
        <table className="figures">
          <thead>
            <tr>
              {numbers.map((name, i) => (
                <th key={name} title={name}>
                  {shortNumber(run.ranges[i]!.number)}
                </th>
              ))}
              <th title={nameOf(measure)}>{measure.unit || 'figure'}</th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, ROWS).map(({ at, values, value, figures }) => (
              <tr
                key={at}
                className={at === chosen ? 'chosen' : undefined}
                onClick={() => useMassing.setState({ chosen: at })}
              >
                {values.map((one, i) => (
                  <td key={i}>{one}</td>
                ))}
                <td className={figures[measure.key]!.passes === false ? 'fails' : undefined}>
                  {readFigure(measure, value)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <button className="btn btn-sm btn-quiet mb-2" onClick={save}>
        <Download size={13} /> CSV of all
      </button>
    </div>
  );
}
