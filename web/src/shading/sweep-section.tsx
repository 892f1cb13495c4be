import {
  changeDevice,
  csvText,
  type Device,
  type DeviceMake,
  MAX_CANDIDATES,
  type Option,
  type Project,
  TODAY,
} from '@dial-shade/core';
import { Download, Play, Square } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ChoiceField, Section } from '../app/fields';
import { saveFile } from '../app/save-file';
import { useMeshes } from '../state/mesh-cache';
import { edit, useDocument } from '../state/project-store';
import { OBSTRUCTION_COLOURS } from '../theme/palette';
import { useGlass } from './glass-store';
import { DEVICE_KINDS, type FreeNumber } from './plain-devices';
import { frontOfTried, letInBy, SweepChart, type Tried } from './sweep-chart';
import { runSweep, stopSweep, type Sweep, useSweep } from './sweep-store';

/** Values that each number is tried in at first. */
const VALUES = 12;
/** Kinds that can be tried beside the device: what hangs before a window whatever its outline. */
const BESIDE = ['overhang', 'fins', 'louvres', 'eggcrate', 'reveal', 'screen'] as const;
/** Rows of the table. */
const ROWS = 40;

interface Range extends FreeNumber {
  isFree: boolean;
  values: number;
}

/** Many sizes of the device at the window, with what each keeps out and lets in. */
export function SweepSection({
  option,
  schemeId,
  device,
}: {
  option: Option;
  schemeId: string;
  device: Device;
}) {
  const project = useDocument();
  const { hourSets } = project;
  const meshes = useMeshes((state) => state.meshes);
  const chosen = useGlass((state) => state.chosen);
  const { search } = useLocation();
  const { sweep, isAtWork } = useSweep();
  // A dot of another kind may hang in its place meanwhile: the sweep goes on from the kind that it began with.
  const [base, setBase] = useState(device.make);
  if (device.make.kind === base.kind && device.make !== base) setBase(device.make);
  const { kind } = base;
  const [ranges, setRanges] = useState<Range[]>(() =>
    DEVICE_KINDS[kind].free.map((free, i) => ({ ...free, isFree: i < 2, values: VALUES })),
  );
  const [beside, setBeside] = useState<readonly DeviceMake['kind'][]>([]);
  const unwanted = hourSets.filter(({ use }) => use === 'unwanted');
  const wanted = hourSets.filter(({ use }) => use === 'wanted');
  const [against, setAgainst] = useState(unwanted[0]?.id ?? '');
  const [letIn, setLetIn] = useState(wanted[0]?.id ?? '');
  const [by, setBy] = useState<'wanted' | 'sky'>('wanted');
  const free = ranges.filter(({ isFree }) => isFree);
  const count = free.reduce((all, { values }) => all * values, 1) + beside.length * VALUES;
  const parts = partsOf(project, option, device, meshes);
  const shown = sweep?.optionId === option.id && sweep.device === device.id ? sweep : null;
  const change = (number: string, fields: Partial<Range>) =>
    setRanges(ranges.map((range) => (range.number === number ? { ...range, ...fields } : range)));
  const begin = () =>
    void runSweep(
      {
        optionId: option.id,
        opening: chosen!,
        numbers: free.map(({ number }) => number),
        sets: { unwanted: against, wanted: letIn === '' ? null : letIn },
        parts,
      },
      device,
      [
        {
          make: base,
          ranges: free.map(({ number, from, to, values }) => ({ number, from, to, steps: values })),
        },
        ...beside.map((one) => {
          const { plain, free: numbers } = DEVICE_KINDS[one];
          const { number, from, to } = numbers[0]!;
          return { make: plain, ranges: [{ number, from, to, steps: VALUES }] };
        }),
      ],
    );
  if (hourSets.length === 0)
    return (
      <Section title="Sweep" name="sweep">
        <p className="visually-quiet m-0">
          A sweep, and a map of where shade is worth having, go by hours of unwanted and of wanted sun.{' '}
          <Link to={{ pathname: '../climate', search }} relative="path">
            Name such hours
          </Link>{' '}
          on the Climate stage.
        </p>
      </Section>
    );
  const problem =
    free.length === 0
      ? 'Set at least one number free.'
      : free.length > 3
        ? 'At most three numbers are free at a time.'
        : count > MAX_CANDIDATES
          ? `${count.toLocaleString('en')} devices; ${MAX_CANDIDATES.toLocaleString('en')} are tried at most: fewer values, or fewer numbers.`
          : free.some(({ from, to, values }) => !(to > from) || !(values >= 2) || !Number.isInteger(values))
            ? 'Each number goes from less to more, in at least two values.'
            : null;
  return (
    <Section title="Sweep" name="sweep">
      <table className="ranges" aria-label="Numbers that are free">
        <thead>
          <tr>
            <th>Free</th>
            <th>from</th>
            <th>to</th>
            <th>values</th>
          </tr>
        </thead>
        <tbody>
          {ranges.map(({ number, name, short, isFree, from, to, values }) => {
            const cell = (label: string, value: number, key: 'from' | 'to' | 'values') => (
              <td>
                <input
                  type="number"
                  step="any"
                  className="form-control form-control-sm"
                  aria-label={`${label} of ${name}`}
                  disabled={!isFree}
                  defaultValue={value}
                  onChange={(event) => change(number, { [key]: event.target.valueAsNumber })}
                />
              </td>
            );
            return (
              <tr key={number}>
                <th scope="row">
                  <label>
                    <input
                      type="checkbox"
                      checked={isFree}
                      onChange={(event) => change(number, { isFree: event.target.checked })}
                    />{' '}
                    {short}
                    {number.endsWith('Deg') ? ', °' : number.endsWith('M') ? ', m' : ''}
                  </label>
                </th>
                {cell('Least', from, 'from')}
                {cell('Most', to, 'to')}
                {cell('Values', values, 'values')}
              </tr>
            );
          })}
        </tbody>
      </table>
      <details className="mb-1">
        <summary>Other kinds beside it</summary>
        <div className="d-flex flex-wrap gap-2">
          {BESIDE.filter((one) => one !== kind).map((one) => (
            <label key={one}>
              <input
                type="checkbox"
                checked={beside.includes(one)}
                onChange={(event) =>
                  setBeside(event.target.checked ? [...beside, one] : beside.filter((other) => other !== one))
                }
              />{' '}
              {DEVICE_KINDS[one].name}
            </label>
          ))}
        </div>
      </details>
      <ChoiceField
        label="Kept out"
        value={against}
        choices={hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` }))}
        commit={setAgainst}
      />
      <ChoiceField
        label="Let in"
        value={letIn}
        choices={[
          ...hourSets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` })),
          { value: '', name: 'sky light alone' },
        ]}
        commit={(next) => {
          setLetIn(next);
          if (next === '') setBy('sky');
        }}
      />
      {problem ? (
        <p className="wrong">{problem}</p>
      ) : (
        <p className="visually-quiet mb-1">
          {count.toLocaleString('en')} devices at one window, each with about{' '}
          {(50 * 5000).toLocaleString('en')} rays.
        </p>
      )}
      <div className="d-flex gap-1 mb-1">
        {isAtWork ? (
          <button className="btn btn-quiet" onClick={stopSweep}>
            <Square size={13} /> Stop
          </button>
        ) : (
          <button className="btn btn-quiet" disabled={problem !== null || chosen === null} onClick={begin}>
            <Play size={13} /> Try them
          </button>
        )}
      </div>
      {shown && (
        <Found
          sweep={shown}
          parts={parts}
          by={by}
          setBy={setBy}
          isAtWork={isAtWork}
          option={option}
          schemeId={schemeId}
          device={device}
        />
      )}
    </Section>
  );
}

/** What a sweep was run from: the model without the sizes of the device itself. */
function partsOf(
  project: Project,
  option: Option,
  { id, scope, openings, along }: Device,
  meshes: unknown,
): readonly unknown[] {
  const { site, neighbours, neighbourRules, glazings, hourSets, options } = project;
  const others = option.schemes
    .find((one) => one.id === option.scheme)
    ?.devices.filter((one) => one.id !== id);
  return [
    ...[site, neighbours, neighbourRules, glazings, hourSets, meshes],
    ...[option.masses, option.models, option.rules],
    options.find((one) => one.id === TODAY),
    JSON.stringify([scope, openings, along, others]),
  ];
}

function Found({
  sweep,
  parts,
  by: wish,
  setBy,
  isAtWork,
  option,
  schemeId,
  device,
}: {
  sweep: Sweep;
  parts: readonly unknown[];
  by: 'wanted' | 'sky';
  setBy: (by: 'wanted' | 'sky') => void;
  isAtWork: boolean;
  option: Option;
  schemeId: string;
  device: Device;
}) {
  const { makes, found, facts, sets, leftOut, numbers } = sweep;
  const by = sets.wanted === null ? 'sky' : wish;
  const tried = useMemo(
    () => found.flatMap((one, at): Tried[] => (one ? [{ ...one, make: makes[at]!, at }] : [])),
    [found, makes],
  );
  const front = useMemo(() => frontOfTried(tried, by), [tried, by]);
  const isCurrent = sweep.parts.every((part, i) => part === parts[i]);
  const now = JSON.stringify(device.make);
  const chosen = tried.find(({ make }) => JSON.stringify(make) === now)?.at ?? null;
  const hang = (one: Tried) =>
    edit(
      `hang ${device.name} of the sweep`,
      changeDevice(option.id, schemeId, device.id, { make: one.make }),
      {
        quiet: true,
      },
    );
  const kinds = [...new Set(makes.map(({ kind }) => kind))];
  const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
  const save = () =>
    saveFile(
      'sweep.csv',
      csvText([
        [
          'kind',
          ...numbers,
          'unwanted_kept_out',
          ...(sets.wanted === null ? [] : ['wanted_let_in']),
          'sky_let_in',
        ],
        ...tried.map(({ make, keptOut, letIn, sky }) => [
          make.kind,
          ...numbers.map((number) => String((make as Record<string, unknown>)[number] ?? '')),
          Number(keptOut.toFixed(6)),
          ...(sets.wanted === null ? [] : [Number((letIn ?? 0).toFixed(6))]),
          Number(sky.toFixed(6)),
        ]),
      ]),
      'text/csv',
    );
  return (
    <div data-testid="sweep">
      {!isCurrent && <p className="stale">Out of date: what it was tried in has changed.</p>}
      {isAtWork && (
        <progress className="w-100" value={tried.length} max={makes.length} aria-label="Devices tried" />
      )}
      <p className="mb-1" data-testid="sweep-said">
        {tried.length.toLocaleString('en')} of {makes.length.toLocaleString('en')} tried
        {leftOut > 0 && `; ${leftOut.toLocaleString('en')} cannot be built`}. {front.length} that nothing
        beats.
        {facts?.unit === 'h' && ' Without a weather year sun counts by the hour.'}
      </p>
      {sets.wanted !== null && (
        <ChoiceField
          label="Against"
          value={by}
          choices={[
            { value: 'wanted', name: 'wanted sun let in' },
            { value: 'sky', name: 'sky light let in' },
          ]}
          commit={setBy}
        />
      )}
      {tried.length > 0 && (
        <>
          <SweepChart tried={tried} by={by} chosen={chosen} without={facts?.without ?? null} hang={hang} />
          {kinds.length > 1 && (
            <p className="visually-quiet mb-1 sweep-kinds">
              {kinds.map((kind, i) => (
                <span key={kind}>
                  <i className="patch" style={{ background: OBSTRUCTION_COLOURS[i] }} />{' '}
                  {DEVICE_KINDS[kind].name}{' '}
                </span>
              ))}
            </p>
          )}
          <div className="sweep-table">
            <table className="figures">
              <thead>
                <tr>
                  {kinds.length > 1 ? (
                    <th>Device</th>
                  ) : (
                    numbers.map((number) => <th key={number}>{shortName(kinds[0]!, number)}</th>)
                  )}
                  <th>Kept out</th>
                  <th>{by === 'sky' ? 'Sky' : 'Let in'}</th>
                </tr>
              </thead>
              <tbody>
                {front.slice(0, ROWS).map((one) => (
                  <tr
                    key={one.at}
                    className={one.at === chosen ? 'chosen' : undefined}
                    onClick={() => hang(one)}
                  >
                    {kinds.length > 1 ? (
                      <td>
                        {DEVICE_KINDS[one.make.kind].name}{' '}
                        {(one.make.kind === makes[0]!.kind
                          ? numbers
                          : [DEVICE_KINDS[one.make.kind].free[0]!.number]
                        )
                          .map((number) => readNumber(one.make, number))
                          .join(', ')}
                      </td>
                    ) : (
                      numbers.map((number) => <td key={number}>{readNumber(one.make, number)}</td>)
                    )}
                    <td>{percent(one.keptOut)}</td>
                    <td>{percent(letInBy(one, by))}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <button className="btn btn-sm btn-quiet mb-2" onClick={save}>
            <Download size={13} /> CSV of all
          </button>
        </>
      )}
    </div>
  );
}

/** A number of a kind in a word or two. */
function shortName(kind: DeviceMake['kind'], number: string): string {
  return DEVICE_KINDS[kind].free.find((one) => one.number === number)?.short ?? number;
}

function readNumber(make: DeviceMake, number: string): string {
  const value = (make as Record<string, unknown>)[number];
  if (typeof value !== 'number') return '–';
  return number.endsWith('Deg') ? `${value.toFixed(0)}°` : value.toFixed(2);
}
