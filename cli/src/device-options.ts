import {
  type Device,
  deviceNamed,
  type DevicePlace,
  type HourSet,
  InputError,
  type Project,
  standingScheme,
} from '@dial-shade/core';

/** The project with the scheme that is asked for standing in an option; `none` takes all devices away. Throws InputError `scheme`. */
export function withScheme(project: Project, id: string, typed: string | undefined): Project {
  if (typed === undefined) return project;
  const option = project.options.find((one) => one.id === id)!;
  const scheme = option.schemes.find(
    (one) => one.id === typed || one.name.toLowerCase() === typed.toLowerCase(),
  );
  if (!scheme && typed !== 'none') {
    const names = option.schemes.map(({ name }) => `“${name}”`).join(', ');
    throw new InputError(
      'scheme',
      `There is no scheme “${typed}” in this option; ${names ? `it has ${names}, and none` : 'it has none'}.`,
    );
  }
  const switched = { ...option, scheme: scheme?.id ?? null };
  return { ...project, options: project.options.map((one) => (one.id === id ? switched : one)) };
}

/** `OWNER/OPENING`. */
export const keyOf = ({ owner, opening }: DevicePlace) => `${owner.id}/${opening.id}`;

/** The openings of a name, an id or `OWNER/OPENING`; `all` of them. Throws InputError `opening`. */
export function wantedPlaces(places: readonly DevicePlace[], typed: string): DevicePlace[] {
  if (typed === 'all') return [...places];
  const found = places.filter(
    (place) =>
      keyOf(place) === typed ||
      place.opening.id === typed ||
      place.opening.name.toLowerCase() === typed.toLowerCase(),
  );
  if (found.length) return found;
  const some = places.slice(0, 8).map((place) => `“${keyOf(place)}”`);
  throw new InputError(
    'opening',
    `There is no glazed opening “${typed}” in this option; ${some.length ? `it has ${some.join(', ')}${places.length > 8 ? ' …' : ''}, or all` : 'it has none'}.`,
  );
}

/** The one opening of a name. Throws InputError `opening` where it means several. */
export function onePlace(places: readonly DevicePlace[], typed: string): DevicePlace {
  const [place, ...more] = wantedPlaces(places, typed);
  if (place && more.length === 0) return place;
  throw new InputError(
    'opening',
    `“${typed}” means ${place ? more.length + 1 : 0} openings; name one of them, such as “${place ? keyOf(place) : ''}”.`,
  );
}

/** A device of the scheme that stands. Throws InputError `device`. */
export function requireDevice(project: Project, optionId: string, typed: string): Device {
  const device = deviceNamed(project, optionId, typed);
  if (device) return device;
  const scheme = standingScheme(project, optionId);
  const names = scheme?.devices.map(({ name }) => `“${name}”`).join(', ');
  throw new InputError(
    'device',
    scheme
      ? `There is no device “${typed}” in the scheme “${scheme.name}”; ${names ? `it has ${names}` : 'it has none'}.`
      : `No scheme of devices stands in this option, so there is no device “${typed}”; name one with --scheme.`,
  );
}

/** A number of a device by its key. Throws InputError `number`, naming those that it has. */
export function requireNumber({ name, make }: Device, key: string): number {
  const current = (make as Record<string, unknown>)[key];
  if (typeof current === 'number') return current;
  const numbers = Object.entries(make).flatMap(([one, value]) => (typeof value === 'number' ? [one] : []));
  throw new InputError('number', `“${name}” has no number “${key}”; it has ${numbers.join(', ')}.`);
}

/** A set of hours by its name or id. Throws InputError `hours`. */
export function requireHourSet({ hourSets }: Project, typed: string): HourSet {
  const set = hourSets.find(({ id, name }) => id === typed || name.toLowerCase() === typed.toLowerCase());
  if (set) return set;
  throw new InputError(
    'hours',
    `There is no set of hours “${typed}”; ${hourSets.length ? `there is ${hourSets.map(({ name }) => `“${name}”`).join(', ')}` : 'the project has none'}.`,
  );
}
