import {
  add,
  change,
  duplicateOption,
  newId,
  nextHue,
  nextLetter,
  type Option,
  OUT_FORMATS,
  type OutFormat,
  remove,
  shiftOption,
  TODAY,
} from '@dial-shade/core';
import { ArrowDown, ArrowUp, Copy, Download, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ChoiceField, Section, TextField } from '../app/fields';
import { OptionLetter } from '../app/option-letter';
import { IconButton, ThingRow } from '../app/objects';
import { currentProject, edit, useDocument, useProject } from '../state/project-store';
import { optionsInOrder, setView } from '../state/view-store';
import { OPTION_HUES } from '../theme/palette';

/** The options: which there are, their order, name, colour and intent. */
export function OptionsSection({ option }: { option: Option }) {
  const project = useDocument();
  const proposals = project.options.filter((o) => o.id !== TODAY);
  return (
    <Section title="Options" aside={<IconButton icon={Plus} label="Add an option" onClick={addOption} />}>
      <ul className="objects">
        {optionsInOrder(project).map((o) => (
          <ThingRow
            key={o.id}
            name={o.name}
            chosen={o.id === option.id}
            before={<OptionLetter option={o} />}
            onChoose={() => setView({ optionId: o.id, selection: null, also: [] })}
          >
            {o.id === option.id && o.id !== TODAY && (
              <>
                <IconButton
                  icon={ArrowUp}
                  label={`Move ${o.name} up`}
                  disabled={proposals[0]?.id === o.id}
                  onClick={() => edit(`move ${o.name} up`, shiftOption(o.id, -1))}
                />
                <IconButton
                  icon={ArrowDown}
                  label={`Move ${o.name} down`}
                  disabled={proposals.at(-1)?.id === o.id}
                  onClick={() => edit(`move ${o.name} down`, shiftOption(o.id, 1))}
                />
              </>
            )}
            <IconButton
              icon={Copy}
              label={`Duplicate ${o.name}`}
              onClick={() => edit(`duplicate ${o.name}`, duplicateOption(o.id))}
            />
            {o.id !== TODAY && (
              <IconButton icon={Trash2} label={`Remove ${o.name}`} onClick={() => removeOption(o)} />
            )}
          </ThingRow>
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
      {option.id !== TODAY && (
        <div className="field">
          <span>Colour</span>
          <div className="hues" role="radiogroup" aria-label="Colour of the option">
            {OPTION_HUES.slice(0, 7).map((colour, hue) => (
              <button
                key={colour}
                role="radio"
                aria-checked={option.hue === hue}
                aria-label={`Colour ${hue + 1}`}
                style={{ background: colour }}
                onClick={() => edit(`colour ${option.name}`, change('options', option.id, { hue }))}
              />
            ))}
          </div>
        </div>
      )}
      <SendOut option={option} />
    </Section>
  );
}

const FORMATS: Record<OutFormat, string> = {
  obj: 'OBJ, metres, z up',
  glb: 'GLB, metres, y up',
  stl: 'STL, metres, z up',
  cityjson: 'CityJSON',
  geojson: 'GeoJSON, outlines',
  ifc: 'IFC4',
  dxf: 'DXF, 3D faces',
};

/** The option as a file of an open format. */
function SendOut({ option }: { option: Option }) {
  const id = useProject((state) => state.id);
  const isSaved = useProject((state) => state.saveStatus === 'saved');
  const [format, setFormat] = useState<OutFormat>('obj');
  return (
    <div className="with-button">
      <ChoiceField
        label="Send out as"
        value={format}
        choices={OUT_FORMATS.map((value) => ({ value, name: FORMATS[value] }))}
        commit={setFormat}
      />
      <a
        className={`btn btn-sm btn-quiet${isSaved ? '' : ' disabled'}`}
        aria-disabled={!isSaved}
        title={isSaved ? undefined : 'Being saved first'}
        href={`/api/projects/${id}/out?option=${option.id}&format=${format}`}
        download
      >
        <Download size={14} /> File
      </a>
    </div>
  );
}

function addOption(): void {
  const project = currentProject();
  const letter = nextLetter(project);
  const id = newId(letter.toLowerCase());
  const blank: Option = {
    id,
    name: `Option ${letter}`,
    letter,
    hue: nextHue(project),
    schemes: [],
    scheme: null,
    note: '',
    masses: [],
    models: [],
    rules: [],
  };
  if (!edit(`add option ${letter}`, add('options', blank)))
    setView({ optionId: id, selection: null, also: [] });
}

function removeOption(option: Option): void {
  if (!edit(`remove ${option.name}`, remove('options', option.id)))
    setView({ optionId: optionsInOrder(currentProject())[0]!.id, selection: null, also: [] });
}
