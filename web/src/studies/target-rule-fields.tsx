import { add, change, newId, type Project, type RuledTarget, type Study } from '@dial-shade/core';
import { AppWindow, BrickWall, DoorOpen } from 'lucide-react';
import { CheckField, ChoiceField, LengthField, TextField } from '../app/fields';
import { ScopeFields, WallFields } from '../openings/scope-fields';
import { currentProject, edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';

const AMONG = [
  { value: 'neighbours', name: 'the neighbours' },
  { value: 'option', name: 'the option shown' },
  { value: 'today', name: 'what stays of Today' },
] as const;
const AT = [
  { value: 'centre', name: 'the middle of the glass' },
  { value: 'grid', name: 'a grid over the glass' },
  { value: 'reference', name: 'the reference point of the room' },
] as const;
const EVERYWHERE = { owners: null, sectors: null, storeys: null, walls: null, except: [] };

/** A new target by rule, measured by the study at hand. */
function put(study: Study | undefined, name: string, target: (id: string) => RuledTarget): void {
  edit(`measure ${name}`, (now: Project) => {
    const id = newId('target');
    const withTarget = add('targets', target(id))(now);
    return study ? change('studies', study.id, { targets: [...study.targets, id] })(withTarget) : withTarget;
  });
}

/** Adds targets that follow a rule: windows, facades, rooms of the chosen mass. */
export function RuledTargetButtons({ study }: { study: Study | undefined }) {
  const selection = useView((view) => view.selection);
  const project = useDocument();
  const mass =
    selection?.layer === 'neighbours'
      ? null
      : project.options.flatMap(({ masses }) => masses).find(({ id }) => id === selection?.id);
  const numbered = (name: string) => `${name} ${currentProject().targets.length + 1}`;
  const exposure = study?.kind === 'room-exposure';
  return (
    <>
      <button
        className="btn btn-quiet btn-sm"
        title="Glazed openings by rule, each a place of its own"
        onClick={() =>
          put(study, 'windows', (id) => ({
            id,
            name: numbered('Windows'),
            kind: 'openings',
            among: exposure || study?.kind === 'solar-gain' ? 'option' : 'neighbours',
            scope: EVERYWHERE,
            withinM: null,
            facing: false,
            at: exposure ? 'reference' : 'centre',
            spacingM: 0.5,
            offsetM: 0.01,
          }))
        }
      >
        <AppWindow size={14} /> Windows
      </button>
      <button
        className="btn btn-quiet btn-sm"
        title="Walls by rule, storey by storey"
        onClick={() =>
          put(study, 'facades', (id) => ({
            id,
            name: numbered('Facades'),
            kind: 'facades',
            among: 'option',
            scope: EVERYWHERE,
            roofs: false,
            spacingM: 1,
            offsetM: 0.01,
          }))
        }
      >
        <BrickWall size={14} /> Facades
      </button>
      {mass && mass.rooms.length > 0 && (
        <button
          className="btn btn-quiet btn-sm"
          title="The working plane of its rooms"
          onClick={() =>
            put(study, `rooms of ${mass.name}`, (id) => ({
              id,
              name: `Rooms of ${mass.name}`.slice(0, 80),
              kind: 'rooms',
              among: selection!.layer === 'today' ? 'today' : 'option',
              mass: mass.id,
              rooms: null,
              heightM: 0.85,
              spacingM: 0.5,
              offsetM: 0.01,
            }))
          }
        >
          <DoorOpen size={14} /> Rooms of “{mass.name}”
        </button>
      )}
    </>
  );
}

/** What a target by rule means. */
export function RuledTargetFields({ target }: { target: RuledTarget }) {
  const { optionId } = useView.getState();
  const set = (fields: Partial<RuledTarget>) =>
    edit(`rule of ${target.name}`, change('targets', target.id, fields), { quiet: true });
  if (target.kind === 'rooms')
    return (
      <LengthField
        label="Above the floor"
        value={target.heightM}
        commit={(heightM) => set({ heightM } as Partial<RuledTarget>)}
      />
    );
  const holder = target.among === 'neighbours' ? null : target.among === 'today' ? 'today' : optionId;
  return (
    <>
      <ChoiceField label="Of" value={target.among} choices={AMONG} commit={(among) => void set({ among })} />
      <WallFields scope={target.scope} set={(scope) => set({ scope })} />
      <ScopeFields optionId={holder} scope={target.scope} set={(scope) => void set({ scope })} />
      {target.kind === 'facades' ? (
        <CheckField label="Roofs too" checked={target.roofs} change={(roofs) => void set({ roofs })} />
      ) : (
        <>
          <ChoiceField label="At" wide value={target.at} choices={AT} commit={(at) => void set({ at })} />
          <CheckField
            label="Only those that see what is proposed"
            checked={target.facing}
            change={(facing) => void set({ facing })}
          />
          <TextField
            label="Within"
            unit="m"
            placeholder="any distance"
            value={target.withinM === null ? '' : String(target.withinM)}
            commit={(text) => {
              const metres = Number(text.trim().replace(',', '.'));
              if (text.trim() !== '' && !(metres > 0))
                return 'A distance is a number of metres above 0, or nothing.';
              return set({ withinM: text.trim() === '' ? null : metres });
            }}
          />
        </>
      )}
    </>
  );
}
