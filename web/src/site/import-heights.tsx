import type { HeightsBy } from '@dial-shade/core';
import { CheckField, ChoiceField, LengthField } from '../app/fields';
import type { Decided } from './import-plan';

/** Where the heights of outlines come from. */
export function HeightsFrom({ preview, choices, set }: Decided) {
  return (
    <>
      <HeightProperties preview={preview} choices={choices} set={set} />
      <LengthField
        label="Else height"
        value={choices.heightM}
        commit={(heightM) => {
          if (!(heightM >= 0.1 && heightM <= 1000)) return 'A height between 0.1 and 1000 m is needed.';
          set({ heightM });
          return null;
        }}
      />
      <LengthField
        label="A storey is"
        value={choices.storeyM ?? 3}
        commit={(storeyM) => {
          if (!(storeyM >= 2 && storeyM <= 20)) return 'A storey is 2 to 20 m high.';
          set({ storeyM });
          return null;
        }}
      />
      {preview.hasCourts && (
        <CheckField
          label="Rings within outlines are courts"
          checked={choices.courts !== false}
          change={(courts) => set({ courts })}
        />
      )}
    </>
  );
}

/** What the heights of outlines are read from, in words. */
const HEIGHTS_AS: Readonly<Record<HeightsBy['as'], string>> = {
  height: 'a height',
  storeys: 'a number of storeys',
  levels: 'the level of the roof',
};

/** Properties that say how high outlines are, and how. */
function HeightProperties({ preview, choices, set }: Decided) {
  const { properties, heightProperty, storeysProperty } = preview;
  const { heights } = choices;
  if (properties.length === 0) return null;
  const likely = [heightProperty, storeysProperty].filter((name) => name !== null);
  const chosen = heights === null ? '' : heights.as === 'levels' ? heights.roof : heights.property;
  const by = (as: HeightsBy['as'], name: string): HeightsBy =>
    as === 'levels'
      ? {
          as,
          roof: name,
          ground:
            heights?.as === 'levels' ? heights.ground : (properties.find((one) => one !== name) ?? name),
        }
      : { as, property: name };
  return (
    <>
      <ChoiceField
        label="Heights from"
        value={chosen}
        choices={[
          {
            value: '',
            name:
              likely.length > 0 ? `what is likeliest: ${likely.join(', else ')}` : 'what is drawn, or below',
          },
          ...properties.map((name) => ({ value: name, name })),
        ]}
        commit={(name) => set({ heights: name ? by(heights?.as ?? 'height', name) : null })}
      />
      {heights && (
        <ChoiceField<HeightsBy['as']>
          label="It is"
          value={heights.as}
          choices={(['height', 'storeys', 'levels'] as const).map((as) => ({
            value: as,
            name: HEIGHTS_AS[as],
          }))}
          commit={(as) => set({ heights: by(as, chosen) })}
        />
      )}
      {heights?.as === 'levels' && (
        <ChoiceField
          label="Ground level in"
          value={heights.ground}
          choices={properties.map((name) => ({ value: name, name }))}
          commit={(ground) => set({ heights: { ...heights, ground } })}
        />
      )}
    </>
  );
}
