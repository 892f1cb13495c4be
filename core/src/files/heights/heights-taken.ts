import { counted, type ModelFile, type ModelFootprint } from '../model-file';
import { metresOf, type ModelUnit } from '../model-units';
import { heightProperties, heightReader, type HeightsBy, STOREY_M } from './outline-heights';

/** What was decided about heights of outlines. */
export interface HeightChoices {
  unit: ModelUnit;
  /** What says them; null: what the reader took for it, or what is drawn. */
  heights: HeightsBy | null;
  /** Height of outlines that have none, metres. */
  heightM: number;
  /** Height of a storey of outlines that say only how many they have, metres. */
  storeyM?: number;
}

/** How high an outline becomes and from where on, metres over the ground. */
interface HeightTaken {
  topM: number;
  baseM: number;
  from: 'height' | 'storeys' | 'nothing';
}

/** How high the outlines of a file become by what was decided, and what was taken, in sentences. */
export function outlineHeights(
  model: Pick<ModelFile, 'geographic' | 'footprints'>,
  choices: HeightChoices,
): {
  of: (footprint: ModelFootprint) => HeightTaken;
  inWords: (buildings: readonly ModelFootprint[]) => string[];
} {
  const k = model.geographic ? 1 : metresOf(choices.unit);
  const storeyM = choices.storeyM ?? STOREY_M;
  const chosen = choices.heights && heightReader(model.footprints, choices.heights, k);
  const of = (footprint: ModelFootprint): HeightTaken => {
    const found = chosen ? chosen(footprint.properties) : footprint;
    const { base } = footprint;
    const [topM, from] =
      found.height !== null && found.height > 0
        ? ([found.height * k, 'height'] as const)
        : found.storeys
          ? ([found.storeys * storeyM, 'storeys'] as const)
          : ([choices.heightM, 'nothing'] as const);
    return { topM, baseM: base && base > 0 && base * k < topM ? base * k : 0, from };
  };
  const inWords = (buildings: readonly ModelFootprint[]): string[] => {
    if (buildings.length === 0) return [];
    const known = heightProperties(model.footprints);
    const by = choices.heights ?? { as: 'height' as const, property: known.height ?? '' };
    const source = sourceInWords(choices.heights, known.height);
    const all = counted(buildings.length, 'outline', 'outlines');
    const taken = buildings.map(of);
    const tops = (from: HeightTaken['from']) =>
      taken.filter((one) => one.from === from).map(({ topM }) => topM);
    const [heights, storeys, none] = [tops('height'), tops('storeys'), tops('nothing')];
    const bases = taken.flatMap(({ baseM }) => (baseM > 0 ? baseM : []));
    const fromStoreys =
      choices.heights?.as === 'storeys' || !known.storeys
        ? source
        : storeysInWords(choices.heights, known.storeys);
    return [
      heights.length > 0 && `Heights ${source}: ${spread(heights)} m, of ${heights.length} of ${all}.`,
      storeys.length > 0 &&
        `Storeys ${fromStoreys}: ${spread(storeys.map((top) => top / storeyM))} of ${storeyM} m each, of ${storeys.length} of ${all}.`,
      bases.length > 0 &&
        `Lowest levels over the ground from “${known.base ?? known.baseStorey}”: ${spread(bases)} m, of ${bases.length} of ${all}.`,
      none.length > 0 &&
        `No height is known of ${none.length} of ${all}: taken as ${choices.heightM} m, the height where none is known.`,
      refusedInWords(
        buildings.filter((_, i) => taken[i]!.from === 'nothing'),
        [
          by,
          ...(choices.heights || !known.storeys ? [] : [{ as: 'storeys' as const, property: known.storeys }]),
        ],
        model.footprints,
        k,
      ),
    ].filter((sentence) => sentence !== false && sentence !== null);
  };
  return { of, inWords };
}

/** Where heights come from. */
function sourceInWords(by: HeightsBy | null, likely: string | null): string {
  if (by?.as === 'levels') return `from “${by.roof}” less “${by.ground}”`;
  if (by) return `from “${by.property}”`;
  return likely === null ? 'as they are drawn' : `from “${likely}”`;
}

const storeysInWords = (by: HeightsBy | null, likely: string) =>
  by?.as === 'height' ? `from “${by.property}”` : `from “${likely}”, where there is no height`;

/** The least and the greatest of some values. */
function spread(values: readonly number[]): string {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) [low, high] = [Math.min(low, value), Math.max(high, value)];
  const [from, to] = [low, high].map((value) => Number(value.toFixed(2)));
  return from === to ? `${from}` : `${from} to ${to}`;
}

/** Values that are told word by word. */
const TOLD = 8;

/** What stands where a height should and was not understood. */
function refusedInWords(
  buildings: readonly ModelFootprint[],
  by: readonly HeightsBy[],
  all: readonly ModelFootprint[],
  k: number,
): string | null {
  const counts = new Map<string, number>();
  for (const one of by) {
    const read = heightReader(all, one, k);
    for (const { properties } of buildings)
      for (const text of read(properties).refused) counts.set(text, (counts.get(text) ?? 0) + 1);
  }
  if (counts.size === 0) return null;
  const values = [...counts].sort(([, a], [, b]) => b - a);
  const told = values
    .slice(0, TOLD)
    .map(([text, count]) => `“${text.slice(0, 40)}”${count > 1 ? ` (${count} times)` : ''}`);
  const more = values.length > TOLD ? ` and ${values.length - TOLD} more` : '';
  return `Not understood as heights: ${told.join(', ')}${more}; write a number and its unit, as 12.5 m, 36 ft or 4 storeys.`;
}
