import { type ImportChoices, MODEL_UNITS, type ModelRow } from '@dial-shade/core';
import { ChoiceField, NumberField } from '../app/fields';
import { OBSTRUCTION_COLOURS } from '../theme/palette';
import type { ModelPreview } from '../workers/model-file-work';

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

/** The outlines in plan, by layer; a click leaves one out, or takes it in again. */
export function OutlinePlan({ preview, choices, set }: Decided) {
  const { outlines, rows, min, max, footprints } = preview;
  const leftOut = choices.leftOut ?? [];
  const [width, height] = [max[0] - min[0] || 1, max[1] - min[1] || 1];
  const room = Math.max(width, height) * 0.02;
  const isOut = (row: string, i: number) =>
    leftOut.includes(i) || (choices.becomes[row] ?? rows.find(({ key }) => key === row)?.likely) === 'leave';
  const toggle = (i: number) =>
    set({ leftOut: leftOut.includes(i) ? leftOut.filter((one) => one !== i) : [...leftOut, i] });
  return (
    <>
      <svg
        className="import-plan"
        role="group"
        aria-label="Outlines in plan"
        viewBox={`${-room} ${-room} ${width + room * 2} ${height + room * 2}`}
        preserveAspectRatio="xMidYMid meet"
      >
        {outlines.map(({ row, name, ring }, i) => (
          <polygon
            key={i}
            role="button"
            aria-label={`${name}${isOut(row, i) ? ', left out' : ''}`}
            aria-pressed={!isOut(row, i)}
            points={ring.map(([x, y]) => `${x - min[0]},${max[1] - y}`).join(' ')}
            fill={rowColour(rows, row)}
            fillOpacity={isOut(row, i) ? 0.06 : 0.45}
            stroke={rowColour(rows, row)}
            strokeDasharray={isOut(row, i) ? '3 3' : undefined}
            vectorEffect="non-scaling-stroke"
            onClick={() => toggle(i)}
          >
            <title>{name}</title>
          </polygon>
        ))}
      </svg>
      <p className="visually-quiet mb-1">
        A click leaves an outline out{leftOut.length > 0 && `; ${leftOut.length} are left out`}.
        {footprints > outlines.length && ` The first ${outlines.length.toLocaleString('en')} are drawn.`}
      </p>
    </>
  );
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
