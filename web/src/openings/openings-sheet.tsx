import { changeDrawing, useFocusedPane } from '../state/panes-store';
import { change, add, newId, type Glazing, remove, TODAY } from '@dial-shade/core';
import { Palette, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { NumberField, Section, TextField } from '../app/fields';
import { ProblemsSection } from '../app/problems-section';
import { IconButton, ThingRow, ToolButton } from '../app/objects';
import { edit, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { OpeningSection } from './opening-section';
import { RulesSection } from './rules-section';

/** Windows and doors: by rule, one by one, and what they are made of. */
export function OpeningsSheet() {
  const project = useDocument();
  const optionId = useView((v) => v.optionId);
  const byKind = useFocusedPane().drawing.tone === 'kinds';
  const option = project.options.find((o) => o.id === optionId) ?? project.options[0]!;
  return (
    <>
      <h1>Openings</h1>
      <div className="tool-row">
        <ToolButton
          icon={Palette}
          name="Colour by kind"
          title="Colour by kind of face (K)"
          active={byKind}
          onClick={() => changeDrawing({ tone: byKind ? 'paper' : 'kinds' })}
        />
      </div>
      <ProblemsSection optionId={option.id} />
      <OpeningSection />
      <RulesSection key={option.id} optionId={option.id} title={`Rules of ${option.letter} ${option.name}`} />
      {option.id !== TODAY && <RulesSection optionId={TODAY} title="Rules of Today" />}
      <RulesSection optionId={null} title="Neighbours' windows" />
      <GlazingSection />
    </>
  );
}

/** The glazing types of the project. */
function GlazingSection() {
  const { glazings } = useDocument();
  const [chosenId, setChosen] = useState<string | null>(null);
  const chosen = glazings.find((g) => g.id === chosenId);
  const set = (fields: Partial<Glazing>) =>
    edit(`change ${chosen!.name}`, change('glazings', chosen!.id, fields), { quiet: true });
  const addGlazing = () => {
    edit('add a glazing type', (project) => {
      const id = newId('glazing');
      setChosen(id);
      return add('glazings', {
        id,
        name: 'New glazing',
        visibleTransmittance: 0.75,
        gValue: 0.6,
        frameShare: 0.25,
        panes: 2,
        categoryQ: 4,
      })(project);
    });
  };
  return (
    <Section
      title="Glazing types"
      aside={<IconButton icon={Plus} label="Add a glazing type" onClick={addGlazing} />}
    >
      <ul className="objects">
        {glazings.map((g) => (
          <ThingRow
            key={g.id}
            name={g.name}
            figure={`${Math.round(g.visibleTransmittance * 100)} % light`}
            chosen={g.id === chosenId}
            onChoose={() => setChosen(g.id)}
          >
            <IconButton
              icon={Trash2}
              label={`Remove ${g.name}`}
              disabled={glazings.length === 1}
              onClick={() => edit(`remove ${g.name}`, remove('glazings', g.id))}
            />
          </ThingRow>
        ))}
      </ul>
      {chosen && (
        <>
          <TextField label="Name" value={chosen.name} commit={(name) => set({ name })} />
          <NumberField
            label="Visible transmittance"
            value={chosen.visibleTransmittance}
            commit={(visibleTransmittance) => set({ visibleTransmittance })}
          />
          <NumberField label="g-value" value={chosen.gValue} commit={(gValue) => set({ gValue })} />
          <NumberField
            label="Frame share"
            value={chosen.frameShare}
            commit={(frameShare) => set({ frameShare })}
          />
        </>
      )}
    </Section>
  );
}
