import { type Option, type Project, requireOption, type Scheme } from '../project';
import { withoutDevices } from './device-places';

/** Joins an option and one of its schemes; no id holds it. */
const WITH = '~';

/** An option as it is compared: as it stands, or with another of its schemes of devices, or with none of them. */
export interface Variant {
  /** That of the option; with another scheme `OPTION~SCHEME`, without devices `OPTION~`. */
  id: string;
  option: Option;
  /** What stands in place of the scheme that does; null: nothing; left out: as it stands. */
  scheme?: Scheme | null;
  name: string;
}

/** An option as it stands and, where it has schemes, with every other one and, where something shades, without devices. */
export function variantsOf(option: Option): Variant[] {
  const { schemes, scheme, masses, models } = option;
  const shades = scheme !== null || [...masses, ...models].some(({ device }) => device);
  return [
    { id: option.id, option, name: option.name },
    ...(shades ? [bare(option)] : []),
    ...schemes.filter(({ id }) => id !== scheme).map((other) => withScheme(option, other)),
  ];
}

function bare(option: Option): Variant {
  return { id: `${option.id}${WITH}`, option, scheme: null, name: `${option.name}, without devices` };
}

function withScheme(option: Option, scheme: Scheme): Variant {
  return { id: `${option.id}${WITH}${scheme.id}`, option, scheme, name: `${option.name}, ${scheme.name}` };
}

/** What an id means in a project; null where it is gone. */
export function variantOf({ options }: Pick<Project, 'options'>, id: string): Variant | null {
  const [optionId, schemeId] = id.split(WITH);
  const option = options.find((one) => one.id === optionId);
  if (!option) return null;
  if (schemeId === undefined) return { id, option, name: option.name };
  if (schemeId === '') return bare(option);
  const scheme = option.schemes.find((one) => one.id === schemeId);
  return scheme ? withScheme(option, scheme) : null;
}

/** Options with another scheme, and projects with those, by what they are of: the same object for the same question. */
const switched = new WeakMap<Option, Map<string | null, Option>>();
const projects = new WeakMap<Project, Map<string, Project>>();

function found<K, V>(of: Map<K, V> | undefined, key: K, keep: (map: Map<K, V>) => void, make: () => V): V {
  const map = of ?? new Map<K, V>();
  if (!of) keep(map);
  const known = map.get(key) ?? make();
  map.set(key, known);
  return known;
}

/**
 * The project in which a variant stands, and its option: the project itself for an option as it stands.
 * Throws InputError `option` when there is none.
 */
export function inVariant(project: Project, id: string): { project: Project; optionId: string } {
  const variant = variantOf(project, id);
  if (!variant) return { project, optionId: requireOption(project, id).id };
  const { option, scheme } = variant;
  if (scheme === undefined) return { project, optionId: option.id };
  const schemeId = scheme?.id ?? null;
  const other = found(
    switched.get(option),
    schemeId,
    (map) => switched.set(option, map),
    () =>
      schemeId === null
        ? requireOption(withoutDevices(project, option.id), option.id)
        : { ...option, scheme: schemeId },
  );
  const whole = found(
    projects.get(project),
    id,
    (map) => projects.set(project, map),
    () => ({ ...project, options: project.options.map((one) => (one === option ? other : one)) }),
  );
  return { project: whole, optionId: option.id };
}
