import {
  cutText,
  type Becomes,
  type ImportChoices,
  likelyFor,
  formatLength,
  MODEL_UNITS,
  type ModelUnit,
  TODAY,
  type UpAxis,
} from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField, TextField } from '../app/fields';
import { useDocument } from '../state/project-store';
import type { ModelPreview } from '../workers/compute-worker';

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

interface Decided {
  preview: ModelPreview;
  choices: ImportChoices;
  set: (fields: Partial<ImportChoices>) => void;
}

/** What a model file holds, how large it would be, and what each part becomes. */
export function ImportPreview({
  preview,
  choices,
  onChange,
}: {
  preview: ModelPreview;
  choices: ImportChoices;
  onChange: (choices: ImportChoices) => void;
}) {
  const project = useDocument();
  const set = (fields: Partial<ImportChoices>) => onChange({ ...choices, ...fields });
  const decided = { preview, choices, set };
  const proposals = project.options.filter((o) => o.id !== TODAY);
  const intoOption = Object.values(choices.becomes).some((b) => b === 'option' || b === 'rooms');
  return (
    <div className="import-preview">
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
          {preview.footprints > 0 && <HeightsFrom {...decided} />}
          {(preview.site || preview.trueNorthDeg !== null) && <SiteOfFile {...decided} />}
        </div>
        <div>
          <SizeOf preview={preview} unit={choices.unit} up={choices.up} />
          {preview.notes.map((sentence) => (
            <p key={sentence} className="note">
              {sentence}
            </p>
          ))}
        </div>
      </div>
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

/** Unit, axis and middle of a file in coordinates of its own. */
function PlacedBy({ preview, choices, set }: Decided) {
  return (
    <>
      <ChoiceField<ModelUnit>
        label="File is in"
        value={choices.unit}
        choices={MODEL_UNITS.map(({ id, name }) => ({
          value: id,
          name:
            id === (preview.unit ?? preview.likely[choices.up])
              ? `${name} (${preview.unit ? 'stated' : 'likely'})`
              : name,
        }))}
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
      <CheckField
        label="Set its middle at the origin"
        checked={choices.centre}
        change={(is) => set({ centre: is })}
      />
    </>
  );
}

/** Where the heights of outlines come from. */
function HeightsFrom({ preview, choices, set }: Decided) {
  return (
    <>
      <ChoiceField
        label="Heights from"
        value={choices.heightProperty ?? ''}
        choices={[
          { value: '', name: 'what the file gives, or below' },
          ...preview.properties.map((name) => ({ value: name, name })),
        ]}
        commit={(name) => set({ heightProperty: name || null })}
      />
      <LengthField
        label="Else height"
        value={choices.heightM}
        commit={(heightM) => {
          if (!(heightM >= 0.1 && heightM <= 1000)) return 'A height between 0.1 and 1000 m is needed.';
          set({ heightM });
          return null;
        }}
      />
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

/** Rows shown of a file with more parts than anybody reads. */
const MAX_ROWS = 60;

/** What each part of the file becomes. */
function PartRows({ preview, choices, set }: Decided) {
  const more = preview.rows.length - MAX_ROWS;
  return (
    <>
      <table className="import-rows" aria-label="What each part becomes">
        <thead>
          <tr>
            <th scope="col">In the file</th>
            <th scope="col">holds</th>
            <th scope="col">becomes</th>
          </tr>
        </thead>
        <tbody>
          {preview.rows.slice(0, MAX_ROWS).map((row) => (
            <tr key={row.key}>
              <th scope="row">{row.name}</th>
              <td>
                {row.count.toLocaleString('en')}{' '}
                {row.kind === 'mesh' ? 'triangles' : row.kind === 'room' ? 'rooms' : 'outlines'}
              </td>
              <td>
                <select
                  className="form-select"
                  aria-label={`${row.name} becomes`}
                  value={choices.becomes[row.key] ?? likelyFor(row, choices.becomes)}
                  onChange={(event) =>
                    set({ becomes: { ...choices.becomes, [row.key]: event.target.value as Becomes } })
                  }
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
      {more > 0 && <p className="visually-quiet">and {more} more</p>}
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
  const far = Math.max(...preview.min.map(Math.abs), ...preview.max.map(Math.abs)) * metres;
  const flat = preview.triangles === 0;
  const asks = [
    !flat && height > 150 && 'Taller than 150 m: is the unit right?',
    !flat && height < 1.5 && 'Lower than 1.5 m: is the unit right?',
    far > Math.max(width, depth, height) * 4 + 500 &&
      `It lies ${formatLength(far, units, 0)} from the origin; set its middle at the origin, or move it once it is in.`,
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
          ? `${preview.footprints.toLocaleString('en')} closed outlines.`
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
