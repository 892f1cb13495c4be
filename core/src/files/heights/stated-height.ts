const alternatives = (text: string) => text.trim().split(/\s+/).join('|');

const FOOT_M = 0.3048;
const UNITS: readonly (readonly [RegExp, number])[] = [
  [/^(?:m|mtrs?|met(?:re|er)s?)\.?$/i, 1],
  [/^cm\.?$/i, 0.01],
  [/^mm\.?$/i, 0.001],
  [/^dm\.?$/i, 0.1],
  [/^(?:'|′|ft|feet|foot)\.?$/i, FOOT_M],
  [/^(?:"|″|in|inch(?:es)?)\.?$/i, 0.0254],
];
const STOREYS = new RegExp(
  `^(?:${alternatives(`
    storeys? storys? stories floors? levels? geschosse? geschoße? geschossen vollgeschosse? etagen? étages? stockwerke? stock
    niveaux? pisos? plantas? piani piano bouwla(?:ag|gen) verdieping(?:en)? våning(?:ar)? vaning(?:ar)? etasjer? etager?
    kerrosta podlaží podlazi kondygnacj[ae] kondygnacji
  `)})\\.?$`,
  'iu',
);

/** A number in text as people write it: how large, in what unit where the text says so, and of what. */
export interface StatedHeight {
  value: number;
  /** Metres of its unit; null where none is stated, or where it counts storeys. */
  metres: number | null;
  isStoreys: boolean;
}

/** What a comma is in the numbers of a column; null where nothing tells. */
export type Comma = 'decimal' | 'thousands' | null;

const NUMBER = String.raw`[+-]?(?:\d+(?:[.,'’\u00a0\u202f ]\d+)*[.,]?|[.,]\d+)(?:e[+-]?\d+)?`;
const STATED = new RegExp(
  String.raw`^(?:~|≈|<|>|=|ca\.?|circa|approx\.?|about)?\s*(${NUMBER})\s*(\S*)(?:\s*\(.*\))?$`,
  'iu',
);
const FEET_AND_INCHES =
  /^(\d+(?:[.,]\d+)?)\s*(?:'|′|ft\.?|feet|foot)\s*(\d{1,2}(?:[.,]\d+)?)\s*(?:"|″|in\.?|inch(?:es)?)?$/i;
/**
 * A height as people write it: 12, "12.5", "12,5 m", "1250 cm", "35'", "35'6\"", "36 ft", "~10", "1,234.5", "4 storeys".
 * Null where it is none, or may be more than one: "12-14", "tall", "1,200" in a column in which nothing tells what its comma is.
 */
export function statedHeight(raw: string | number | undefined, comma: Comma = null): StatedHeight | null {
  if (typeof raw === 'number')
    return Number.isFinite(raw) ? { value: raw, metres: null, isStoreys: false } : null;
  const text = (raw ?? '').trim();
  const feet = FEET_AND_INCHES.exec(text);
  if (feet) return { value: decimal(feet[1]!) + decimal(feet[2]!) / 12, metres: FOOT_M, isStoreys: false };
  const match = STATED.exec(text);
  if (!match) return null;
  const word = match[2]!;
  const isStoreys = STOREYS.test(word);
  const metres = UNITS.find(([pattern]) => pattern.test(word))?.[1] ?? null;
  if (word !== '' && !isStoreys && metres === null) return null;
  // Nobody states thousandths of a millimetre.
  const value = numberIn(match[1]!, metres === 0.001 ? 'thousands' : comma);
  return value === null ? null : { value, metres, isStoreys };
}

/** What a comma is in a column, by the values that leave no doubt. */
export function commaOf(values: Iterable<string | number | undefined>): Comma {
  for (const raw of values) {
    const number = typeof raw === 'string' ? plain(STATED.exec(raw.trim())?.[1] ?? '') : '';
    if (ENGLISH.test(number) || /^[+-]?\d*\.\d+$/.test(number)) return 'thousands';
    if (CONTINENTAL.test(number) || (DECIMAL_COMMA.test(number) && !EITHER.test(number))) return 'decimal';
  }
  return null;
}

/** Grouped by commas, with a point or with more than one comma; and the other way round. */
const ENGLISH = /^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d+|,\d{3})$/;
const CONTINENTAL = /^[+-]?\d{1,3}(?:\.\d{3})+(?:,\d+|\.\d{3})$/;
const DECIMAL_COMMA = /^[+-]?\d*,\d+$/;
/** Three figures behind one comma: thousands, or thousandths. */
const EITHER = /^[+-]?[1-9]\d{0,2},\d{3}$/;

const decimal = (text: string) => Number(text.replace(',', '.'));

/** Without blanks and apostrophes that set off thousands. */
const plain = (text: string) => text.replace(/['’\u00a0\u202f ](?=\d{3}(?!\d))/g, '');

/** A number with separators; null where it is none, or may be two. */
function numberIn(text: string, comma: Comma): number | null {
  const number = plain(text);
  if (ENGLISH.test(number) || (EITHER.test(number) && comma === 'thousands'))
    return Number(number.replaceAll(',', ''));
  if (CONTINENTAL.test(number) || (comma === 'decimal' && /^[+-]?[1-9]\d{0,2}\.\d{3}$/.test(number)))
    return Number(number.replaceAll('.', '').replace(',', '.'));
  if (EITHER.test(number) && comma === null) return null;
  const value = Number(DECIMAL_COMMA.test(number) ? number.replace(',', '.') : number);
  return Number.isFinite(value) ? value : null;
}

/** The unit that the name of a property ends with, metres (`height_ft`, `HEIGHT [m]`, `heightFeet`), and the name without it. */
export function unitInName(name: string): { metres: number | null; bare: string } {
  const match =
    /^(.*\S)[^\p{L}\p{N}]+(ft|feet|foot|inch(?:es)?|in|m|mtr|met(?:re|er)s?|cm|mm)[^\p{L}\p{N}]*$/iu.exec(
      name,
    ) ??
    /^(.*\p{Ll})(Ft|Feet|M|Cm|Mm)$/u.exec(name) ??
    /^(.*(?:height|hgt|ht))(ft|feet|met(?:re|er)s|m|cm)$/i.exec(name);
  const unit = match && UNITS.find(([pattern]) => pattern.test(match[2]!));
  return unit ? { metres: unit[1], bare: match[1]! } : { metres: null, bare: name };
}
