import {
  add,
  type Area,
  AREA_USES,
  change,
  findBody,
  formatArea,
  newId,
  massLevels,
  remove,
  defaultSpacing,
  signedArea,
} from '@dial-shade/core';
import { Grid3x3, PencilRuler, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, LengthField, Section, TextField } from '../app/fields';
import { IconButton, ThingRow } from '../app/objects';
import { notify } from '../state/notice-store';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** Areas that matter: gardens, courtyards, play areas, allotments, terraces. */
export function AreasSection() {
  const { areas, units } = useDocument();
  const selection = useView((v) => v.selection);
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosen = areas.find((a) => a.id === chosenId);
  const draw = () => {
    const project = currentProject();
    const body = selection && findBody(project, selection);
    const onRoof = body && body.roof.kind === 'flat' && selection.face === 'roof/0';
    const levelM = onRoof
      ? Math.round(massLevels(body, project.site.ground).eavesM * 1000) / 1000
      : undefined;
    if (onRoof) notify(`The area is drawn on the roof of “${body.name}”.`);
    setView({
      tool: { kind: 'draw', shape: 'polygon', purpose: 'area', ...(levelM !== undefined && { levelM }) },
    });
  };
  return (
    <Section
      title={`Areas that matter (${areas.length})`}
      name="Areas that matter"
      aside={
        <IconButton
          icon={PencilRuler}
          label="Draw an area, on the ground or on the chosen flat roof"
          onClick={draw}
        />
      }
    >
      {areas.length === 0 && <p className="visually-quiet">Gardens, courtyards, play areas: none drawn.</p>}
      <ul className="objects">
        {areas.map((area) => (
          <ThingRow
            key={area.id}
            name={area.name}
            figure={formatArea(Math.abs(signedArea(area.outline)), units)}
            chosen={area.id === chosenId}
            onChoose={() => setChosen(area.id)}
          >
            <IconButton icon={Grid3x3} label={`Measure ${area.name}`} onClick={() => measure(area)} />
            <IconButton
              icon={Trash2}
              label={`Remove ${area.name}`}
              onClick={() => edit(`remove ${area.name}`, remove('areas', area.id))}
            />
          </ThingRow>
        ))}
      </ul>
      {chosen && <AreaFields area={chosen} />}
    </Section>
  );
}

function AreaFields({ area }: { area: Area }) {
  const set = (fields: Partial<Area>) =>
    edit(`change ${area.name}`, change('areas', area.id, fields), { quiet: true });
  return (
    <>
      <TextField label="Name" value={area.name} commit={(name) => set({ name })} />
      <ChoiceField<Area['use']>
        label="Use"
        value={area.use}
        choices={AREA_USES.map((use) => ({ value: use, name: use[0]!.toUpperCase() + use.slice(1) }))}
        commit={(use) => void set({ use })}
      />
      {area.on.kind === 'level' && (
        <LengthField
          label="Level"
          value={area.on.levelM}
          commit={(levelM) => set({ on: { kind: 'level', levelM } })}
        />
      )}
    </>
  );
}

/** The area becomes a target of the studies. */
function measure(area: Area): void {
  const spacingM = defaultSpacing(Math.abs(signedArea(area.outline)));
  const refused = edit(`measure ${area.name}`, (project) =>
    add('targets', {
      id: newId('target'),
      name: area.name,
      kind: 'ground',
      outline: area.outline,
      spacingM,
      offsetM: 0.1,
      ...(area.on.kind === 'level' && { levelM: area.on.levelM }),
    })(project),
  );
  if (!refused) notify(`“${area.name}” is now a target on the Studies stage.`);
}
