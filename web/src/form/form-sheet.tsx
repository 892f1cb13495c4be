import {
  add,
  change,
  changeMass,
  duplicateOption,
  formatArea,
  formatLength,
  freshId,
  type Mass,
  massFigures,
  massLevels,
  moveOwner,
  nextHue,
  nextLetter,
  type Option,
  remove,
  removeMass,
  TODAY,
} from '@dial-shade/core';
import { Copy, Move, Pentagon, Plus, RectangleHorizontal, Trash2 } from 'lucide-react';
import { ChoiceField, LengthField, NumberField, Section, TextField } from '../app/fields';
import { OptionLetter } from '../app/option-letter';
import { FirstSteps } from '../site/first-steps';
import { currentProject, edit, useDocument } from '../state/project-store';
import { optionsInOrder, setView, useView } from '../state/view-store';

/** Options and their masses. */
export function FormSheet() {
  const project = useDocument();
  const optionId = useView((view) => view.optionId);
  const option = project.options.find((o) => o.id === optionId) ?? project.options[0]!;
  return (
    <>
      <h1>Form</h1>
      <FirstSteps />
      <Section
        title="Options"
        aside={
          <button className="btn-bare" title="Add an option" aria-label="Add an option" onClick={addOption}>
            <Plus size={16} />
          </button>
        }
      >
        <ul className="things">
          {optionsInOrder(project).map((o) => (
            <li key={o.id} className={o.id === option.id ? 'chosen' : ''}>
              <OptionLetter option={o} />
              <button className="name" onClick={() => setView({ optionId: o.id, selection: null })}>
                {o.name}
              </button>
              <button
                className="btn-bare"
                title="Duplicate with everything in it"
                aria-label={`Duplicate ${o.name}`}
                onClick={() => edit(`duplicate ${o.name}`, duplicateOption(o.id))}
              >
                <Copy size={14} />
              </button>
              {o.id !== TODAY && (
                <button className="btn-bare" aria-label={`Remove ${o.name}`} onClick={() => removeOption(o)}>
                  <Trash2 size={14} />
                </button>
              )}
            </li>
          ))}
        </ul>
        <TextField
          label="Name"
          value={option.name}
          commit={(name) => edit('rename an option', change('options', option.id, { name }), { quiet: true })}
        />
        <TextField
          label="Intent"
          value={option.note}
          commit={(note) => edit('note the intent', change('options', option.id, { note }), { quiet: true })}
        />
      </Section>
      <Section title={`Masses of ${option.letter} ${option.name}`}>
        <div className="d-flex gap-1 mb-2">
          <button
            className="btn btn-sunlit btn-sm"
            onClick={() => setView({ tool: { kind: 'draw', shape: 'rectangle', purpose: 'mass' } })}
          >
            <RectangleHorizontal size={14} /> Rectangle
          </button>
          <button
            className="btn btn-quiet btn-sm"
            onClick={() => setView({ tool: { kind: 'draw', shape: 'polygon', purpose: 'mass' } })}
          >
            <Pentagon size={14} /> Polygon
          </button>
          <button
            className="btn btn-quiet btn-sm"
            title="Drag buildings over the ground (M)"
            onClick={() => setView({ tool: { kind: 'move' } })}
          >
            <Move size={14} /> Move
          </button>
        </div>
        {option.masses.length === 0 && (
          <p className="visually-quiet">Empty. Draw a footprint on the ground.</p>
        )}
        <MassList option={option} />
      </Section>
      <ChosenMass option={option} />
      <Totals option={option} />
    </>
  );
}

function addOption(): void {
  const project = currentProject();
  const letter = nextLetter(project);
  const id = freshId(project, letter.toLowerCase());
  const option: Option = {
    id,
    name: `Option ${letter}`,
    letter,
    hue: nextHue(project),
    note: '',
    masses: [],
  };
  if (!edit(`add option ${letter}`, add('options', option))) setView({ optionId: id, selection: null });
}

function removeOption(option: Option): void {
  if (!edit(`remove ${option.name}`, remove('options', option.id)))
    setView({ optionId: optionsInOrder(currentProject())[0]!.id, selection: null });
}

function layerOf(option: Option) {
  return option.id === TODAY ? ('today' as const) : ('option' as const);
}

function MassList({ option }: { option: Option }) {
  const { site, units } = useDocument();
  const selection = useView((view) => view.selection);
  return (
    <ul className="things">
      {option.masses.map((mass) => {
        const levels = massLevels(mass, site.ground);
        return (
          <li key={mass.id} className={selection?.id === mass.id ? 'chosen' : ''}>
            <button
              className="name"
              onClick={() =>
                setView({
                  selection: {
                    id: mass.id,
                    optionId: option.id,
                    layer: layerOf(option),
                    wallBearingDeg: null,
                  },
                })
              }
            >
              {mass.name}
            </button>
            <span className="figure">{formatLength(levels.topM - levels.floorM, units, 1)} high</span>
            <button
              className="btn-bare"
              aria-label={`Remove ${mass.name}`}
              onClick={() => edit(`remove ${mass.name}`, removeMass(option.id, mass.id))}
            >
              <Trash2 size={14} />
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function ChosenMass({ option }: { option: Option }) {
  const { site, units } = useDocument();
  const selection = useView((view) => view.selection);
  const mass = option.masses.find((m) => m.id === selection?.id && selection.optionId === option.id);
  if (!mass) return null;
  const set = (name: string, fields: Partial<Mass>) =>
    edit(`${name} ${mass.name}`, changeMass(option.id, mass.id, fields), { quiet: true });
  const levels = massLevels(mass, site.ground);
  const figures = massFigures(mass);
  const [x, y] = mass.footprint.outer[0]!;
  const moveTo = (nx: number, ny: number) =>
    edit(`move ${mass.name}`, moveOwner({ optionId: option.id, id: mass.id }, nx - x, ny - y), {
      quiet: true,
    });
  const setCount = (count: number) => {
    if (!Number.isInteger(count)) return 'The number of storeys must be whole.';
    const last = mass.storeys.at(-1)!;
    return set('storeys of', {
      storeys: Array.from({ length: Math.max(0, Math.min(count, 1000)) }, (_, i) => mass.storeys[i] ?? last),
    });
  };
  const { roof, base } = mass;
  return (
    <Section title={mass.name}>
      <TextField label="Name" value={mass.name} commit={(name) => set('rename', { name })} />
      <LengthField label="First corner x" value={x} commit={(value) => moveTo(value, y)} />
      <LengthField label="First corner y" value={y} commit={(value) => moveTo(x, value)} />
      <NumberField label="Storeys" value={mass.storeys.length} commit={setCount} />
      {mass.storeys.slice(0, 12).map((storey, i) => (
        <LengthField
          key={i}
          label={`Storey ${i + 1} height`}
          value={storey.heightM}
          commit={(heightM) =>
            set(`height of storey ${i + 1},`, {
              storeys: mass.storeys.map((s, k) => (k === i ? { heightM } : s)),
            })
          }
        />
      ))}
      {mass.storeys.length > 12 && (
        <p className="visually-quiet">and {mass.storeys.length - 12} more storeys</p>
      )}
      <ChoiceField
        label="Stands on"
        value={base.on}
        choices={[
          { value: 'ground', name: 'The ground' },
          { value: 'level', name: 'A level' },
        ]}
        commit={(on) =>
          set('base of', {
            base: on === 'ground' ? { on, offsetM: 0 } : { on, levelM: Number(levels.floorM.toFixed(3)) },
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
      <ChoiceField
        label="Roof"
        value={roof.kind}
        choices={[
          { value: 'flat', name: 'Flat' },
          { value: 'gable', name: 'Gable' },
          { value: 'pyramid', name: 'Pyramid' },
        ]}
        commit={(kind) =>
          edit(
            `roof of ${mass.name}`,
            changeMass(option.id, mass.id, {
              roof: kind === 'flat' ? { kind, parapetM: 0 } : { kind, riseM: 2.5 },
            }),
          )
        }
      />
      {roof.kind === 'flat' ? (
        <LengthField
          label="Parapet"
          value={roof.parapetM}
          commit={(parapetM) => set('parapet of', { roof: { kind: 'flat', parapetM } })}
        />
      ) : (
        <LengthField
          label="Rise"
          value={roof.riseM}
          commit={(riseM) => set('roof of', { roof: { ...roof, riseM } })}
        />
      )}
      {option.id === TODAY && (
        <label className="d-flex gap-2 align-items-center mb-2">
          <input
            type="checkbox"
            checked={mass.demolished}
            onChange={(event) => set('demolish', { demolished: event.target.checked })}
          />
          Demolished when an option is built
        </label>
      )}
      <dl className="facts">
        <dt>Footprint</dt>
        <dd>{formatArea(figures.footprintM2, units)}</dd>
        <dt>Floor area</dt>
        <dd>{formatArea(figures.floorM2, units)}</dd>
        <dt>Top above its floor</dt>
        <dd>{formatLength(levels.topM - levels.floorM, units)}</dd>
        <dt>Top level</dt>
        <dd>{formatLength(levels.topM, units)}</dd>
      </dl>
    </Section>
  );
}

function Totals({ option }: { option: Option }) {
  const { units } = useDocument();
  if (option.masses.length === 0) return null;
  const figures = option.masses.map(massFigures);
  const sum = (pick: (f: ReturnType<typeof massFigures>) => number) =>
    figures.reduce((all, f) => all + pick(f), 0);
  return (
    <Section title={`${option.letter} ${option.name} in all`}>
      <dl className="facts">
        <dt>Floor area</dt>
        <dd>
          {formatArea(
            sum((f) => f.floorM2),
            units,
          )}
        </dd>
        <dt>Volume</dt>
        <dd>{Math.round(sum((f) => f.volumeM3)).toLocaleString('en')} m³</dd>
      </dl>
    </Section>
  );
}
