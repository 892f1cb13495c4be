import {
  type Device,
  type DeviceMake,
  MAX_CANDIDATES,
  type Option,
  type Project,
  TODAY,
  DEVICE_KINDS,
  type FreeNumber,
} from '@dial-shade/core';
import { Play, Square } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useLocation } from 'react-router';
import { ChoiceField, Section } from '../app/fields';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';
import { useGlass } from './glass-store';
import { SweepFound } from './sweep-found';
import { recallSweep, runSweep, stopSweep, sweepSpeed, useSweep } from './sweep-store';

/** Values that each number is tried in at first. */
const VALUES = 12;
/** Kinds that can be tried beside the device: what hangs before a window whatever its outline. */
const BESIDE = ['overhang', 'fins', 'louvres', 'eggcrate', 'reveal', 'screen'] as const;

interface Range extends FreeNumber {
  isFree: boolean;
  values: number;
}

interface SweptDevice {
  option: Option;
  schemeId: string;
  device: Device;
}

/** Many sizes of the device at the window, with what each keeps out and lets in. */
export function SweepSection({ option, schemeId, device }: SweptDevice) {
  const project = useDocument();
  const { hourSets } = project;
  const meshes = useMeshes((state) => state.meshes);
  const chosen = useGlass((state) => state.chosen);
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
  const speed = sweepSpeed();
  const parts = partsOf(project, option, device, meshes);
  // Once for each device: what changes afterwards makes it out of date, not another one.
  useEffect(() => {
    void recallSweep(option.id, device.id, parts);
    // oxlint-disable-next-line react/exhaustive-deps
  }, [option.id, device.id]);
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
      sweptFrom(base, free, beside),
    );
  if (hourSets.length === 0) return <WithoutHours />;
  const problem = problemOf(free, count);
  return (
    <Section title="Sweep" name="sweep">
      <RangesTable ranges={ranges} change={change} />
      <KindsBeside kind={kind} beside={beside} change={setBeside} />
      <SetFields
        sets={hourSets}
        {...{ against, setAgainst, letIn }}
        setLetIn={(next) => {
          setLetIn(next);
          if (next === '') setBy('sky');
        }}
      />
      {problem ? (
        <p className="wrong">{problem}</p>
      ) : (
        <p className="visually-quiet mb-1">
          {count.toLocaleString('en')} devices at one window, each at 192 points of its glass for every sun of
          those hours and for the sky{speed !== null && `; about ${formatSeconds(speed * count)}`}.
        </p>
      )}
      {isAtWork ? (
        <button className="btn btn-quiet mb-1" onClick={stopSweep}>
          <Square size={13} /> Stop
        </button>
      ) : (
        <button className="btn btn-quiet mb-1" disabled={problem !== null || chosen === null} onClick={begin}>
          <Play size={13} /> Try them
        </button>
      )}
      {shown && (
        <SweepFound
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

/** In which hours sun is kept out, and in which it is let in. */
function SetFields({
  sets,
  against,
  setAgainst,
  letIn,
  setLetIn,
}: {
  sets: Project['hourSets'];
  against: string;
  setAgainst: (id: string) => void;
  /** Empty for none: the sky light that is let in counts. */
  letIn: string;
  setLetIn: (id: string) => void;
}) {
  const named = sets.map(({ id, name }) => ({ value: id, name: `hours of “${name}”` }));
  return (
    <>
      <ChoiceField label="Kept out" value={against} choices={named} commit={setAgainst} />
      <ChoiceField
        label="Let in"
        value={letIn}
        choices={[...named, { value: '', name: 'sky light alone' }]}
        commit={setLetIn}
      />
    </>
  );
}

/** What a sweep asks for where no hours are named. */
function WithoutHours() {
  const { search } = useLocation();
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
}

/** Why a sweep over these numbers cannot be run, or null. */
function problemOf(free: readonly Range[], count: number): string | null {
  if (free.length === 0) return 'Set at least one number free.';
  if (free.length > 3) return 'At most three numbers are free at a time.';
  if (count > MAX_CANDIDATES)
    return `${count.toLocaleString('en')} devices; ${MAX_CANDIDATES.toLocaleString('en')} are tried at most: fewer values, or fewer numbers.`;
  const isWrong = ({ from, to, values }: Range) =>
    !(to > from) || !(values >= 2) || !Number.isInteger(values);
  return free.some(isWrong) ? 'Each number goes from less to more, in at least two values.' : null;
}

/** The devices that are tried: one over the numbers that are free, and others over the first of theirs. */
function sweptFrom(make: DeviceMake, free: readonly Range[], beside: readonly DeviceMake['kind'][]) {
  const own = free.map(({ number, from, to, values }) => ({ number, from, to, steps: values }));
  const others = beside.map((kind) => {
    const { plain, free: numbers } = DEVICE_KINDS[kind];
    const { number, from, to } = numbers[0]!;
    return { make: plain, ranges: [{ number, from, to, steps: VALUES }] };
  });
  return [{ make, ranges: own }, ...others];
}

/** The numbers of a device: which are free, from what to what, in how many values. */
function RangesTable({
  ranges,
  change,
}: {
  ranges: readonly Range[];
  change: (number: string, fields: Partial<Range>) => void;
}) {
  return (
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
  );
}

function KindsBeside({
  kind,
  beside,
  change,
}: {
  kind: DeviceMake['kind'];
  beside: readonly DeviceMake['kind'][];
  change: (beside: readonly DeviceMake['kind'][]) => void;
}) {
  return (
    <details className="mb-1">
      <summary>Other kinds beside it</summary>
      <div className="d-flex flex-wrap gap-2">
        {BESIDE.filter((one) => one !== kind).map((one) => (
          <label key={one}>
            <input
              type="checkbox"
              checked={beside.includes(one)}
              onChange={(event) =>
                change(event.target.checked ? [...beside, one] : beside.filter((other) => other !== one))
              }
            />{' '}
            {DEVICE_KINDS[one].name}
          </label>
        ))}
      </div>
    </details>
  );
}

const formatSeconds = (seconds: number) =>
  seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`;

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
