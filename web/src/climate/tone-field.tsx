import { WEATHER_FIELDS } from '@dial-shade/core';
import { ChoiceField } from '../app/fields';
import { type AlmanacTone, setView, useView } from '../state/view-store';

const TONES: readonly { value: AlmanacTone; name: string }[] = [
  { value: 'sun', name: 'Altitude of the sun' },
  ...(['global', 'beam', 'diffuse', 'dryBulb', 'humidity', 'windSpeed', 'cloud'] as const).map((field) => {
    const { name, unit } = WEATHER_FIELDS.find((one) => one.field === field)!;
    return { value: field, name: `${name[0]!.toUpperCase()}${name.slice(1)}, ${unit}` };
  }),
];

/** What the almanac is toned by. */
export function ToneField() {
  const tone = useView((view) => view.almanacTone);
  return (
    <ChoiceField
      label="Almanac shows"
      wide
      value={tone}
      choices={TONES}
      commit={(almanacTone) => setView({ almanacTone })}
    />
  );
}
