import { betterOf, type ComparedMeasure, TODAY, type Variant, worstPlaces } from '@dial-shade/core';
import { Check, X } from 'lucide-react';
import { Fragment } from 'react';
import { useNavigate } from 'react-router';
import { OptionLetter } from '../app/option-letter';
import { useDocument } from '../state/project-store';
import { standingOf } from '../state/result-state';
import { setView, useView } from '../state/view-store';
import { flyTo } from '../studies/probe-section';
import { OPTION_HUES } from '../theme/palette';
import { useEnvelopes } from '../envelope/envelope-store';
import { chosenMeasures, chosenVariants } from './compared';
import type { ComparedCell } from './use-compared';

const NO_ROOM = 'It has no room with a window';

/** Why there is no figure. */
function whyNone(cell: ComparedCell | undefined, group: ComparedMeasure['group']): string {
  if (cell?.isAtWork) return 'At work';
  if (cell?.isNotApplicable) return 'Not applicable: nothing that is measured stands there';
  return group === 'rooms' ? NO_ROOM : 'Not worked out';
}

/** A figure as it is read, with digits of its measure. */
export function readFigure({ digits }: Pick<ComparedMeasure, 'digits'>, value: number): string {
  return value
    .toLocaleString('en', { minimumFractionDigits: digits, maximumFractionDigits: digits })
    .replace('-', '−');
}

/** Options by measures: figures with small bars on one scale a measure, what is better said, what fails marked. */
export function CompareTable({ cells }: { cells: ReadonlyMap<string, Record<string, ComparedCell>> }) {
  const project = useDocument();
  const shownId = useView((view) => view.optionId);
  const measures = chosenMeasures(project);
  const variants = chosenVariants(project);
  const { against } = project.comparison;
  const go = useGo();
  return (
    <aside className="compare-panel" aria-label="Options compared" data-testid="compare-table">
      {variants.length === 0 ? (
        <p>Choose options in the sheet.</p>
      ) : (
        <table>
          <thead>
            <tr>
              <th scope="col">Measure</th>
              {variants.map(({ id, option, scheme, name }) => (
                <th key={id} scope="col" className={id === shownId ? 'shown' : ''}>
                  <button
                    className="btn-bare"
                    title={scheme === undefined ? `Show ${name} on the board` : name}
                    onClick={() => setView({ optionId: option.id })}
                  >
                    <OptionLetter option={option} />{' '}
                    {scheme === undefined ? name : (scheme?.name ?? 'without devices')}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {measures.map((measure, i) => (
              <Fragment key={measure.key}>
                {measure.of && measure.of !== measures[i - 1]?.of && (
                  <tr className="of">
                    <th scope="rowgroup" colSpan={variants.length + 1}>
                      {measure.of}
                    </th>
                  </tr>
                )}
                <Row measure={measure} variants={variants} cells={cells} against={against} go={go} />
              </Fragment>
            ))}
          </tbody>
        </table>
      )}
    </aside>
  );
}

function Row({
  measure,
  variants,
  cells,
  against,
  go,
}: {
  measure: ComparedMeasure;
  variants: readonly Variant[];
  cells: ReadonlyMap<string, Record<string, ComparedCell>>;
  against: string | null;
  go: (measure: ComparedMeasure, variant: Variant) => void;
}) {
  const valueOf = (id: string) => cells.get(id)?.[measure.key]?.value ?? null;
  const values = variants.map(({ id }) => valueOf(id)).filter((value) => value !== null);
  const most = Math.max(0, ...values);
  const base = against === null ? null : valueOf(against);
  const best =
    values.length > 1 && measure.better !== null
      ? values.reduce((a, b) => (betterOf(measure, b, a) ? b : a))
      : null;
  return (
    <tr>
      <th scope="row">
        {measure.name}
        {measure.unit && <small>{measure.unit}</small>}
      </th>
      {variants.map((variant) => {
        const { id, option, name } = variant;
        const cell = cells.get(id)?.[measure.key];
        const value = cell?.value ?? null;
        if (value === null)
          return (
            <td key={id} className="none" title={whyNone(cell, measure.group)}>
              {cell?.isAtWork ? '…' : cell?.isNotApplicable ? <small>not applicable</small> : '–'}
            </td>
          );
        const isStale = (cell?.changes.length ?? 0) > 0;
        const difference = base === null || id === against ? null : value - base;
        return (
          <td
            key={id}
            className={isStale ? 'stale' : ''}
            title={isStale ? `Out of date: ${cell!.changes.join(' ')}` : undefined}
          >
            <button
              className="btn-bare"
              aria-label={`${measure.name}, ${name}: ${readFigure(measure, value)} ${measure.unit}`}
              onClick={() => go(measure, variant)}
            >
              <span className="value">
                {cell!.passes === true && <Check size={12} aria-label="passes" />}
                {cell!.passes === false && <X size={12} aria-label="fails" className="fails" />}
                {readFigure(measure, value)}
                {best !== null && value === best && values.some((one) => one !== best) && <em>best</em>}
              </span>
              <span className="bar" aria-hidden>
                <span
                  style={{
                    width: `${most > 0 ? Math.max(0, value / most) * 100 : 0}%`,
                    background: OPTION_HUES[option.hue],
                  }}
                />
              </span>
              {difference !== null && (
                <span className="difference">
                  {difference === 0
                    ? 'the same'
                    : `${difference > 0 ? '+' : ''}${readFigure(measure, difference)}${
                        measure.better === null
                          ? ''
                          : betterOf(measure, value, base!)
                            ? ', better'
                            : ', worse'
                      }`}
                </span>
              )}
            </button>
          </td>
        );
      })}
    </tr>
  );
}

/** Goes to where a figure comes from: the study with its worst place, the envelope, the form. */
function useGo(): (measure: ComparedMeasure, variant: Variant) => void {
  const project = useDocument();
  const navigate = useNavigate();
  return ({ group, source }, { id, option, scheme }) => {
    const optionId = option.id;
    const to = (stage: string) =>
      void navigate({ pathname: `../${stage}`, search: `?option=${optionId}` }, { relative: 'path' });
    setView({ optionId, selection: null, also: [] });
    // A scheme that does not stand is found where it can be made to.
    if (group === 'rooms' || (scheme !== undefined && group === 'study')) to('shading');
    else if (group === 'study' && source) {
      setView({ activeStudy: source, before: optionId === TODAY ? null : TODAY });
      to('studies');
      const { result } = standingOf(project, source, id);
      const worst = result && worstPlaces(result.summary.kind, result.grid.positions, result.values, 1)[0];
      if (worst !== undefined && worst !== null) {
        const p = result!.grid.positions;
        flyTo([p[worst * 3]!, p[worst * 3 + 1]!, p[worst * 3 + 2]!]);
      }
    } else if (group === 'envelope' && source) {
      useEnvelopes.setState({ chosen: source });
      to('envelope');
    } else to(group === 'facades' ? 'openings' : 'form');
  };
}
