import {
  add,
  change,
  type CriteriaSet,
  type CriterionRule,
  newId,
  remove,
  STUDY_KINDS,
} from '@dial-shade/core';
import { Copy, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { NumberField, Section, TextField } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { measureOf } from './as-shown';

/** Sets of criteria: what a place must have, or keep, with where it comes from; copied and changed. */
export function CriteriaSection() {
  const { criteria } = useDocument();
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosen = criteria.find(({ id }) => id === chosenId);
  const copy = (set: CriteriaSet) => {
    const id = newId('criteria');
    const name = `${set.name}, copy`.slice(0, 80);
    if (!edit(`copy ${set.name}`, add('criteria', { ...set, id, name }))) setChosen(id);
  };
  return (
    <Section title="Criteria" name="criteria">
      <ul className="objects">
        {criteria.map((set) => (
          <ThingRow
            key={set.id}
            name={set.name}
            figure={`${set.rules.length} rules`}
            chosen={set.id === chosenId}
            onChoose={() => setChosen(set.id === chosenId ? null : set.id)}
          >
            <IconButton icon={Copy} label={`Copy ${set.name}`} onClick={() => copy(set)} />
            <IconButton
              icon={Trash2}
              label={`Remove ${set.name}`}
              onClick={() => edit(`remove ${set.name}`, remove('criteria', set.id))}
            />
          </ThingRow>
        ))}
      </ul>
      {chosen && <SetFields set={chosen} />}
    </Section>
  );
}

function SetFields({ set }: { set: CriteriaSet }) {
  const put = (fields: Partial<CriteriaSet>) =>
    edit(`change ${set.name}`, change('criteria', set.id, fields), { quiet: true });
  const putRule = (i: number, fields: Partial<CriterionRule>) =>
    put({ rules: set.rules.map((rule, k) => (k === i ? { ...rule, ...fields } : rule)) });
  return (
    <div data-testid="criteria-set">
      <TextField label="Name" value={set.name} commit={(name) => put({ name })} />
      <TextField label="Source" value={set.source} commit={(source) => put({ source })} />
      {set.rules.map((rule, i) => (
        <fieldset key={i} className="criterion">
          <legend>{STUDY_KINDS[rule.kind].name}</legend>
          {rule.needs.map((need, k) => {
            const measure = measureOf(rule.kind, need.measure);
            return (
              <NumberField
                key={need.measure}
                label={`${measure.label}, at least`}
                unit={measure.unit}
                value={need.atLeast}
                commit={(atLeast) =>
                  putRule(i, { needs: rule.needs.map((one, n) => (n === k ? { ...one, atLeast } : one)) })
                }
              />
            );
          })}
          {rule.keeps !== null && (
            <NumberField
              label="Or keeps, of before"
              value={rule.keeps}
              commit={(keeps) => putRule(i, { keeps })}
            />
          )}
          {rule.losesLessThan !== null && (
            <NumberField
              label="And loses less than"
              unit={measureOf(rule.kind, rule.needs[0]!.measure).unit}
              value={rule.losesLessThan}
              commit={(losesLessThan) => putRule(i, { losesLessThan })}
            />
          )}
          <TextField label="In words" value={rule.words} commit={(words) => putRule(i, { words })} />
          <IconButton
            icon={Trash2}
            label={`Leave out ${STUDY_KINDS[rule.kind].name}`}
            onClick={() => put({ rules: set.rules.filter((_, k) => k !== i) })}
          />
        </fieldset>
      ))}
    </div>
  );
}
