import {
  type Measure,
  readMeasure,
  slicesCsv,
  type Study,
  STUDY_KINDS,
  type StudyResult,
  type Taker,
  takersByPlaceCsv,
  takersCsv,
} from '@dial-shade/core';
import { Building2, Download, Scale } from 'lucide-react';
import { useMemo } from 'react';
import { ChoiceField, Section } from '../app/fields';
import { saveCsv } from '../app/save-file';
import { useDocument } from '../state/project-store';
import { useResultState } from '../state/result-state';
import { setView, useView } from '../state/view-store';
import { RAMPS } from '../theme/palette';
import { measureOf } from './as-shown';
import { OwnerBars } from './owner-bars';
import { SunDial } from './sun-dial';
import { findTakers, type Takes, takesChanges, useTakes } from './takes-store';
import { type Point, usePointLight } from './use-probe-year';
import { WhatIf } from './what-if';

/** Takers that are listed before the rest is only counted. */
const LISTED = 14;

/** Whose fault it is: every loss told to the neighbour, mass or storey that takes it, and what cutting would give back. */
export function TakesSection({ study }: { study: Study }) {
  const optionId = useView((view) => view.optionId);
  const { takes, isAtWork } = useTakes();
  const own = takes?.studyId === study.id && takes.optionId === optionId ? takes : null;
  if (!STUDY_KINDS[study.kind].weights) return null;
  return (
    <Section title="Who takes it" name="who-takes">
      <button
        className="btn btn-quiet mb-2"
        disabled={isAtWork}
        onClick={() => void findTakers(study.id, optionId)}
      >
        <Scale size={13} /> {isAtWork ? 'Following the rays' : own ? 'Find again' : 'Find who takes it'}
      </button>
      {own && <Found takes={own} study={study} />}
    </Section>
  );
}

function Found({ takes, study }: { takes: Takes; study: Study }) {
  const { site } = useDocument();
  const onlyBeamAndSky =
    STUDY_KINDS[study.kind].measures.some(({ key }) => key === 'facing') && site.thrownBack === 'traced';
  const { place, onMassing } = useTakes();
  const { told, massing } = takes;
  const measure = measureOf(study.kind, told.measure);
  const changes = takesChanges(takes);
  const at = told.places.findIndex(({ id }) => id === place);
  const here = at < 0 ? { value: told.value, open: told.open } : told.places[at]!;
  return (
    <>
      {changes.length > 0 && <p className="stale">Out of date: {changes[0]}</p>}
      {told.places.length > 1 && (
        <ChoiceField
          label="At place"
          wide
          value={place ?? ''}
          choices={[
            { value: '', name: `all ${told.places.length} places` },
            ...told.places.map(({ id, name }) => ({ value: id, name })),
          ]}
          commit={(id) => {
            useTakes.setState({ place: id || null });
            setView({ place: id || null });
          }}
        />
      )}
      <p className="mb-1" data-testid="takes-said">
        <strong>
          {readMeasure(measure, here.value)} of {readMeasure(measure, here.open)} {measure.unit}
        </strong>{' '}
        arrive.{onlyBeamAndSky && ' Beam and sky: what is thrown back is nobody’s to take, and left out.'}
      </p>
      <Takers told={told} at={at} value={here.value} measure={measure} />
      {at >= 0 && <PlaceDial study={study} optionId={takes.optionId} place={told.places[at]!} />}
      <Slices takes={takes} unit={measure.unit} />
      {changes.length === 0 && <WhatIf takes={takes} measure={measure} />}
      <div className="d-flex flex-wrap gap-1 mb-2">
        {massing && (
          <button
            className="btn btn-quiet btn-sm"
            aria-pressed={onMassing}
            title={massing.shown!.measure.definition}
            onClick={() => useTakes.setState({ onMassing: !onMassing })}
          >
            <Building2 size={13} /> On the massing
          </button>
        )}
        <Files told={told} />
      </div>
    </>
  );
}

/** Those who take from a place, or from all of them: whole ones, each with its storeys under it. */
function Takers({
  told,
  at,
  value,
  measure,
}: {
  told: Takes['told'];
  /** Index of the place; −1: all. */
  at: number;
  /** What arrives there. */
  value: number;
  measure: Measure;
}) {
  const of = (taker: Taker) => (at < 0 ? taker.takes : taker.takesAt[at]!);
  const takers = told.takers
    .filter((taker) => of(taker) > 0)
    .filter(({ storey }) => storey === null)
    .sort((a, b) => of(b) - of(a))
    .flatMap((one) => [
      one,
      ...told.takers.filter((part) => part.owner === one.owner && part.storey !== null && of(part) > 0),
    ]);
  const most = takers.reduce((max, taker) => Math.max(max, of(taker)), 1e-9);
  return (
    <>
      <table className="figures takers" data-testid="takers">
        <thead>
          <tr>
            <th>Taken by</th>
            <th title="As the first along the ray">Takes {measure.unit}</th>
            <th title="What there would be if it were not there and everything else were">Without it</th>
          </tr>
        </thead>
        <tbody>
          {takers.slice(0, LISTED).map((taker) => {
            const alone = at < 0 ? taker.alone : taker.aloneAt[at]!;
            return (
              <tr key={`${taker.owner}/${taker.storey}`} className={taker.storey === null ? '' : 'storey'}>
                <td>
                  {taker.storey === null ? (
                    <button className="btn-bare name" onClick={() => choose(taker)}>
                      {taker.name}
                    </button>
                  ) : (
                    `storey ${taker.storey + 1}`
                  )}
                </td>
                <td>
                  <i style={{ width: `${(46 * of(taker)) / most}px` }} />
                  {readMeasure(measure, of(taker))}
                </td>
                <td>{readMeasure(measure, value + alone)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {takers.length > LISTED && (
        <p className="visually-quiet mb-1">and {takers.length - LISTED} more; the file has all</p>
      )}
    </>
  );
}

function Files({ told }: { told: Takes['told'] }) {
  return (
    <>
      <button className="btn btn-quiet btn-sm" onClick={() => saveCsv(takersCsv(told), 'takers.csv')}>
        <Download size={13} /> Takers
      </button>
      <button className="btn btn-quiet btn-sm" onClick={() => saveCsv(takersByPlaceCsv(told), 'places.csv')}>
        <Download size={13} /> By place
      </button>
      {told.slices.length > 0 && (
        <button className="btn btn-quiet btn-sm" onClick={() => saveCsv(slicesCsv(told), 'slices.csv')}>
          <Download size={13} /> Slices
        </button>
      )}
    </>
  );
}

/** The sky of a place, from its sensor nearest to its middle, with those who stand in it. */
function PlaceDial({
  study,
  optionId,
  place,
}: {
  study: Study;
  optionId: string;
  place: { id: string; name: string };
}) {
  const { result } = useResultState(study.id, optionId);
  const point = useMemo(() => result && middleOfPlace(result, place.id), [result, place.id]);
  const light = usePointLight(optionId, point);
  if (!point) return null;
  if (!light) return <p className="visually-quiet mb-1">Tracing its sky …</p>;
  return (
    <div data-testid="place-dial">
      <SunDial light={light} point={point} study={study} name={place.name} />
      <OwnerBars obstructions={light.obstructions} />
    </div>
  );
}

/** The sensor of a place that is nearest to the middle of all of them. */
function middleOfPlace({ targets, grid }: StudyResult, id: string): Point | null {
  const { positions: p, normals: n } = grid;
  const own = Array.from({ length: grid.count }, (_, i) => i).filter(
    (i) => targets[grid.target[i]!]!.id === id && grid.covered[i] === 0,
  );
  if (own.length === 0) return null;
  const at = (i: number, of: Float64Array) =>
    [of[i * 3]!, of[i * 3 + 1]!, of[i * 3 + 2]!] as [number, number, number];
  const middle = [0, 1, 2].map((k) => own.reduce((sum, i) => sum + p[i * 3 + k]!, 0) / own.length);
  const off = (i: number) => Math.hypot(...at(i, p).map((v, k) => v - middle[k]!));
  const nearest = own.reduce((best, i) => (off(i) < off(best) ? i : best));
  return { at: at(nearest, p), normal: at(nearest, n) };
}

/** Chooses a taker on the board. */
function choose({ id, optionId, layer }: Taker): void {
  if (layer === 'ground' || layer === 'devices') return;
  setView({ selection: { id, optionId, layer, wallBearingDeg: null }, also: [], opening: null });
}

const W = 260;
const ROW = 7;

/** What cutting the option's massing down to a level gives back, metre by metre. */
function Slices({ takes, unit }: { takes: Takes; unit: string }) {
  const { slices, value } = takes.told;
  if (slices.length === 0) return null;
  const most = slices[0]!.gives || 1;
  const rows = [...slices].reverse();
  const height = rows.length * ROW + 4;
  const step = Math.max(1, Math.ceil(rows.length / 8));
  return (
    <>
      <p className="visually-quiet mb-1">Cut down to a level, the option’s massing gives back, {unit}:</p>
      <svg
        className="climate-chart"
        viewBox={`0 0 ${W} ${height}`}
        role="img"
        aria-label="What cutting gives back, by level"
      >
        {rows.map(({ fromM, gives }, i) => (
          <g key={fromM} transform={`translate(0 ${i * ROW + 2})`}>
            <title>{`Cut at ${fromM} m: ${gives.toFixed(2)} ${unit} more, ${(value + gives).toFixed(2)} in all`}</title>
            <rect
              x={34}
              width={((W - 80) * gives) / most}
              height={ROW - 1.5}
              fill={RAMPS.taken(0.2 + 0.5 * (gives / most))}
            />
            {i % step === 0 && (
              <>
                <text x={30} y={ROW - 1.2} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
                  {fromM} m
                </text>
                <text x={38 + ((W - 80) * gives) / most} y={ROW - 1.2} fontSize={7} fill="var(--ink-soft)">
                  {gives.toFixed(2)}
                </text>
              </>
            )}
          </g>
        ))}
      </svg>
    </>
  );
}
