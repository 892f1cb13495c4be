import { change, type Drawing, type Study } from '@dial-shade/core';
import { CheckField, ChoiceField, NumberField, Section } from '../app/fields';
import { edit } from '../state/project-store';
import { changeDrawing, useFocusedPane } from '../state/panes-store';

type MapLook = NonNullable<Drawing['map']>;
const PLAIN: MapLook = { steps: 0, ramp: null, contours: false, values: false };
const RAMP_NAMES = [
  { value: 'own', name: 'that of the kind' },
  { value: 'sun', name: 'sun: indigo to gold' },
  { value: 'shade', name: 'shade: gold to indigo' },
  { value: 'sky', name: 'sky: slate to chalk' },
  { value: 'heat', name: 'heat: ink to straw' },
  { value: 'taken', name: 'paper to ember' },
] as const;

/** How results lie on the scene in the pane with the focus, kept with its viewpoints; the bounds of the scale with the study. */
export function MapSection({ study, max }: { study: Study; max: number | null }) {
  const { drawing } = useFocusedPane();
  const map = drawing.map ?? PLAIN;
  const set = (fields: Partial<MapLook>) => changeDrawing({ map: { ...map, ...fields } });
  const setScale = (scale: Study['scale']) =>
    edit('set the scale', change('studies', study.id, { scale }), { quiet: true });
  const { min, max: top } = study.scale ?? { min: 0, max: max ?? 1 };
  return (
    <Section title="How it lies" name="result-map">
      <div className="pair even">
        <NumberField
          label="Scale from"
          value={min}
          commit={(value) => (value < top ? setScale({ min: value, max: top }) : `It must be below ${top}.`)}
        />
        <NumberField
          label="Scale to"
          value={top}
          commit={(value) => (value > min ? setScale({ min, max: value }) : `It must be above ${min}.`)}
        />
      </div>
      <NumberField
        label="Steps of colour"
        digits={0}
        value={map.steps}
        commit={(steps) => {
          if (!Number.isInteger(steps) || steps < 0 || steps === 1 || steps > 20)
            return 'From 2 to 20 steps, or 0 for even colour.';
          set({ steps });
          return null;
        }}
      />
      <ChoiceField
        label="Colours"
        wide
        value={map.ramp ?? 'own'}
        choices={RAMP_NAMES}
        commit={(ramp) => set({ ramp: ramp === 'own' ? null : ramp })}
      />
      <CheckField
        label="Contours, with their value"
        checked={map.contours}
        change={(contours) => set({ contours })}
      />
      <CheckField label="Values in cells" checked={map.values} change={(values) => set({ values })} />
    </Section>
  );
}
