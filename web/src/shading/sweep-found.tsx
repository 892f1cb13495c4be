import {
  changeDevice,
  csvText,
  type Device,
  type DeviceMake,
  type Option,
  DEVICE_KINDS,
} from '@dial-shade/core';
import { Download } from 'lucide-react';
import { useMemo } from 'react';
import { ChoiceField } from '../app/fields';
import { PlusMinus } from '../app/plus-minus';
import { saveCsv } from '../app/save-file';
import { edit } from '../state/project-store';
import { OBSTRUCTION_COLOURS } from '../theme/palette';
import { frontOfTried, letInBy, SweepChart, type Tried } from './sweep-chart';
import type { Sweep } from './sweep-store';

/** Rows of the table. */
const ROWS = 40;

/** What a sweep came to, as far as it has come: the chart, the front as a table, and all of it as CSV. */
export function SweepFound({
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
  const { makes, found, facts, sets, leftOut } = sweep;
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
  return (
    <div data-testid="sweep">
      {!isCurrent && <p className="stale">Out of date: what it was tried in has changed.</p>}
      {sweep.earlier.map((sentence) => (
        <p key={sentence} className="stale">
          {sentence} Sweep again for figures by the method of today.
        </p>
      ))}
      {isAtWork && (
        <progress className="w-100" value={tried.length} max={makes.length} aria-label="Devices tried" />
      )}
      <p className="mb-1" data-testid="sweep-said">
        {tried.length.toLocaleString('en')} of {makes.length.toLocaleString('en')} tried
        {leftOut > 0 && `; ${leftOut.toLocaleString('en')} cannot be built`}. {front.length} that nothing
        beats by more than its error.{facts && ` ${(facts.rays / 1000).toFixed(0)} thousand rays each.`}
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
          <FrontTable front={front} sweep={sweep} by={by} chosen={chosen} hang={hang} />
          <button
            className="btn btn-sm btn-quiet mb-2"
            onClick={() => saveCsv(sweepCsv(tried, sweep), 'sweep.csv')}
          >
            <Download size={13} /> CSV of all
          </button>
        </>
      )}
    </div>
  );
}

/** All that was tried: a row a device. */
function sweepCsv(tried: readonly Tried[], { numbers, sets }: Sweep): string {
  const hasWanted = sets.wanted !== null;
  return csvText([
    [
      ...['kind', ...numbers, 'unwanted_kept_out', ...(hasWanted ? ['wanted_let_in'] : []), 'sky_let_in'],
      ...['unwanted_error', ...(hasWanted ? ['wanted_error'] : []), 'sky_error'],
    ],
    ...tried.map(({ make, keptOut, letIn, sky, error }) => [
      make.kind,
      ...numbers.map((number) => String((make as Record<string, unknown>)[number] ?? '')),
      Number(keptOut.toFixed(6)),
      ...(hasWanted ? [Number((letIn ?? 0).toFixed(6))] : []),
      Number(sky.toFixed(6)),
      Number(error.keptOut.toFixed(6)),
      ...(hasWanted ? [Number(error.letIn.toFixed(6))] : []),
      Number(error.sky.toFixed(6)),
    ]),
  ]);
}

/** The devices that nothing beats. A click hangs one. */
function FrontTable({
  front,
  sweep: { makes, numbers },
  by,
  chosen,
  hang,
}: {
  front: readonly Tried[];
  sweep: Sweep;
  by: 'wanted' | 'sky';
  chosen: number | null;
  hang: (one: Tried) => void;
}) {
  const kinds = [...new Set(makes.map(({ kind }) => kind))];
  // What it may be off by may go below; the sign stays with its number.
  const percent = (share: number) => `${(100 * share).toFixed(0)}\u00a0%`;
  return (
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
            <tr key={one.at} className={one.at === chosen ? 'chosen' : undefined} onClick={() => hang(one)}>
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
              <td>
                {percent(one.keptOut)}
                <PlusMinus error={100 * one.error.keptOut} />
              </td>
              <td>
                {percent(letInBy(one, by))}
                <PlusMinus error={100 * (by === 'sky' ? one.error.sky : one.error.letIn)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
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
