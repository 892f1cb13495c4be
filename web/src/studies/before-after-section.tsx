import {
  comparedCsv,
  criteriaFor,
  readMeasure,
  ruleFor,
  type Study,
  type StudyResult,
} from '@dial-shade/core';
import { Contrast, Download, Play, Table2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { saveCsv } from '../app/save-file';
import { useDocument } from '../state/project-store';
import { startRun } from '../state/result-state';
import { optionsInOrder, setView, useView } from '../state/view-store';
import { measureOf } from './as-shown';
import { ComparisonPanel } from './comparison-panel';
import { type Compared, useComparison } from './use-comparison';

/** A study of the option on the board against Today or another option: places, criteria, and the change on the model. */
export function BeforeAfterSection({ study }: { study: Study }) {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const chosen = useView((view) => view.before);
  const [setId, setSet] = useState<string | null>(null);
  const sets = criteriaFor(project, study.kind);
  const rule = useMemo(
    () => ruleFor(project, study, sets.some(({ set }) => set.id === setId) ? setId : null),
    // oxlint-disable-next-line react/exhaustive-deps
    [project.criteria, study, setId],
  );
  const compared = useComparison(study, rule);
  const others = optionsInOrder(project).filter(({ id }) => id !== optionId);
  const value = compared?.before.optionId ?? chosen ?? '';
  return (
    <Section title="Before and after" name="before-after">
      <ChoiceField
        label="Before"
        value={others.some(({ id }) => id === value) ? value : ''}
        choices={[
          ...(others.some(({ id }) => id === value) ? [] : [{ value: '', name: 'choose an option' }]),
          ...others.map(({ id, letter, name }) => ({ value: id, name: `${letter} ${name}` })),
        ]}
        commit={(before) => setView({ before: before || null, place: null })}
      />
      {sets.length > 0 && (
        <ChoiceField
          label="Held to"
          wide
          value={sets.find(({ set }) => set.id === setId)?.set.id ?? sets[0]!.set.id}
          choices={sets.map(({ set }) => ({ value: set.id, name: set.name }))}
          commit={setSet}
        />
      )}
      <p className="visually-quiet mb-1">{rule.words || 'The threshold of the study.'}</p>
      {compared && <Found study={study} compared={compared} />}
    </Section>
  );
}

function Found({ study, compared }: { study: Study; compared: Compared }) {
  const { comparison, refused, before, after } = compared;
  const showsChange = useView((view) => view.showsChange);
  const [isOpen, setOpen] = useState(false);
  const missing = [before, after].filter(({ state }) => !state.result || state.changes.length > 0);
  const isAtWork = [before, after].some(({ state }) => state.active !== null);
  const run = async () => {
    for (const { optionId } of missing) await startRun(study.id, optionId);
  };
  return (
    <>
      {refused && <p className="wrong">{refused}</p>}
      {missing.length > 0 && !refused && (
        <button className="btn btn-quiet mb-2" disabled={isAtWork} onClick={() => void run()}>
          <Play size={13} />{' '}
          {isAtWork
            ? 'At work'
            : missing.length === 2
              ? 'Work out both'
              : missing[0] === before
                ? 'Work out before'
                : 'Work out after'}
        </button>
      )}
      {comparison && (
        <>
          <Said comparison={comparison} />
          <div className="d-flex flex-wrap gap-1 mb-2">
            <button className="btn btn-quiet btn-sm" aria-pressed={isOpen} onClick={() => setOpen(!isOpen)}>
              <Table2 size={13} /> Places
            </button>
            <button
              className="btn btn-quiet btn-sm"
              aria-pressed={showsChange}
              onClick={() => setView({ showsChange: !showsChange, before: before.optionId })}
            >
              <Contrast size={13} /> Change on the model
            </button>
            <button
              className="btn btn-quiet btn-sm"
              onClick={() => saveCsv(comparedCsv(comparison), 'windows.csv')}
            >
              <Download size={13} /> CSV
            </button>
          </div>
          {isOpen && (
            <ComparisonPanel
              comparison={comparison}
              after={after.state.result as StudyResult}
              onHide={() => setOpen(false)}
            />
          )}
        </>
      )}
    </>
  );
}

/** What a comparison comes to, in a sentence or two. */
function Said({ comparison }: { comparison: NonNullable<Compared['comparison']> }) {
  const { places, kind, measure: key, onlyBefore, onlyAfter } = comparison;
  const measure = measureOf(kind, key);
  const passing = places.filter(({ passes }) => passes).length;
  const worst = places.reduce((a, b) => (b.difference < a.difference ? b : a));
  const left = onlyBefore.length + onlyAfter.length;
  return (
    <p className="mb-1" data-testid="compared">
      <strong>
        {passing} of {places.length}
      </strong>{' '}
      {places.length === 1 ? 'place passes' : 'places pass'}.{' '}
      {worst.difference < -0.005
        ? `The most is lost at “${worst.name}”: ${readMeasure(measure, worst.before)} to ${readMeasure(measure, worst.after)} ${measure.unit}.`
        : 'Nothing is lost.'}
      {left > 0 && ` ${left} ${left === 1 ? 'stands' : 'stand'} on one side only.`}
    </p>
  );
}
