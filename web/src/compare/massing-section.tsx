import {
  change,
  add,
  type MassingNumber,
  massingOf,
  type MassingRange,
  MAX_MASSINGS,
  newId,
  nextHue,
  nextLetter,
  type Option,
  TODAY,
} from '@dial-shade/core';
import { Eye, Play, Plus, Save, Square, Trash2 } from 'lucide-react';
import { ChoiceField, NumberField, Section } from '../app/fields';
import { IconButton } from '../app/objects';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { runMassings, stopMassings, useMassing } from './massing-store';
import { comparedStudies } from './use-compared';

const KINDS: Record<
  MassingNumber['of'],
  { name: string; unit: string; from: number; to: number; steps: number }
> = {
  storeys: { name: 'number of storeys', unit: '', from: 2, to: 6, steps: 5 },
  turn: { name: 'turned by', unit: '°', from: -20, to: 20, steps: 5 },
  push: { name: 'a wall pushed out by', unit: 'm', from: -3, to: 3, steps: 5 },
  setback: { name: 'upper storeys set back by', unit: 'm', from: 0, to: 3, steps: 4 },
  along: { name: 'moved by', unit: 'm', from: -4, to: 4, steps: 5 },
};

/** A number in words, as a heading. */
export function numberInWords(option: Option | undefined, number: MassingNumber): string {
  const name = option?.masses.find(({ id }) => id === number.mass)?.name ?? 'gone';
  const { name: kind, unit } = KINDS[number.of];
  return `${name}: ${kind}${unit ? ` (${unit})` : ''}`;
}

function numberOf(of: MassingNumber['of'], mass: string): MassingNumber {
  if (of === 'push') return { of, mass, edge: 0 };
  if (of === 'setback') return { of, mass, fromStorey: 1 };
  if (of === 'along') return { of, mass, bearingDeg: 0 };
  return { of, mass };
}

/** Up to three numbers of an option's massing over ranges: every candidate with massing figures and the studies compared. */
export function MassingSection() {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const option = project.options.find(({ id }) => id === optionId);
  const { ranges, run, isAtWork } = useMassing();
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
    const { from, to, steps } = KINDS[of];
    set([...mine, { number: numberOf(of, mass), from, to, steps }]);
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
      {isAtWork ? (
        <div className="mb-2">
          <progress
            className="w-100"
            value={done}
            max={run?.found.length ?? 1}
            aria-label="Massings that are tried"
          />
          <div className="d-flex align-items-center gap-2">
            <span className="flex-grow-1">
              {done} of {run?.found.length} are tried.
            </span>
            <button className="btn btn-quiet btn-sm" onClick={stopMassings}>
              <Square size={12} /> Stop
            </button>
          </div>
        </div>
      ) : (
        mine.length > 0 && (
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
        )
      )}
      {broken > 0 && (
        <p className="visually-quiet">
          {broken} {broken === 1 ? 'makes' : 'make'} no sound mass and {broken === 1 ? 'is' : 'are'} left out.
        </p>
      )}
      <ChosenMassing option={option} />
    </Section>
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
        <IconButton icon={Trash2} label={`Fix ${KINDS[number.of].name} again`} onClick={drop} />
      </div>
      <ChoiceField<MassingNumber['of']>
        label="Number"
        value={number.of}
        choices={(Object.keys(KINDS) as MassingNumber['of'][]).map((of) => ({
          value: of,
          name: KINDS[of].name,
        }))}
        commit={(of) => {
          const { from: low, to: high, steps: count } = KINDS[of];
          put({ number: numberOf(of, number.mass), from: low, to: high, steps: count });
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
  const masses = () => massingOf(currentProject(), option.id, numbers, one.values);
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
