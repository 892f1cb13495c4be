import { comparedMeasures, comparisonCsv, variantsOf } from '@dial-shade/core';
import { ArrowDown, ArrowUp, Download, Play, Square } from 'lucide-react';
import { useState } from 'react';
import { createPortal } from 'react-dom';
import { durationInWords } from '../almanac/wording';
import { ChoiceField, Section } from '../app/fields';
import { IconButton } from '../app/objects';
import { OptionLetter } from '../app/option-letter';
import { saveCsv } from '../app/save-file';
import { useDocument } from '../state/project-store';
import { optionsInOrder } from '../state/view-store';
import { BoardSection } from './board-section';
import { bringUp, outOfDate, stopBringing } from './bring-up';
import { useSecondsOf } from './use-seconds';
import { type CompareShow, useCompare } from './compare-store';
import { chosenMeasures, chosenVariants, nameOf, setComparison } from './compared';
import { CompareTable } from './compare-table';
import { MassingSection } from './massing-section';
import { ROOM_CHOICES } from '../shading/room-section';
import { OptionSplit } from './option-split';
import { OptionWall } from './option-wall';
import { TradeOff } from './trade-off-chart';
import {
  type ComparedCell,
  type Standing,
  useComparedCells,
  usePlainValues,
  useStandings,
} from './use-compared';

const SHOWS: { show: CompareShow; name: string }[] = [
  { show: 'table', name: 'Table' },
  { show: 'trade-off', name: 'Trade-off' },
  { show: 'sweep', name: 'Sweep' },
  { show: 'wall', name: 'Wall' },
  { show: 'split', name: 'Split' },
  { show: 'board', name: 'Board' },
];

/** The options side by side: a table of measures, one against another, pictures. */
export function CompareSheet() {
  const show = useCompare((state) => state.show);
  usePlainValues();
  const standings = useStandings();
  const cells = useComparedCells(standings);
  const host = document.querySelector('.board');
  return (
    <>
      <h1>Compare</h1>
      <div
        className="btn-group btn-group-sm mb-2 compare-shows"
        role="group"
        aria-label="What lies on the board"
      >
        {SHOWS.map((one) => (
          <button
            key={one.show}
            className="btn btn-quiet"
            aria-pressed={show === one.show}
            style={show === one.show ? { background: 'var(--shade-soft)', fontWeight: 600 } : undefined}
            onClick={() => useCompare.setState({ show: one.show })}
          >
            {one.name}
          </button>
        ))}
      </div>
      <UpToDate standings={standings} />
      {show === 'board' && <BoardSection />}
      {show === 'sweep' && <MassingSection />}
      <OptionsSection />
      <MeasuresSection />
      <SaveSection cells={cells} />
      {host && show === 'table' && createPortal(<CompareTable cells={cells} />, host)}
      {host &&
        (show === 'trade-off' || show === 'sweep') &&
        createPortal(<TradeOff cells={cells} isSweep={show === 'sweep'} />, host)}
      {host && show === 'wall' && createPortal(<OptionWall cells={cells} />, host)}
      {host && show === 'split' && createPortal(<OptionSplit />, host)}
    </>
  );
}

/** What is missing, and the button that runs just that. */
function UpToDate({ standings }: { standings: readonly Standing[] }) {
  const asked = useCompare((state) => state.asked);
  const late = outOfDate(standings);
  const applicable = standings.filter(({ isNotApplicable }) => !isNotApplicable);
  const without = standings.length - applicable.length;
  const notApplicable =
    without > 0 &&
    ` ${without} ${without === 1 ? 'is' : 'are'} not applicable: nothing that is measured stands there.`;
  const atWork = standings.filter(({ state }) => state.active).length;
  const seconds = useSecondsOf(late);
  if (standings.length === 0)
    return <p className="visually-quiet">No study is compared; choose measures of studies below.</p>;
  if (atWork > 0) {
    const all = Math.max(asked ?? 0, atWork + late.length);
    const done = Math.max(0, all - atWork - late.length);
    return (
      <div className="mb-2" data-testid="bring-up">
        <progress className="w-100" value={done} max={all} aria-label="Results that are there" />
        <div className="d-flex gap-2 align-items-center">
          <span className="flex-grow-1">
            {done} of {all} results are there.
          </span>
          <button className="btn btn-quiet btn-sm" onClick={() => stopBringing(standings)}>
            <Square size={12} /> Stop
          </button>
        </div>
      </div>
    );
  }
  if (late.length === 0)
    return (
      <p className="visually-quiet" data-testid="bring-up">
        All {applicable.length} results match the model.{notApplicable}
      </p>
    );
  return (
    <div className="mb-2" data-testid="bring-up">
      <p className="mb-1">
        {late.length} of {applicable.length} results are missing or out of date
        {seconds !== null && `: about ${durationInWords(seconds)}`}.{notApplicable}
      </p>
      <button className="btn btn-sunlit btn-sm" onClick={() => void bringUp(standings)}>
        <Play size={13} /> Bring up to date
      </button>
    </div>
  );
}

/** Which options and schemes of them, in which order, and to which of them differences are told. */
function OptionsSection() {
  const project = useDocument();
  const { comparison } = project;
  const all = optionsInOrder(project);
  const every = all.flatMap((option) => variantsOf(option));
  const shown = chosenVariants(project);
  const ids = shown.map(({ id }) => id);
  const plain = all.map(({ id }) => id);
  const set = (next: string[], name: string) =>
    setComparison(name, {
      options: next.length === plain.length && next.every((id, i) => id === plain[i]) ? null : next,
    });
  const move = (at: number, by: -1 | 1) => {
    const next = [...ids];
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    set(next, 'order what is compared');
  };
  const others = every.filter(({ id }) => !ids.includes(id));
  return (
    <Section title="Options" name="options compared">
      <ul className="objects">
        {shown.map(({ id, option, name }, at) => (
          <li key={id}>
            <label className="name d-flex gap-2 align-items-center">
              <input
                type="checkbox"
                checked
                onChange={() =>
                  set(
                    ids.filter((one) => one !== id),
                    `leave out ${name}`,
                  )
                }
              />
              <OptionLetter option={option} /> {name}
            </label>
            <IconButton
              icon={ArrowUp}
              label={`Move ${name} up`}
              disabled={at === 0}
              onClick={() => move(at, -1)}
            />
            <IconButton
              icon={ArrowDown}
              label={`Move ${name} down`}
              disabled={at === shown.length - 1}
              onClick={() => move(at, 1)}
            />
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <ul className="objects more-measures" aria-label="Options and schemes that are not compared">
          {others.map(({ id, option, name }) => (
            <li key={id}>
              <label className="name d-flex gap-2 align-items-center">
                <input
                  type="checkbox"
                  checked={false}
                  onChange={() => set(withVariant(ids, id, every), `compare ${name}`)}
                />
                <OptionLetter option={option} /> {name}
              </label>
            </li>
          ))}
        </ul>
      )}
      <ChoiceField
        label="Difference to"
        value={shown.some(({ id }) => id === comparison.against) ? comparison.against! : ''}
        choices={[
          { value: '', name: 'none' },
          ...shown.map(({ id, option, name }) => ({ value: id, name: `${option.letter} ${name}` })),
        ]}
        commit={(against) => setComparison('tell differences', { against: against || null })}
      />
    </Section>
  );
}

/** What is compared with one more: a scheme after its option, an option where it stands in the project. */
function withVariant(ids: readonly string[], id: string, every: readonly { id: string }[]): string[] {
  const order = every.map((one) => one.id);
  const before = ids.findLastIndex((one) => order.indexOf(one) < order.indexOf(id));
  return [...ids.slice(0, before + 1), id, ...ids.slice(before + 1)];
}

/** The measures that are shown, in their order, and all others. */
function MeasuresSection() {
  const project = useDocument();
  const [words, setWords] = useState('');
  const chosen = chosenMeasures(project);
  const keys = chosen.map(({ key }) => key);
  const set = (measures: string[], name: string) => setComparison(name, { measures });
  const wanted = words.trim().toLowerCase();
  const others = comparedMeasures(project).filter(
    (measure) => !keys.includes(measure.key) && nameOf(measure).toLowerCase().includes(wanted),
  );
  const move = (at: number, by: -1 | 1) => {
    const next = [...keys];
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    set(next, 'order the measures');
  };
  return (
    <Section title={`Measures (${chosen.length})`} name="measures compared">
      <ul className="objects">
        {chosen.map((measure, at) => (
          <li key={measure.key}>
            <label className="name d-flex gap-2">
              <input
                type="checkbox"
                checked
                disabled={chosen.length === 1}
                onChange={() =>
                  set(
                    keys.filter((key) => key !== measure.key),
                    `leave out ${measure.name}`,
                  )
                }
              />
              <span>
                {measure.name}
                {measure.of && <small>{measure.of}</small>}
              </span>
            </label>
            <IconButton
              icon={ArrowUp}
              label={`Move ${nameOf(measure)} up`}
              disabled={at === 0}
              onClick={() => move(at, -1)}
            />
            <IconButton
              icon={ArrowDown}
              label={`Move ${nameOf(measure)} down`}
              disabled={at === chosen.length - 1}
              onClick={() => move(at, 1)}
            />
          </li>
        ))}
      </ul>
      {chosen.some(({ group }) => group === 'rooms') && (
        <ChoiceField
          label="Rooms are"
          value={project.comparison.rooms}
          choices={ROOM_CHOICES}
          commit={(rooms) => setComparison('assume other rooms', { rooms })}
        />
      )}
      <input
        className="form-control mb-1"
        placeholder="Find a measure"
        aria-label="Find a measure"
        value={words}
        onChange={({ target }) => setWords(target.value)}
      />
      <ul className="objects more-measures">
        {others.map((measure) => (
          <li key={measure.key}>
            <label className="name d-flex gap-2">
              <input
                type="checkbox"
                checked={false}
                onChange={() => set([...keys, measure.key], `compare ${measure.name}`)}
              />
              <span>
                {measure.name}
                {measure.of && <small>{measure.of}</small>}
              </span>
            </label>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function SaveSection({ cells }: { cells: ReadonlyMap<string, Record<string, ComparedCell>> }) {
  const project = useDocument();
  const save = () => {
    const options = chosenVariants(project).map(({ id, option: { letter }, name }) => ({
      ...{ id, letter, name },
      values: Object.fromEntries(
        Object.entries(cells.get(id) ?? {}).flatMap(([key, { value }]) =>
          value === null ? [] : [[key, { value }]],
        ),
      ),
    }));
    saveCsv(comparisonCsv(chosenMeasures(project), options), 'comparison.csv');
  };
  return (
    <button className="btn btn-quiet btn-sm mb-2" onClick={save}>
      <Download size={13} /> Save as CSV
    </button>
  );
}
