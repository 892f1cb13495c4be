import { change, type Envelope, formatClock, TODAY, type WindowOfTime } from '@dial-shade/core';
import { Trash2 } from 'lucide-react';
import { shortDate } from '../almanac/wording';
import { ChoiceField, Section } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { setView } from '../state/view-store';
import { WindowsFields } from '../studies/window-fields';
import { useEnvelopes, withKept } from './envelope-store';
import { reasonColour } from './reason-colours';

type Kept = Envelope['keep'][number];

function windowsInWords({ windows, basis }: Kept): string {
  const [{ from, to, startMinutes, endMinutes }, ...rest] = windows as [WindowOfTime, ...WindowOfTime[]];
  const days = from === to ? shortDate(from) : `${shortDate(from)} – ${shortDate(to)}`;
  const more = rest.length > 0 ? ` +${rest.length}` : '';
  const by = basis === 'solar' ? ' solar' : '';
  return `${days}, ${formatClock(startMinutes)}–${formatClock(endMinutes)}${by}${more}`;
}

/** What keeps its sun, and when. */
export function KeepSection({ envelope }: { envelope: Envelope }) {
  const { areas, targets, options } = useDocument();
  const index = Math.min(
    useEnvelopes((state) => state.kept),
    envelope.keep.length - 1,
  );
  const chosen = envelope.keep[index];
  const named = ({ on, id }: Kept) =>
    (on === 'area' ? areas : targets).find((one: { id: string; name: string }) => one.id === id)?.name ??
    'gone';
  const set = (fields: Partial<Kept>, name: string) =>
    edit(name, withKept(envelope.id, index, fields), { quiet: true });
  const target = chosen?.on === 'target' ? targets.find(({ id }) => id === chosen.id) : undefined;
  const isByRule = target !== undefined && target.kind !== 'plane' && target.kind !== 'ground';
  return (
    <Section title="Keep the sun on">
      {envelope.keep.length === 0 && (
        <p className="visually-quiet">
          Nothing yet. Choose an area that matters, or a target: a facade, windows, a roof.
        </p>
      )}
      <ul className="objects">
        {envelope.keep.map((kept, k) => (
          <ThingRow
            key={`${kept.on}/${kept.id}`}
            name={
              <>
                {named(kept)}
                <small> {windowsInWords(kept)}</small>
              </>
            }
            chosen={k === index}
            before={
              <span
                className="swatch-box"
                style={{ background: reasonColour(k), borderColor: reasonColour(k) }}
              />
            }
            onChoose={() => useEnvelopes.setState({ kept: k })}
          >
            <IconButton
              icon={Trash2}
              label={`Do not keep the sun on ${named(kept)}`}
              onClick={() =>
                edit(
                  `do not keep the sun on ${named(kept)}`,
                  change('envelopes', envelope.id, { keep: envelope.keep.filter((_, i) => i !== k) }),
                )
              }
            />
          </ThingRow>
        ))}
      </ul>
      <KeepMore envelope={envelope} like={chosen} />
      {chosen && isByRule && (
        <ChoiceField
          label="As it stands in"
          value={chosen.option ?? ''}
          choices={[
            { value: '', name: 'Today' },
            ...options
              .filter(({ id }) => id !== TODAY)
              .map(({ id, letter, name }) => ({ value: id, name: `${letter} ${name}` })),
          ]}
          commit={(option) => set({ option: option || null }, 'keep the sun on what stands in an option')}
        />
      )}
      {chosen && (
        <ChoiceField
          label="Hours are by"
          value={chosen.basis}
          choices={[
            { value: 'clock', name: 'the clock on site' },
            { value: 'solar', name: 'the sun (12:00: highest)' },
          ]}
          commit={(basis) => set({ basis }, 'tell the hours by clock or sun')}
        />
      )}
      {chosen && (
        <WindowsFields
          key={index}
          windows={chosen.windows as [WindowOfTime, ...WindowOfTime[]]}
          set={(windows, name) => set({ windows }, name)}
        />
      )}
    </Section>
  );
}

/** The areas and targets that may be kept the sun on too; a further one is kept it on as the one in hand is. */
function KeepMore({ envelope, like }: { envelope: Envelope; like: Kept | undefined }) {
  const { areas, targets, site } = useDocument();
  const offered = [
    ...areas.map(({ id, name }) => ({ value: `area/${id}`, name })),
    ...targets.map(({ id, name, kind }) => ({
      value: `target/${id}`,
      name: `${name} (${KIND_WORDS[kind]})`,
    })),
  ].filter(({ value }) => !envelope.keep.some(({ on, id }) => `${on}/${id}` === value));
  const addKept = (value: string) => {
    const [on, id] = value.split('/') as ['area' | 'target', string];
    const windows = like?.windows ?? [
      { from: `${site.year}-03-21`, to: `${site.year}-03-21`, startMinutes: 600, endMinutes: 900 },
    ];
    const basis = like?.basis ?? 'clock';
    const keep = [...envelope.keep, { on, id, option: null, windows, basis }];
    if (!edit('keep the sun on more', change('envelopes', envelope.id, { keep })))
      useEnvelopes.setState({ kept: keep.length - 1 });
  };
  return (
    <div className="field">
      <label htmlFor="keep-more">Keep it on</label>
      <select
        id="keep-more"
        className="form-select"
        value=""
        onChange={({ target: { value } }) => value && addKept(value)}
        onFocus={() => setView({ tool: { kind: 'select' } })}
      >
        <option value="">{offered.length > 0 ? 'choose …' : 'nothing more; draw areas on Site'}</option>
        {offered.map(({ value, name }) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}

const KIND_WORDS = {
  ground: 'ground',
  plane: 'plane',
  openings: 'windows',
  facades: 'facades',
  rooms: 'rooms',
} as const;
