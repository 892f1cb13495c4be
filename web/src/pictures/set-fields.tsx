import { InputError, momentsOf } from '@dial-shade/core';
import { Download, LayoutGrid } from 'lucide-react';
import { useState } from 'react';
import { durationInWords } from '../almanac/wording';
import { CheckField, ChoiceField } from '../app/fields';
import { useStage } from '../app/use-stage';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import type { PictureStyle } from './picture';
import { ASK_FROM, MAX_IN_SET, pictureSet, type SheetAlong } from './picture-set';
import { makeSet, pictureSpeed, saveSheet, saveZip } from './make-pictures';
import { usePictures } from './pictures-store';
import { focusedViews } from './views-now';

/** Ticks of a list: all that are chosen, in the order of the list. */
function Ticks({
  label,
  choices,
  chosen,
  change,
}: {
  label: string;
  choices: readonly { id: string; name: string }[];
  chosen: ReadonlySet<string>;
  change: (chosen: Set<string>) => void;
}) {
  return (
    <fieldset className="ticks">
      <legend>{label}</legend>
      {choices.map(({ id, name }) => (
        <label key={id} className="d-flex gap-2 align-items-center">
          <input
            type="checkbox"
            checked={chosen.has(id)}
            onChange={({ target }) => {
              const next = new Set(chosen);
              if (target.checked) next.add(id);
              else next.delete(id);
              change(next);
            }}
          />
          {name}
        </label>
      ))}
    </fieldset>
  );
}

const NOW = 'now';

/** Moments × options × viewpoints, with a count and an estimate first. */
export function SetFields({ style }: { style: PictureStyle }) {
  const project = useDocument();
  const stage = useStage();
  const date = useView((view) => view.date);
  const minutes = useView((view) => view.minutes);
  const optionId = useView((view) => view.optionId);
  const [momentSet, setMomentSet] = useState(project.momentSets[0]?.id ?? NOW);
  const [options, setOptions] = useState<ReadonlySet<string>>(new Set([optionId]));
  const [viewpoints, setViewpoints] = useState<ReadonlySet<string>>(new Set([NOW]));
  const [isKept, setKept] = useState(true);
  const [isSure, setSure] = useState(false);
  const { job, made } = usePictures();

  const set = project.momentSets.find(({ id }) => id === momentSet);
  let moments: { date: string; minutes: number }[] = [{ date, minutes }];
  let wrong: string | null = null;
  try {
    if (set) moments = momentsOf(set, project.site);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    wrong = error.message;
  }
  const chosenOptions = project.options.filter(({ id }) => options.has(id)).map(({ id }) => id);
  const chosenViews =
    project.viewpoints.filter(({ id }) => viewpoints.has(id)).length + (viewpoints.has(NOW) ? 1 : 0);
  const count = wrong ? 0 : moments.length * chosenOptions.length * chosenViews;
  const speed = pictureSpeed();
  const seconds = speed === null ? null : (speed * count * style.width * style.height) / 1e6;
  const tooMany = count > MAX_IN_SET;
  const mustAsk = count >= ASK_FROM && !isSure;

  const begin = () => {
    setSure(false);
    const own = viewpoints.has(NOW)
      ? focusedViews(project, stage).map(({ viewpoint, camera, drawing, hidden }) => ({
          name: viewpoint,
          camera,
          drawing,
          hidden: [...hidden],
        }))
      : [];
    const from = [...own, ...project.viewpoints.filter(({ id }) => viewpoints.has(id))];
    void makeSet(pictureSet(chosenOptions, from, moments), style, isKept);
  };
  return (
    <>
      <ChoiceField
        label="Moments"
        value={momentSet}
        choices={[
          ...project.momentSets.map(({ id, name }) => ({ value: id, name })),
          { value: NOW, name: 'The moment at hand' },
        ]}
        commit={setMomentSet}
      />
      <Ticks
        label="Options"
        choices={project.options.map(({ id, letter, name }) => ({ id, name: `${letter} ${name}` }))}
        chosen={options}
        change={setOptions}
      />
      <Ticks
        label="Viewpoints"
        choices={[{ id: NOW, name: 'What the pane shows' }, ...project.viewpoints]}
        chosen={viewpoints}
        change={setViewpoints}
      />
      <CheckField label="Keep them in the gallery" checked={isKept} change={(is) => setKept(is)} />
      <p className="visually-quiet mb-1" data-testid="set-estimate">
        {wrong ??
          `${moments.length} × ${chosenOptions.length} × ${chosenViews} = ${count.toLocaleString('en')} pictures` +
            (tooMany
              ? `, more than ${MAX_IN_SET.toLocaleString('en')}; take fewer at once.`
              : seconds === null
                ? '; how long it takes is known after the first.'
                : `, about ${durationInWords(seconds)}.`)}
      </p>
      <button
        className="btn btn-sunlit btn-sm"
        disabled={count === 0 || tooMany || job !== null}
        onClick={mustAsk ? () => setSure(true) : begin}
      >
        {isSure ? `Yes, make ${count.toLocaleString('en')} pictures` : 'Make the set'}
      </button>
      {made && !job && <MadeSetFields />}
    </>
  );
}

/** What becomes of a set that is made: a zip, a contact sheet. */
function MadeSetFields() {
  const made = usePictures((state) => state.made)!;
  const [along, setAlong] = useState<SheetAlong>('moment');
  return (
    <div className="mt-3">
      <ChoiceField
        label="Columns of the sheet"
        value={along}
        choices={[
          { value: 'moment', name: 'Moments' },
          { value: 'option', name: 'Options' },
          { value: 'viewpoint', name: 'Viewpoints' },
        ]}
        commit={setAlong}
      />
      <div className="d-flex gap-1 flex-wrap">
        <button className="btn btn-quiet btn-sm" onClick={() => void saveSheet(made, along)}>
          <LayoutGrid size={13} /> Contact sheet
        </button>
        <button className="btn btn-quiet btn-sm" onClick={() => void saveZip(made)}>
          <Download size={13} /> Zip of {made.pictures.length} PNGs
        </button>
      </div>
    </div>
  );
}
