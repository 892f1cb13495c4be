import {
  changeOwner,
  findBody,
  firstCorner,
  massLevels,
  type MassShape,
  moveOwners,
  type OwnerRef,
  reshapeBody,
  setBack,
  shiftBy,
  type Storey,
  TODAY,
} from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { edit, useDocument } from '../state/project-store';
import { RoofFields } from './roof-fields';

/** Storeys shown one by one. */
const FEW = 12;

/** What can be typed about the chosen mass or neighbouring building. */
export function BodySection({ owner }: { owner: OwnerRef }) {
  const project = useDocument();
  const body = findBody(project, owner);
  if (!body) return null;
  const { ground, place } = project.site;
  const set = (name: string, fields: Partial<MassShape>) =>
    edit(
      `${name} ${body.name}`,
      reshapeBody(owner, (b) => ({ ...b, ...fields })),
      { quiet: true },
    );
  const [x, y] = firstCorner(body);
  const moveTo = (nx: number, ny: number) =>
    edit(`move ${body.name}`, moveOwners([owner], shiftBy(nx - x, ny - y)), { quiet: true });
  const setCount = (count: number) => {
    if (!Number.isInteger(count)) return 'The number of storeys must be whole.';
    const last = body.storeys.at(-1)!;
    return set('storeys of', {
      storeys: Array.from({ length: Math.max(0, Math.min(count, 1000)) }, (_, i) => body.storeys[i] ?? last),
    });
  };
  const setStorey = (i: number, storey: Storey, name: string) =>
    set(name, { storeys: body.storeys.map((s, k) => (k === i ? storey : s)) });
  return (
    <Section title={body.name} name="body">
      <TextField
        label="Name"
        value={body.name}
        commit={(name) => edit(`rename ${body.name}`, changeOwner(owner, { name }), { quiet: true })}
      />
      <LengthField label="First corner x" value={x} commit={(value) => moveTo(value, y)} />
      <LengthField label="First corner y" value={y} commit={(value) => moveTo(x, value)} />
      <NumberField label="Storeys" value={body.storeys.length} commit={setCount} />
      {body.storeys.slice(0, FEW).map((storey, i) => (
        <LengthField
          key={i}
          label={`Storey ${i + 1} height`}
          value={storey.heightM}
          commit={(heightM) => setStorey(i, { ...storey, heightM }, `height of storey ${i + 1},`)}
        />
      ))}
      {body.storeys.length > FEW && (
        <p className="visually-quiet">and {body.storeys.length - FEW} more storeys</p>
      )}
      <Setbacks owner={owner} body={body} />
      <BaseFields body={body} floorM={massLevels(body, ground).floorM} set={set} />
      <RoofFields
        roof={body.roof}
        northern={place.latitudeDeg >= 0}
        commit={(roof) => set('roof of', { roof })}
      />
      {owner.optionId !== TODAY && owner.optionId !== null && (
        <CheckField
          label="It is a shading device"
          checked={'device' in body && body.device === true}
          change={(device) => edit(`mark ${body.name}`, changeOwner(owner, { device }))}
        />
      )}
      {(owner.optionId === TODAY || owner.optionId === null) && (
        <label className="d-flex gap-2 align-items-center mb-2">
          <input
            type="checkbox"
            checked={body.demolished}
            onChange={(event) =>
              edit(`demolish ${body.name}`, changeOwner(owner, { demolished: event.target.checked }))
            }
          />
          Demolished when an option is built
        </label>
      )}
    </Section>
  );
}

/** What the body stands on: the ground, or a level. */
function BaseFields({
  body: { base },
  floorM,
  set,
}: {
  body: MassShape;
  floorM: number;
  set: (name: string, fields: Partial<MassShape>) => string | null;
}) {
  return (
    <>
      <ChoiceField
        label="Stands on"
        value={base.on}
        choices={[
          { value: 'ground', name: 'The ground' },
          { value: 'level', name: 'A level' },
        ]}
        commit={(on) =>
          set('base of', {
            base: on === 'ground' ? { on, offsetM: 0 } : { on, levelM: Number(floorM.toFixed(3)) },
          })
        }
      />
      {base.on === 'ground' ? (
        <LengthField
          label="Raised by"
          value={base.offsetM}
          commit={(offsetM) => set('raise', { base: { on: 'ground', offsetM } })}
        />
      ) : (
        <LengthField
          label="Level"
          value={base.levelM}
          commit={(levelM) => set('level of', { base: { on: 'level', levelM } })}
        />
      )}
    </>
  );
}

/** How far the walls of the upper storeys stand back, wall by wall. */
function Setbacks({ owner, body }: { owner: OwnerRef; body: MassShape }) {
  const edges = body.footprint.outer.length;
  if (body.storeys.length < 2 || edges > 12) return null;
  const setting = body.storeys.map((s, i) => ({ s, i })).filter(({ i }) => i > 0);
  return (
    <details className="setbacks">
      <summary>Setbacks of upper storeys</summary>
      <div
        className="grid-table"
        style={{ gridTemplateColumns: `3.6rem repeat(${edges}, minmax(2.4rem, 1fr))` }}
      >
        <span />
        {Array.from({ length: edges }, (_, e) => (
          <span key={e}>wall {e + 1}</span>
        ))}
        {setting.map(({ s, i }) => [
          <span key={`n${i}`}>storey {i + 1}</span>,
          ...Array.from({ length: edges }, (_, e) => (
            <SetbackCell
              key={`${i}-${e}`}
              label={`Setback of wall ${e + 1} in storey ${i + 1}`}
              value={s.setbacksM?.[e] ?? 0}
              commit={(metres) =>
                edit(
                  `set back wall ${e + 1} of ${body.name}`,
                  reshapeBody(owner, (b) => setBack(b, e, [i], metres - (s.setbacksM?.[e] ?? 0))),
                )
              }
            />
          )),
        ])}
      </div>
    </details>
  );
}

function SetbackCell({
  label,
  value,
  commit,
}: {
  label: string;
  value: number;
  commit: (m: number) => void;
}) {
  return (
    <input
      key={value}
      className="form-control"
      aria-label={label}
      defaultValue={String(Number(value.toFixed(3)))}
      onBlur={(event) => {
        const metres = Number(event.target.value.replace(',', '.').replace('−', '-'));
        if (event.target.value.trim() === '' || !Number.isFinite(metres)) event.target.value = String(value);
        else if (metres !== value) commit(metres);
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}
