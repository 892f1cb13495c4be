import { csvText } from '../civil';
import { trim } from './summary';
import type { WhoTakes } from './who-takes';

const four = (value: number) => (Number.isNaN(value) ? '' : trim(value, 4));

/** `owner,name,layer,storey,takes,without`: owners by what they take, each followed by its storeys from the top. */
export function takersCsv({ takers, value }: Pick<WhoTakes, 'takers' | 'value'>): string {
  return csvText([
    ['owner', 'name', 'layer', 'storey', 'takes', 'without'],
    ...takers.map(({ id, name, layer, storey, takes, alone }) => [
      id,
      name,
      layer,
      storey === null ? '' : storey + 1,
      four(takes),
      four(value + alone),
    ]),
  ]);
}

/** `target,owner,name,storey,value,takes,without`: the same for each place. */
export function takersByPlaceCsv({ takers, places }: Pick<WhoTakes, 'takers' | 'places'>): string {
  const rows = places.flatMap(({ name: target, value }, t) =>
    takers
      .filter(({ takesAt }) => takesAt[t]! > 0)
      .map(({ id, name, storey, takesAt, aloneAt }) => [
        target,
        id,
        name,
        storey === null ? '' : storey + 1,
        four(value),
        four(takesAt[t]!),
        four(value + aloneAt[t]!),
      ]),
  );
  return csvText([['target', 'owner', 'name', 'storey', 'value', 'takes', 'without'], ...rows]);
}

/** `from_m,gives`: what cutting the option's massing down to a level gives back. */
export function slicesCsv({ slices }: Pick<WhoTakes, 'slices'>): string {
  return csvText([['from_m', 'gives'], ...slices.map(({ fromM, gives }) => [trim(fromM, 3), four(gives)])]);
}
