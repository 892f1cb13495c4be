import {
  change,
  add,
  type MassingNumber,
  type MassingRange,
  MAX_MASSINGS,
  newId,
  nextHue,
  nextLetter,
  type Option,
  TODAY,
} from '@dial-shade/core';
import { useEffect, useMemo } from 'react';
import { durationInWords } from '../almanac/wording';
import { Eye, Play, Plus, Save, Square, Trash2 } from 'lucide-react';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { IconButton } from '../app/objects';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import {
  isCurrentMassing,
  massesOf,
  recallMassings,
  runMassings,
  stopMassings,
  useMassing,
} from './massing-store';
import { massingNumber, MASSING_NUMBERS, numberInWords } from './massing-numbers';
import { MassingTable } from './massing-table';
import { comparedStudies } from './use-compared';

/** Up to three numbers of an option's massing over ranges: every candidate with massing figures and the studies compared. */
export function MassingSection() {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const option = project.options.find(({ id }) => id === optionId);
  const { ranges, run: latest, isAtWork, secondsLeft, chosen, optionId: of } = useMassing();
  const run = of === optionId ? latest : null;
  useEffect(() => void recallMassings(optionId), [optionId]);
  const isCurrent = useMemo(
    () => !run || isAtWork || isCurrentMassing(project, optionId, run, chosen),
    [project, optionId, run, isAtWork, chosen],
  );
  const masses = option?.masses.filter(({ device }) => !device) ?? [];
  if (!option || option.id === TODAY || masses.length === 0)
    return (
      <Section title="Massing sweep">
        <p>Choose an option with a mass above; numbers of it are tried over ranges.</p>
      </Section>
    );
  const mine = ranges.filter(({ number }) => masses.some(({ id }) => id === number.mass));
  const set = (next: MassingRange[]) => useMassing.setState({ ranges: next });
  const put = (at: number, fields: Partial<MassingRange>) =>
    set(mine.map((range, k) => (k === at ? { ...range, ...fields } : range)));
  const addRange = (of: MassingNumber['of'], mass = masses[0]!.id) => {
    const { from, to, steps } = MASSING_NUMBERS[of];
    set([...mine, { number: massingNumber(of, mass), from, to, steps }]);
  };
  const count = mine.reduce((all, { steps }) => all * steps, 1);
  const studies = comparedStudies(project);
  const done = run?.found.filter(Boolean).length ?? 0;
  const broken = run?.found.filter((one) => one && !one.figures).length ?? 0;
  return (
    <Section title="Massing sweep">
      {mine.map((range, at) => (
        <RangeFields
          key={at}
          option={option}
          range={range}
          put={(fields) => put(at, fields)}
          drop={() => set(mine.filter((_, k) => k !== at))}
        />
      ))}
      {mine.length < 3 && (
        <button
          className="btn btn-quiet btn-sm mb-2"
          onClick={() => addRange(mine.length === 0 ? 'storeys' : 'turn')}
        >
          <Plus size={13} /> {mine.length === 0 ? 'A number that is free' : 'Another number'}
        </button>
      )}
      {mine.length > 0 && (
        <p className="mb-1" data-testid="massing-said">
          {count.toLocaleString('en')} massings
          {count > MAX_MASSINGS ? `; at most ${MAX_MASSINGS.toLocaleString('en')} are tried` : ''}
          {studies.length > 0
            ? `, each with ${studies.length === 1 ? 'one study' : `${studies.length} studies`} at a coarse grid.`
            : '; no study is compared, so massing figures only.'}
        </p>
      )}
      {isAtWork && run && <Progress done={done} all={run.found.length} secondsLeft={secondsLeft} />}
      {!isAtWork && mine.length > 0 && (
        <button
          className="btn btn-sunlit btn-sm mb-2"
          disabled={count > MAX_MASSINGS}
          onClick={() =>
            void runMassings(
              option.id,
              mine,
              studies.map(({ id }) => id),
            )
          }
        >
          <Play size={13} /> Try them
        </button>
      )}
      {!isCurrent && <p className="stale">Out of date: what these massings were tried in has changed.</p>}
      {broken > 0 && (
        <p className="visually-quiet">
          {broken} {broken === 1 ? 'makes' : 'make'} no sound mass and {broken === 1 ? 'is' : 'are'} left out.
        </p>
      )}
      <ChosenMassing option={option} />
      {run && <MassingTable option={option} run={run} />}
    </Section>
  );
}

/** How far the sweep has come, and how it is stopped. */
function Progress({ done, all, secondsLeft }: { done: number; all: number; secondsLeft: number | null }) {
  return (
    <div className="mb-2">
      <progress className="w-100" value={done} max={all} aria-label="Massings that are tried" />
      <div className="d-flex align-items-center gap-2">
        <span className="flex-grow-1">
          {done} of {all} are tried
          {secondsLeft !== null && `; about ${durationInWords(secondsLeft)} left`}.
        </span>
        <button className="btn btn-quiet btn-sm" onClick={stopMassings}>
          <Square size={12} /> Stop
        </button>
      </div>
    </div>
  );
}

function RangeFields({
  option,
  range,
  put,
  drop,
}: {
  option: Option;
  range: MassingRange;
  put: (fields: Partial<MassingRange>) => void;
  drop: () => void;
}) {
  const { number, from, to, steps } = range;
  const mass = option.masses.find(({ id }) => id === number.mass)!;
  const whole = (value: number, low: number, high: number) =>
    Number.isInteger(value) && value >= low && value <= high
      ? null
      : `A whole number from ${low} to ${high}.`;
  return (
    <fieldset className="sweep-range">
      <div className="d-flex gap-1">
        <ChoiceField
          label="Mass"
          value={number.mass}
          choices={option.masses.map(({ id, name }) => ({ value: id, name }))}
          commit={(id) => put({ number: { ...number, mass: id } })}
        />
        <IconButton icon={Trash2} label={`Fix ${MASSING_NUMBERS[number.of].name} again`} onClick={drop} />
      </div>
      <ChoiceField<MassingNumber['of']>
        label="Number"
        value={number.of}
        choices={(Object.keys(MASSING_NUMBERS) as MassingNumber['of'][]).map((of) => ({
          value: of,
          name: MASSING_NUMBERS[of].name,
        }))}
        commit={(of) => {
          const { from: low, to: high, steps: count } = MASSING_NUMBERS[of];
          put({ number: massingNumber(of, number.mass), from: low, to: high, steps: count });
        }}
      />
      {number.of === 'push' && (
        <ChoiceField
          label="Wall"
          value={String(number.edge)}
          choices={mass.footprint.outer.map((_, edge) => ({ value: String(edge), name: `wall ${edge + 1}` }))}
          commit={(edge) => put({ number: { ...number, edge: Number(edge) } })}
        />
      )}
      {number.of === 'setback' && (
        <NumberField
          label="From storey"
          value={number.fromStorey}
          commit={(fromStorey) => {
            const wrong = whole(fromStorey, 1, Math.max(1, mass.storeys.length - 1));
            if (!wrong) put({ number: { ...number, fromStorey } });
            return wrong;
          }}
        />
      )}
      {number.of === 'along' && (
        <NumberField
          label="Bearing"
          unit="°"
          value={number.bearingDeg}
          commit={(bearingDeg) => {
            if (!(bearingDeg >= 0 && bearingDeg <= 360)) return 'From 0 to 360 degrees.';
            put({ number: { ...number, bearingDeg } });
            return null;
          }}
        />
      )}
      <div className="pair even thirds">
        <NumberField label="From" value={from} commit={(value) => (put({ from: value }), null)} />
        <NumberField label="To" value={to} commit={(value) => (put({ to: value }), null)} />
        <NumberField
          label="Values"
          value={steps}
          commit={(value) => {
            const wrong = whole(value, 1, 200);
            if (!wrong) put({ steps: value });
            return wrong;
          }}
        />
      </div>
    </fieldset>
  );
}

/** The massing that is chosen in the chart: shown on the board, or kept as an option. */
function ChosenMassing({ option }: { option: Option }) {
  const { run, chosen, optionId } = useMassing();
  const one = chosen === null ? undefined : run?.found[chosen];
  if (!run || !one || optionId !== option.id) return null;
  const numbers = run.ranges.map(({ number }) => number);
  const text = numbers.map((number, i) => `${numberInWords(option, number)} ${one.values[i]}`).join('; ');
  const masses = () => massesOf(currentProject(), option.id, run, chosen!);
  const show = () =>
    edit(`try ${text}`, (project) => change('options', option.id, { masses: masses() })(project));
  const keep = () => {
    const id = newId('option');
    const refused = edit('keep a massing', (project) =>
      add('options', {
        ...project.options.find((other) => other.id === option.id)!,
        ...{ id, letter: nextLetter(project), hue: nextHue(project), masses: masses() },
        ...{ name: `${option.name} ${one.values.join(' / ')}`.slice(0, 100), note: text.slice(0, 400) },
      })(project),
    );
    if (refused) return;
    setView({ optionId: id, selection: null, also: [] });
    notify('The massing is an option of its own.');
  };
  return (
    <div data-testid="massing-chosen">
      <p className="mb-1">{text}.</p>
      <div className="d-flex gap-1 mb-2">
        <button className="btn btn-quiet btn-sm" onClick={show}>
          <Eye size={13} /> Show it
        </button>
        <button className="btn btn-sunlit btn-sm" onClick={keep}>
          <Save size={13} /> Keep it as an option
        </button>
      </div>
    </div>
  );
}
