import type { Option } from '@dial-shade/core';
import { optionHatch } from '../theme/palette';

/** The letter of an option on its hue and hatch, the same everywhere. */
export function OptionLetter({ option }: { option: Pick<Option, 'letter' | 'hue'> }) {
  return (
    <span className="letter" style={{ background: optionHatch(option.hue) }} aria-hidden>
      {option.letter}
    </span>
  );
}
