import {
  cutText,
  type Becomes,
  type ImportChoices,
  likelyFor,
  formatLength,
  COMMON_UNITS,
  MODEL_UNITS,
  type ModelRow,
  type ModelUnit,
  type Source,
  TODAY,
  type UpAxis,
} from '@dial-shade/core';
import { useState } from 'react';
import { ChoiceField, LengthField, TextField } from '../app/fields';
import { useDocument } from '../state/project-store';
import type { ModelPreview } from '../workers/model-file-work';
import { HeightsFrom } from './import-heights';
import { ReadAgain } from './read-again';
import type { DrawnAs } from './use-import';
import { type Decided, OutlinePlan, PlaceFields, rowColour } from './import-plan';

const BECOMES: Record<Becomes, string> = {
  neighbour: 'a neighbour',
  today: 'part of Today',
  option: 'part of an option',
  device: 'a shading device of an option',
  terrain: 'the terrain',
  target: 'a target',
  area: 'an area',
  rooms: 'rooms of masses of an option',
  boundary: 'the boundary',
  leave: 'nothing: left out',
};

/** What a model file holds, how large it would be, and what each part becomes. */
export function ImportPreview({
  preview,
  before,
  changes,
  choices,
  taken,
  drawn,
  onDrawn,
  onChange,
}: {
  preview: ModelPreview;
  /** The file as it was brought in before. */
  before: Source | null;
  /** What reading it again changes; null while that is found out. */
  changes: readonly string[] | null;
  choices: ImportChoices;
  /** What is moved where it is placed so, and how high outlines become. */
  taken: readonly string[];
  /** How lines of a drawing are taken; otherwise, it is read again. */
  drawn: DrawnAs;
  onDrawn: (as: Partial<DrawnAs>) => void;
  onChange: (choices: ImportChoices) => void;
}) {
  const project = useDocument();
  const set = (fields: Partial<ImportChoices>) => onChange({ ...choices, ...fields });
  const byColour = choices.outlinesBy === 'colour' && preview.rowsByColour !== null;
  const decided: Decided = {
    preview: byColour
      ? {
          ...preview,
          rows: preview.rowsByColour!,
          outlines: preview.outlines.map((one) => ({ ...one, row: one.colourRow })),
        }
      : preview,
    choices,
    set,
  };
  const proposals = project.options.filter((o) => o.id !== TODAY);
  const intoOption = Object.values(choices.becomes).some((b) => b === 'option' || b === 'rooms');
  return (
    <div className="import-preview">
      {before && <ReadAgain before={before} changes={changes} choices={choices} set={set} />}
      <div className="two">
        <div>
          <TextField
            label="Name"
            value={choices.name}
            commit={(name) => {
              set({ name: cutText(name.trim(), 80) || 'Model' });
              return null;
            }}
          />
          {!preview.geographic && <PlacedBy {...decided} />}
          {preview.format === 'dxf' && <DrawnLines preview={preview} drawn={drawn} onDrawn={onDrawn} />}
          <FirstStands preview={preview} onDrawn={onDrawn} />
          {preview.footprints > 0 && <HeightsFrom {...decided} />}
          {(preview.site || preview.trueNorthDeg !== null) && <SiteOfFile {...decided} />}
        </div>
        <div>
          <SizeOf preview={preview} unit={choices.unit} up={choices.up} />
          {[...taken, ...preview.notes].map((sentence) => (
            <p key={sentence} className="note">
              {sentence}
            </p>
          ))}
        </div>
      </div>
      {preview.rowsByColour && preview.footprints > 0 && (
        <ChoiceField
          label="Outlines by"
          value={byColour ? 'colour' : 'layer'}
          choices={[
            { value: 'layer', name: 'their layer' },
            { value: 'colour', name: 'the colour they are drawn in' },
          ]}
          commit={(outlinesBy) => set({ outlinesBy, becomes: {} })}
        />
      )}
      {preview.outlines.length > 0 && <OutlinePlan {...decided} />}
      <PartRows {...decided} />
      {intoOption && proposals.length > 0 && (
        <ChoiceField
          label="The option"
          value={choices.optionId}
          choices={proposals.map((o) => ({ value: o.id, name: `${o.letter} ${o.name}` }))}
          commit={(optionId) => set({ optionId })}
        />
      )}
    </div>
  );
}

/** Whether longitude or latitude stands first, where that is a question. */
function FirstStands({
  preview,
  onDrawn,
}: {
  preview: ModelPreview;
  onDrawn: (as: Partial<DrawnAs>) => void;
}) {
  if (preview.latitudeFirst === null) return null;
  return (
    <ChoiceField
      label="First stands"
      value={preview.latitudeFirst ? 'latitude' : 'longitude'}
      choices={[
        { value: 'longitude', name: 'longitude, as the standard has it' },
        { value: 'latitude', name: 'latitude' },
      ]}
      commit={(first) => onDrawn({ latitudeFirst: first === 'latitude' })}
    />
  );
}

/** How lines of a drawing are taken. */
function DrawnLines({
  preview,
  drawn,
  onDrawn,
}: {
  preview: ModelPreview;
  drawn: DrawnAs;
  onDrawn: (as: Partial<DrawnAs>) => void;
}) {
  return (
    <>
      <LengthField
        label="Join ends within"
        value={drawn.joinM}
        commit={(within) => {
          if (!(within >= 0 && within <= 10)) return 'A distance between 0 and 10 m.';
          if (within !== drawn.joinM) onDrawn({ joinM: within });
          return null;
        }}
      />
      {(preview.hasRounds || drawn.isCourts) && (
        <ChoiceField
          label="Lines round others"
          value={drawn.isCourts ? 'courts' : 'plots'}
          choices={[
            { value: 'plots', name: 'are those of plots, where they look so' },
            { value: 'courts', name: 'are buildings with courts' },
          ]}
          commit={(as) => onDrawn({ isCourts: as === 'courts' })}
        />
      )}
    </>
  );
}

/** Unit, axis and middle of a file in coordinates of its own. */
function PlacedBy({ preview, choices, set }: Decided) {
  return (
    <>
      <ChoiceField<ModelUnit>
        label="File is in"
        value={choices.unit}
        choices={MODEL_UNITS.filter(({ id }, i) => i < COMMON_UNITS || id === preview.unit).map(
          ({ id, name }) => ({
            value: id,
            name:
              id === (preview.unit ?? preview.likely[choices.up])
                ? `${name} (${preview.unit ? 'stated' : 'likely'})`
                : name,
          }),
        )}
        commit={(unit) => set({ unit })}
      />
      <ChoiceField<UpAxis>
        label="Up is"
        value={choices.up}
        choices={[
          { value: 'z', name: preview.up === 'z' ? 'z (stated)' : 'z' },
          { value: 'y', name: preview.up === 'y' ? 'y (stated)' : 'y' },
        ]}
        commit={(up) => set({ up, unit: preview.unit ?? preview.likely[up] })}
      />
      <PlaceFields preview={preview} choices={choices} set={set} />
    </>
  );
}

/** Whether the place and north of the project are taken from the file. */
function SiteOfFile({ preview, choices, set }: Decided) {
  return (
    <label className="d-flex gap-2 align-items-center mb-2">
      <input
        type="checkbox"
        checked={choices.takeSite}
        onChange={(event) => set({ takeSite: event.target.checked })}
      />
      <span>
        Take{' '}
        {[
          preview.site &&
            `the place (${preview.site.latitudeDeg.toFixed(4)}, ${preview.site.longitudeDeg.toFixed(4)})`,
          preview.trueNorthDeg !== null && `true north (${preview.trueNorthDeg.toFixed(1)}°)`,
        ]
          .filter(Boolean)
          .join(' and ')}{' '}
        from the file
      </span>
    </label>
  );
}

/** What rows hold, one and many. */
const HOLDS: Readonly<Record<ModelRow['kind'], readonly [string, string]>> = {
  mesh: ['triangle', 'triangles'],
  outline: ['outline', 'outlines'],
  room: ['room', 'rooms'],
  spot: ['height', 'heights'],
};

/** Rows shown of a file with more parts than anybody reads. */
const MAX_ROWS = 60;
/** Rows beyond which they can be looked for. */
const FEW_ROWS = 8;

/** What each part of the file becomes; of many, those that are looked for, set all at once. */
function PartRows({ preview, choices, set }: Decided) {
  const [words, setWords] = useState('');
  const wanted = words.trim().toLowerCase();
  const rows = preview.rows.filter(({ name }) => name.toLowerCase().includes(wanted));
  const more = rows.length - MAX_ROWS;
  const put = (some: readonly ModelRow[], becomes: Becomes) =>
    set({
      becomes: {
        ...choices.becomes,
        ...Object.fromEntries(
          some.filter(({ may }) => may.includes(becomes)).map(({ key }) => [key, becomes]),
        ),
      },
    });
  return (
    <>
      {preview.rows.length > FEW_ROWS && (
        <div className="d-flex gap-2 mb-1">
          <input
            className="form-control"
            placeholder="Find a part"
            aria-label="Find a part"
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
          <select
            className="form-select"
            aria-label={wanted ? 'All that are found become' : 'All become'}
            value=""
            onChange={({ target }) => target.value && put(rows, target.value as Becomes)}
          >
            <option value="">{wanted ? `the ${rows.length} found become …` : 'all become …'}</option>
            {[...new Set(rows.flatMap(({ may }) => may))].map((becomes) => (
              <option key={becomes} value={becomes}>
                {BECOMES[becomes]}
              </option>
            ))}
          </select>
        </div>
      )}
      <table className="import-rows" aria-label="What each part becomes">
        <thead>
          <tr>
            <th scope="col">In the file</th>
            <th scope="col">holds</th>
            <th scope="col">becomes</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, MAX_ROWS).map((row) => (
            <tr key={row.key}>
              <th scope="row">
                {row.kind === 'outline' && (
                  <i className="patch" style={{ background: rowColour(preview.rows, row.key) }} />
                )}{' '}
                {row.name}
              </th>
              <td>
                {row.count.toLocaleString('en')} {HOLDS[row.kind][row.count === 1 ? 0 : 1]}
              </td>
              <td>
                <select
                  className="form-select"
                  aria-label={`${row.name} becomes`}
                  value={choices.becomes[row.key] ?? likelyFor(row, choices.becomes)}
                  onChange={(event) => put([row], event.target.value as Becomes)}
                >
                  {row.may.map((becomes) => (
                    <option key={becomes} value={becomes}>
                      {BECOMES[becomes]}
                    </option>
                  ))}
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="visually-quiet">and {more} more; look for them by name</p>}
    </>
  );
}

function SizeOf({ preview, unit, up }: { preview: ModelPreview; unit: ModelUnit; up: UpAxis }) {
  const { units } = useDocument();
  if (preview.geographic)
    return (
      <p className="mb-1" data-testid="model-size">
        {preview.footprints.toLocaleString('en')} outlines between {preview.min[0].toFixed(4)},{' '}
        {preview.min[1].toFixed(4)} and {preview.max[0].toFixed(4)}, {preview.max[1].toFixed(4)} (longitude,
        latitude), placed by the site’s place.
      </p>
    );
  const { metres } = MODEL_UNITS.find((u) => u.id === unit)!;
  const span = preview.max.map((high, i) => (high - preview.min[i]!) * metres) as [number, number, number];
  const [width, depth, height] = up === 'z' ? span : [span[0], span[2], span[1]];
  const flat = preview.triangles === 0;
  const asks = [
    !flat && height > 150 && 'Taller than 150 m: is the unit right?',
    !flat && height < 1.5 && 'Lower than 1.5 m: is the unit right?',
  ].filter((sentence) => sentence !== false);
  return (
    <>
      <p className="mb-1" data-testid="model-size">
        This model would be{' '}
        {!flat && (
          <>
            <strong>{formatLength(height, units, 1)}</strong> tall,{' '}
          </>
        )}
        {formatLength(width, units, 1)} wide and {formatLength(depth, units, 1)} deep.
      </p>
      <p className="visually-quiet m-0">
        {flat
          ? [
              (preview.footprints > 0 || preview.heights === 0) &&
                `${preview.footprints.toLocaleString('en')} closed outlines.`,
              preview.heights > 0 && `${preview.heights.toLocaleString('en')} heights.`,
            ]
              .filter(Boolean)
              .join(' ')
          : `${preview.triangles.toLocaleString('en')} triangles, ${preview.vertices.toLocaleString('en')} vertices.`}
      </p>
      {asks.map((sentence) => (
        <p key={sentence} className="mt-1 mb-0" style={{ color: 'var(--alarm)' }}>
          {sentence}
        </p>
      ))}
    </>
  );
}
