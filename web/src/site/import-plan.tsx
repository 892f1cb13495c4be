import { bounds, type ImportChoices, likelyFor, MODEL_UNITS, type ModelRow } from '@dial-shade/core';
import { type KeyboardEvent, memo, useMemo, useState } from 'react';
import { ChoiceField, NumberField } from '../app/fields';
import { OBSTRUCTION_COLOURS } from '../theme/palette';
import type { ModelPreview, OutlineInPlan } from '../workers/model-file-work';

/** A file that was read, what is decided about it, and how that is changed. */
export interface Decided {
  preview: ModelPreview;
  choices: ImportChoices;
  set: (fields: Partial<ImportChoices>) => void;
}

/** The colour of a row of outlines. */
export const rowColour = (rows: readonly ModelRow[], key: string) =>
  OBSTRUCTION_COLOURS[
    rows.filter(({ kind }) => kind === 'outline').findIndex((row) => row.key === key) %
      OBSTRUCTION_COLOURS.length
  ];

/** Which outline the keys stand at moves with the arrows; Enter and the space bar take it in or out. */
const STEPS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** The outlines in plan, by layer; a click, or a key at one, leaves it out or takes it in again. */
export function OutlinePlan({ preview, choices, set }: Decided) {
  const { outlines, rows, min, max } = preview;
  const [at, setAt] = useState<number | null>(null);
  const leftOut = choices.leftOut ?? [];
  const out = new Set(leftOut);
  const [width, height] = [max[0] - min[0] || 1, max[1] - min[1] || 1];
  const room = Math.max(width, height) * 0.02;
  // Small ones lie on large ones, so that each can be clicked.
  const inOrder = useMemo(() => largestFirst(outlines), [outlines]);
  const kept = new Map(
    rows.map((row) => [row.key, (choices.becomes[row.key] ?? likelyFor(row, choices.becomes)) !== 'leave']),
  );
  const colours = new Map(rows.map(({ key }) => [key, rowColour(rows, key)]));
  const toggle = (i: number) =>
    set({ leftOut: out.has(i) ? leftOut.filter((one) => one !== i) : [...leftOut, i] });
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step !== undefined) {
      const now = at === null ? (step > 0 ? -1 : 0) : inOrder.indexOf(at);
      setAt(inOrder.at((now + step) % inOrder.length)!);
    } else if ((event.key === 'Enter' || event.key === ' ') && at !== null) toggle(at);
    else return;
    event.preventDefault();
  };
  return (
    <>
      <svg
        className="import-plan"
        role="group"
        aria-label="Outlines in plan"
        aria-activedescendant={at === null ? undefined : `outline-${at}`}
        tabIndex={0}
        viewBox={`${-room} ${-room} ${width + room * 2} ${height + room * 2}`}
        preserveAspectRatio="xMidYMid meet"
        onKeyDown={onKeyDown}
        onClick={({ target }) => {
          const i = (target as Element).closest('[data-outline]')?.getAttribute('data-outline');
          if (i) toggle(Number(i));
        }}
      >
        {inOrder.map((i) => (
          <PlanOutline
            key={i}
            number={i}
            outline={outlines[i]!}
            left={min[0]}
            top={max[1]}
            colour={colours.get(outlines[i]!.row)!}
            isOut={out.has(i) || !kept.get(outlines[i]!.row)}
            isAt={i === at}
          />
        ))}
      </svg>
      <p className="visually-quiet mb-1" aria-live="polite">
        {at === null
          ? 'A click leaves an outline out; arrow keys go from one to the next'
          : `${outlines[at]!.name}: the space bar leaves it out or takes it in`}
        {leftOut.length > 0 && `; ${leftOut.length} are left out`}.
      </p>
    </>
  );
}

const PlanOutline = memo(function PlanOutline({
  number,
  outline: { name, rings },
  left,
  top,
  colour,
  isOut,
  isAt,
}: {
  number: number;
  outline: OutlineInPlan;
  left: number;
  top: number;
  colour: string;
  isOut: boolean;
  isAt: boolean;
}) {
  const path = rings.map((ring) => `M${ring.map(([x, y]) => `${x - left},${top - y}`).join('L')}Z`);
  return (
    <path
      id={`outline-${number}`}
      data-outline={number}
      role="button"
      aria-label={`${name}${isOut ? ', left out' : ''}`}
      aria-pressed={!isOut}
      d={path.join('')}
      fill={colour}
      fillRule="evenodd"
      fillOpacity={isOut ? 0.06 : 0.45}
      stroke={colour}
      className={isAt ? 'is-at' : undefined}
      strokeDasharray={isOut ? '3 3' : undefined}
      vectorEffect="non-scaling-stroke"
    >
      <title>{name}</title>
    </path>
  );
});

/** The numbers of outlines by the size of their boxes, the largest first. */
function largestFirst(outlines: readonly OutlineInPlan[]): number[] {
  const sizes = outlines.map(({ rings: [outer = []] }) => {
    const { minX, minY, maxX, maxY } = bounds(outer);
    return (maxX - minX) * (maxY - minY);
  });
  return outlines.map((_, i) => i).sort((a, b) => sizes[b]! - sizes[a]!);
}

/** How a file in coordinates of its own is placed: by itself, its middle at the origin, or one of its points on one of the board. */
export function PlaceFields({ preview, choices, set }: Decided) {
  const { origin, pinned } = choices;
  const how = pinned ? 'points' : origin ? 'origin' : choices.centre ? 'centre' : 'itself';
  const { metres } = MODEL_UNITS.find(({ id }) => id === choices.unit)!;
  const middle = [0, 1].map((k) => Math.round(((preview.min[k]! + preview.max[k]!) / 2) * metres)) as [
    number,
    number,
  ];
  const number = (label: string, value: number, put: (value: number) => void, unit = 'm') => (
    <NumberField
      label={label}
      unit={unit}
      value={value}
      commit={(next) => {
        if (!Number.isFinite(next)) return 'A number.';
        put(next);
        return null;
      }}
    />
  );
  return (
    <>
      <ChoiceField
        label="Placed by"
        value={how}
        choices={[
          { value: 'itself', name: preview.system ? `its map system` : 'its own coordinates' },
          { value: 'centre', name: 'its middle at the origin' },
          { value: 'origin', name: 'a point of it at the origin' },
          { value: 'points', name: 'two points and a turn' },
        ]}
        commit={(next) =>
          set({
            centre: next === 'centre',
            origin: next === 'origin' ? [...middle, 0] : null,
            pinned: next === 'points' ? { file: middle, board: [0, 0], turnDeg: 0 } : null,
          })
        }
      />
      {origin && (
        <div className="pair even thirds">
          {number('x', origin[0], (x) => set({ origin: [x, origin[1], origin[2]] }))}
          {number('y', origin[1], (y) => set({ origin: [origin[0], y, origin[2]] }))}
          {number('z', origin[2], (z) => set({ origin: [origin[0], origin[1], z] }))}
        </div>
      )}
      {pinned && (
        <div className="pair even">
          {number('File x', pinned.file[0], (x) => set({ pinned: { ...pinned, file: [x, pinned.file[1]] } }))}
          {number('File y', pinned.file[1], (y) => set({ pinned: { ...pinned, file: [pinned.file[0], y] } }))}
          {number('Board x', pinned.board[0], (x) =>
            set({ pinned: { ...pinned, board: [x, pinned.board[1]] } }),
          )}
          {number('Board y', pinned.board[1], (y) =>
            set({ pinned: { ...pinned, board: [pinned.board[0], y] } }),
          )}
          {number('Turned by', pinned.turnDeg, (turnDeg) => set({ pinned: { ...pinned, turnDeg } }), '°')}
        </div>
      )}
    </>
  );
}
