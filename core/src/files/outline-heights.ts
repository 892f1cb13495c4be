import type { ModelFootprint } from './model-file';

type Properties = ModelFootprint['properties'];

const words = (text: string) => text.trim().split(/\s+/);

/** Names under which heights of buildings are kept in public data, the likeliest first; compared without case and signs. */
const HEIGHT_NAMES = words(`
  height buildingheight heightm heightmetres heightmeters bldgheight bldgheigh bldghgt bldheight
  bldhgt measuredheight estheight heightest renderheight buildingh hoehe höhe gebhoehe
  gebaeudehoehe gebäudehöhe objekthoehe hauteur hauteurm altura alturam altezza altedificio hoogte
  pandhoogte gebouwhoogte hojd höjd hoyde høyde hoejde højde korkeus vyska výška wysokosc wysokość
  relhmax relh2 maxheight heightmax hmax avgheight meanheight heightmean heightavg medianheight
  heightmedian hmean hgt hag heightag heightabove heightroof zheight hgtagl h
`);
const STOREY_NAMES = words(`
  buildinglevels levels storeys stories storeysaboveground storiesaboveground floors numfloors
  numberoffloors nofloors nfloors floorcount floorsaboveground numstories numstoreys
  numberofstoreys nstoreys nstories bldglevels levelsaboveground geschosse anzgeschosse
  anzahlgeschosse geschosszahl aog vollgeschosse nombredetages nbetages etages bouwlagen pisos
  plantas numplantas piani numpiani npiani vaningar våningar etasjer etager kerrosluku kerrokset
  podlazi kondygnacje liczbakondygnacji
`);
const BASE_NAMES = ['minheight', 'buildingminheight', 'renderminheight', 'heightmin', 'hmin', 'baseheight'];
const BASE_STOREY_NAMES = ['buildingminlevel', 'minlevel'];
/** What has “height” in its name and is none of a building. */
const NO_HEIGHT =
  /accura|precis|qualit|error|source|src|date|method|ground|terrain|base|elev|asl|abs|roof|ridge|eave|floor|storey|level|min|sill|tree|unit|type|class|confiden/;

/** Height of a storey where nobody says otherwise, metres. */
export const STOREY_M = 3;

const plain = (key: string) => key.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

const FOOT_M = 0.3048;
const UNITS: readonly (readonly [RegExp, number])[] = [
  [/^(?:m|mtr|met(?:re|er)s?)\b\.?$/i, 1],
  [/^cm$/i, 0.01],
  [/^mm$/i, 0.001],
  [/^dm$/i, 0.1],
  [/^(?:'|′|ft|feet|foot)\.?$/i, FOOT_M],
  [/^(?:"|″|in|inch(?:es)?)\.?$/i, FOOT_M / 12],
];

/** A length in text: its number, and its unit in metres where the text states one. */
export interface StatedLength {
  value: number;
  metres: number | null;
}

/** A length as people write it: 12, "12.5", "12,5 m", "1250 cm", "35'", "35'6\"", "35 ft", "~10"; null where it is none. */
export function lengthIn(raw: string | number | undefined): StatedLength | null {
  if (typeof raw === 'number') return Number.isFinite(raw) ? { value: raw, metres: null } : null;
  const text = (raw ?? '').trim().replace(/^(?:~|≈|<|>|=|ca\.?|circa|approx\.?|about)\s*/i, '');
  const feet =
    /^(\d+(?:[.,]\d+)?)\s*(?:'|′|ft\.?|feet|foot)\s*(\d+(?:[.,]\d+)?)\s*(?:"|″|in\.?|inch(?:es)?)?$/i.exec(
      text,
    );
  if (feet) return { value: number(feet[1]!) + number(feet[2]!) / 12, metres: FOOT_M };
  const match = /^(-?\d+(?:[.,]\d+)?(?:e[+-]?\d+)?)\s*(\S*)/i.exec(text);
  if (!match) return null;
  const unit = UNITS.find(([pattern]) => pattern.test(match[2]!));
  return { value: number(match[1]!), metres: unit?.[1] ?? null };
}

const number = (text: string) => Number(text.replace(',', '.'));

/** The first of some names that any of the keys has. */
function named(keys: readonly string[], names: readonly string[]): string | null {
  for (const name of names) {
    const found = keys.find((key) => plain(key) === name);
    if (found !== undefined) return found;
  }
  return null;
}

const keysOf = (footprints: readonly Pick<ModelFootprint, 'properties'>[]) => [
  ...new Set(footprints.flatMap(({ properties }) => Object.keys(properties))),
];

/** The property that most likely holds heights, among those that any outline has; null when none looks like it. */
export function likelyHeightProperty(
  footprints: readonly Pick<ModelFootprint, 'properties'>[],
): string | null {
  // What holds no number anywhere is none.
  const keys = keysOf(footprints).filter((key) =>
    footprints.some(({ properties }) => (lengthIn(properties[key])?.value ?? 0) > 0),
  );
  const found = named(keys, HEIGHT_NAMES);
  if (found !== null) return found;
  const looks = /height|hoehe|höhe|hauteur|altura|altezza|hoogte|hgt/;
  return keys.find((key) => looks.test(plain(key)) && !NO_HEIGHT.test(plain(key))) ?? null;
}

/** What outlines go by: the properties that say how high they are, how many storeys they have, and where they begin. */
export function heightProperties(footprints: readonly Pick<ModelFootprint, 'properties'>[]) {
  const keys = keysOf(footprints);
  return {
    height: likelyHeightProperty(footprints),
    storeys: named(keys, STOREY_NAMES),
    base: named(keys, BASE_NAMES),
    baseStorey: named(keys, BASE_STOREY_NAMES),
  };
}

/** A length of a property in the unit of the file, `k` metres; null without one. */
export function heightOf(properties: Properties, key: string | null, k: number): number | null {
  const length = key === null ? null : lengthIn(properties[key]);
  if (!length) return null;
  return length.metres === null ? length.value : (length.value * length.metres) / k;
}

/**
 * Notes heights, storeys and bases of outlines by their properties, and says which were taken. `k`: metres of the file’s unit.
 */
export function takeHeights(footprints: ModelFootprint[], k: number, notes: string[]): void {
  const by = heightProperties(footprints);
  for (const footprint of footprints) {
    const { properties } = footprint;
    const height = heightOf(properties, by.height, k);
    footprint.height = height !== null && height > 0 ? height : null;
    const storeys = by.storeys === null ? null : lengthIn(properties[by.storeys]);
    footprint.storeys = storeys && storeys.value > 0 ? storeys.value : null;
    const base = heightOf(properties, by.base, k);
    const level = by.baseStorey === null ? null : lengthIn(properties[by.baseStorey]);
    footprint.base = base ?? (level ? (level.value * STOREY_M) / k : null);
  }
  const say = (key: string | null, what: string, values: number[], unit: string) => {
    if (key === null || values.length === 0) return;
    const [low, high] = [Math.min(...values), Math.max(...values)].map((v) => Number(v.toFixed(2)));
    notes.push(
      `${what} from “${key}”: ${low} to ${high}${unit}, of ${values.length} of ${footprints.length} outlines.`,
    );
  };
  const some = (of: (one: ModelFootprint) => number | null | undefined) =>
    footprints.flatMap((one) => of(one) ?? []);
  say(
    by.height,
    'Heights',
    some(({ height }) => height && height * k),
    ' m',
  );
  const withoutHeight = footprints.filter(({ height }) => height === null);
  say(
    by.storeys,
    'Storeys, where there is no height,',
    withoutHeight.flatMap(({ storeys }) => storeys ?? []),
    '',
  );
  say(
    by.base ?? by.baseStorey,
    'Lowest levels over the ground',
    some(({ base }) => base && base * k),
    ' m',
  );
}
