import { InputError } from '../errors';

export type Units = 'metric' | 'imperial';

const FOOT = 0.3048;
const INCH = FOOT / 12;
const NUMBER = String.raw`[-+]?\d+(?:[.,]\d+)?`;
const PLAIN = new RegExp(`^(${NUMBER})\\s*(m|mm|cm|ft|in|'|"|′|″)?$`, 'i');
const FEET_INCHES = new RegExp(`^(${NUMBER})\\s*(?:'|′|ft)\\s*(\\d+(?:[.,]\\d+)?)\\s*(?:"|″|in)?$`, 'i');

const METRES_PER: Record<string, number> = {
  m: 1,
  cm: 0.01,
  mm: 0.001,
  ft: FOOT,
  "'": FOOT,
  '′': FOOT,
  in: INCH,
  '"': INCH,
  '″': INCH,
};

/**
 * A typed length in metres: `12.5`, `12,5 m`, `1250 mm`, `41 ft`, `12' 6"`.
 * A bare number is in metres or feet by `units`. Throws InputError `length` when it is no length.
 */
export function parseLength(text: string, units: Units = 'metric'): number {
  const trimmed = text.trim();
  const both = FEET_INCHES.exec(trimmed);
  if (both) {
    const feet = decimal(both[1]!);
    const sign = both[1]!.startsWith('-') ? -1 : 1;
    return feet * FOOT + sign * decimal(both[2]!) * INCH;
  }
  const plain = PLAIN.exec(trimmed);
  if (!plain)
    throw new InputError('length', `“${text}” is not a length; type for example 12.5, 1250 mm or 12' 6".`);
  const unit = plain[2]?.toLowerCase() ?? (units === 'imperial' ? 'ft' : 'm');
  return decimal(plain[1]!) * METRES_PER[unit]!;
}

function decimal(text: string): number {
  return Number(text.replace(',', '.'));
}

/** A length for reading: `12.50 m`, or `41' 0"` to the nearest half inch. */
export function formatLength(metres: number, units: Units = 'metric', digits = 2): string {
  if (units === 'metric') return `${metres.toFixed(digits)} m`;
  const halves = Math.round((Math.abs(metres) / INCH) * 2);
  const feet = Math.floor(halves / 24);
  const inches = (halves - feet * 24) / 2;
  return `${metres < 0 ? '−' : ''}${feet}' ${inches}"`;
}

/** An area for reading: `128.4 m²` or `1,382 sq ft`. */
export function formatArea(squareMetres: number, units: Units = 'metric'): string {
  if (units === 'metric')
    return `${squareMetres < 1000 ? squareMetres.toFixed(1) : Math.round(squareMetres)} m²`;
  return `${Math.round(squareMetres / FOOT / FOOT).toLocaleString('en')} sq ft`;
}

/** A round length (1, 2 or 5 and noughts) at or below a length, metres. */
export function roundLength(most: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(most, 1e-3)));
  return [5, 2, 1].map((step) => step * power).find((length) => length <= most) ?? power;
}
