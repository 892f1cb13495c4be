import {
  add,
  cutDown,
  massLevels,
  newId,
  nextHue,
  nextLetter,
  type Measure,
  type Option,
  readMeasure,
} from '@dial-shade/core';
import { Scissors } from 'lucide-react';
import { useMemo, useState } from 'react';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import type { Takes } from './takes-store';

const [W, H] = [260, 74];
const MARGIN = { left: 30, right: 8, top: 6, bottom: 16 };

/**
 * What cutting the option's massing down to a level gives back, against the floor area that goes: on a slider, metre by
 * metre or storey by storey.
 */
export function WhatIf({ takes, measure }: { takes: Takes; measure: Measure }) {
  const project = useDocument();
  const { value } = takes.told;
  const option = project.options.find(({ id }) => id === takes.optionId);
  const cuts = useMemo(
    () => (option ? cutsOf(project, option, takes) : []),
    // Masses and ground are what it goes by.
    // oxlint-disable-next-line react/exhaustive-deps
    [option?.masses, project.site.ground, takes],
  );
  const [at, setAt] = useState<number | null>(null);
  if (!option || cuts.length < 2) return null;
  const index = Math.min(at ?? cuts.length - 1, cuts.length - 1);
  const cut = cuts[index]!;
  const storeys = (way: 1 | -1) => storeyAway(cuts, index, way);
  return (
    <div className="mb-2" role="group" aria-label="What if it were cut down" data-testid="what-if">
      <p className="visually-quiet mb-1">Cut down to whole storeys, against the floor area that goes:</p>
      <CutChart cuts={cuts} cut={cut} measure={measure} />
      <input
        type="range"
        className="form-range"
        aria-label="Level it is cut down to"
        aria-valuetext={`${cut.levelM} m`}
        min={0}
        max={cuts.length - 1}
        step={1}
        value={index}
        onChange={({ target }) => setAt(Number(target.value))}
        onKeyDown={(event) => {
          if (event.key !== 'PageUp' && event.key !== 'PageDown') return;
          event.preventDefault();
          setAt(storeys(event.key === 'PageUp' ? 1 : -1));
        }}
      />
      <p className="mb-1" data-testid="what-if-said">
        {index === cuts.length - 1 ? (
          'Drag it down: nothing is cut yet.'
        ) : (
          <>
            Cut at <strong>{cut.levelM} m</strong>: {readMeasure(measure, value + cut.gives)} {measure.unit}{' '}
            instead of {readMeasure(measure, value)}, for {m2(cut.lostM2)} of {m2(cut.floorM2)} m² of floor
            {cut.lost.length > 0 && ` (${cut.lost.map(lostInWords).join(', ')})`}.
          </>
        )}
      </p>
      <div className="d-flex gap-1 flex-wrap">
        <button className="btn btn-quiet btn-sm" disabled={index === 0} onClick={() => setAt(storeys(-1))}>
          A storey less
        </button>
        <button
          className="btn btn-quiet btn-sm"
          disabled={index === cuts.length - 1}
          onClick={() => setAt(storeys(1))}
        >
          A storey more
        </button>
        <button
          className="btn btn-quiet btn-sm"
          disabled={index === cuts.length - 1 || cut.masses.length === 0}
          onClick={() => keepCut(option, cut.levelM)}
        >
          <Scissors size={13} /> Keep as an option
        </button>
      </div>
    </div>
  );
}

const m2 = (area: number) => Math.round(area).toLocaleString('en');

type Cut = ReturnType<typeof cutsOf>[number];

/** The lowest cut at which one storey more, or less, stands. */
function storeyAway(cuts: readonly Cut[], index: number, way: 1 | -1): number {
  const { lostM2: now } = cuts[index]!;
  if (way > 0) {
    const next = cuts.findIndex(({ lostM2 }, i) => i > index && lostM2 < now);
    return next < 0 ? cuts.length - 1 : next;
  }
  const less = cuts.findLast(({ lostM2 }, i) => i < index && lostM2 > now);
  return less ? cuts.findIndex(({ lostM2 }) => lostM2 === less.lostM2) : 0;
}

/** Keeps an option that is cut down beside it. */
function keepCut(option: Option, levelM: number): void {
  const left = cutDown(currentProject(), option.id, levelM);
  const id = newId('option');
  const refused = edit(`keep ${option.name} cut at ${levelM} m`, (now) =>
    add('options', {
      ...now.options.find((one) => one.id === option.id)!,
      ...{ id, letter: nextLetter(now), hue: nextHue(now), masses: left.masses },
      name: `${option.name} to ${levelM} m`.slice(0, 100),
    })(now),
  );
  if (refused) return;
  setView({ optionId: id, selection: null, also: [] });
  notify('The option that is cut down stands beside the other.');
}

/** What every cut gives back against the floor area that goes. */
function CutChart({ cuts, cut, measure }: { cuts: readonly Cut[]; cut: Cut; measure: Measure }) {
  const most = cuts[0]!.gives || 1;
  const floor = cuts[0]!.floorM2 || 1;
  const x = (lost: number) => MARGIN.left + ((W - MARGIN.left - MARGIN.right) * lost) / floor;
  const y = (gives: number) => H - MARGIN.bottom - ((H - MARGIN.top - MARGIN.bottom) * gives) / most;
  return (
    <svg
      className="climate-chart"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label="What is given back against the floor area that goes"
    >
      <line x1={MARGIN.left} x2={W - MARGIN.right} y1={y(0)} y2={y(0)} stroke="var(--rule)" />
      <line x1={MARGIN.left} x2={MARGIN.left} y1={MARGIN.top} y2={y(0)} stroke="var(--rule)" />
      <text x={MARGIN.left - 3} y={y(most) + 6} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
        +{readMeasure(measure, most)}
      </text>
      <text x={W - MARGIN.right} y={H - 5} textAnchor="end" fontSize={7} fill="var(--ink-soft)">
        {m2(floor)} m² of floor
      </text>
      <polyline
        points={cuts.map(({ lostM2, gives }) => `${x(lostM2)},${y(gives)}`).join(' ')}
        fill="none"
        stroke="var(--shade)"
        strokeWidth={1.4}
      />
      <circle cx={x(cut.lostM2)} cy={y(cut.gives)} r={4} fill="var(--sun)" stroke="var(--ink)" />
    </svg>
  );
}

const lostInWords = ({ name, storeys }: { name: string; storeys: number }) =>
  `${storeys} ${storeys === 1 ? 'storey' : 'storeys'} of ${name}`;

/** Every metre at which the massing can be cut, from below: what it gives back and what goes; last the whole of it. */
function cutsOf(project: ReturnType<typeof currentProject>, option: Option, { told: { slices } }: Takes) {
  const { ground } = project.site;
  const masses = option.masses.filter(({ device }) => !device);
  const highest = Math.max(...masses.map((mass) => massLevels(mass, ground).topM), -Infinity);
  const levels = slices.map(({ fromM }) => fromM);
  for (let level = (levels.at(-1) ?? highest) + 1; level < highest + 1; level++) levels.push(level);
  return levels.map((levelM) => ({
    levelM,
    gives: slices.find(({ fromM }) => fromM === levelM)?.gives ?? 0,
    ...cutDown(project, option.id, levelM),
  }));
}
