import type { ModelFootprint } from '../model-file';
import { commaOf, statedHeight, type StatedHeight, unitInName } from './stated-height';

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

const plain = (key: string) =>
  unitInName(key)
    .bare.toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

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
    footprints.some(({ properties }) => (statedHeight(properties[key], 'decimal')?.value ?? 0) > 0),
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

/** What says how high outlines are: a height, a number of storeys, or the level of the roof and that of the ground. */
export type HeightsBy =
  | { as: 'height' | 'storeys'; property: string }
  | { as: 'levels'; roof: string; ground: string };

/** How high an outline is by its properties: in the unit of the file, or in storeys; null where they do not say. */
export interface HeightFound {
  height: number | null;
  storeys: number | null;
}

/**
 * Reads heights of outlines by what says them.
 * @param k metres of the unit of the file
 * @returns for an outline: what was found, and the texts that were not understood
 */
export function heightReader(
  footprints: readonly Pick<ModelFootprint, 'properties'>[],
  by: HeightsBy,
  k: number,
): (properties: Properties) => HeightFound & { refused: string[] } {
  const columns = new Map<string, ReturnType<typeof column>>();
  const read = (key: string, properties: Properties, refused: string[]): StatedHeight | null => {
    let known = columns.get(key);
    if (!known) columns.set(key, (known = column(footprints, key)));
    const found = known(properties);
    const text = String(properties[key] ?? '').trim();
    if (!found && text !== '' && !/^(?:null|none|nan|n\/?a|unknown|-+|\?+)$/i.test(text)) refused.push(text);
    return found;
  };
  const inFile = ({ value, metres }: StatedHeight) => (metres === null ? value : (value * metres) / k);
  return (properties) => {
    const refused: string[] = [];
    const found: HeightFound = { height: null, storeys: null };
    if (by.as === 'levels') {
      const [roof, ground] = [read(by.roof, properties, refused), read(by.ground, properties, refused)];
      if (roof && ground && !roof.isStoreys && !ground.isStoreys)
        found.height = inFile(roof) - inFile(ground);
    } else {
      const stated = read(by.property, properties, refused);
      // A length is no number of storeys.
      if (stated && by.as === 'storeys' && stated.metres !== null)
        refused.push(String(properties[by.property]));
      else if (stated && (stated.isStoreys || by.as === 'storeys')) found.storeys = stated.value;
      else if (stated) found.height = inFile(stated);
    }
    if (found.height !== null && !(found.height > 0)) found.height = null;
    if (found.storeys !== null && !(found.storeys > 0)) found.storeys = null;
    return { ...found, refused };
  };
}

/** Reads one property: what its comma is and what unit its name states goes for all that have it. */
function column(footprints: readonly Pick<ModelFootprint, 'properties'>[], key: string) {
  const comma = commaOf(footprints.map(({ properties }) => properties[key]));
  const { metres } = unitInName(key);
  return (properties: Properties): StatedHeight | null => {
    const found = statedHeight(properties[key], comma);
    return found && { ...found, metres: found.isStoreys ? null : (found.metres ?? metres) };
  };
}

/** Notes heights, storeys and bases of outlines by the properties that most likely say them. `k`: metres of the file’s unit. */
export function takeHeights(footprints: ModelFootprint[], k: number): void {
  const by = heightProperties(footprints);
  const reader = (property: string | null, as: 'height' | 'storeys') =>
    property === null ? () => null : heightReader(footprints, { as, property }, k);
  const [height, storeys] = [reader(by.height, 'height'), reader(by.storeys, 'storeys')];
  const [base, baseStorey] = [reader(by.base, 'height'), reader(by.baseStorey, 'storeys')];
  for (const footprint of footprints) {
    const { properties } = footprint;
    const found = height(properties);
    footprint.height = found?.height ?? null;
    footprint.storeys = found?.storeys ?? storeys(properties)?.storeys ?? null;
    const level = baseStorey(properties)?.storeys;
    footprint.base = base(properties)?.height ?? (level ? (level * STOREY_M) / k : null);
  }
}
