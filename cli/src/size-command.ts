import {
  beamOfSet,
  type Device,
  type DeviceMake,
  glazedPlaces,
  InputError,
  makeProblem,
  type MeshStore,
  momentName,
  type Project,
  type RoomGoal,
  roomsIn,
  type SecondNumber,
  sizeDevice,
  sizeForRoom,
  TODAY,
  type WeighedMoment,
  WindowShade,
} from '@dial-shade/core';
import { Command } from 'commander';
import { askedMoments, type MomentOptions, withMoments } from './asked-moments';
import { keyOf, onePlace, requireDevice, requireHourSet, requireNumber, withScheme } from './device-options';
import { optionId, readProject } from './project-file';
import { roomKeys } from './rooms-command';
import { readWeatherFile } from './weather-file';

interface Options extends MomentOptions {
  option?: string;
  scheme?: string;
  opening?: string;
  room?: string;
  deepest?: string;
  furniture?: boolean;
  device: string;
  number: string;
  from: string;
  to: string;
  second?: string;
  secondFrom: string;
  secondTo: string;
  hours?: string;
  weather?: string;
  goal: string;
  atMost?: string;
  each?: boolean;
  json?: boolean;
}

/** A number typed for an option. Throws InputError under its name. */
function numberOf(text: string, name: string, least: number, most: number): number {
  const value = Number(text);
  if (text.trim() !== '' && value >= least && value <= most) return value;
  throw new InputError(name, `--${name} is a number from ${least} to ${most}, not “${text}”.`);
}

/** What is asked for in a room. Throws InputError `deepest`. */
function roomGoal({ deepest, furniture }: Options): RoomGoal {
  if ((deepest === undefined) === !furniture)
    throw new InputError('deepest', 'Ask for one of --deepest METRES and --furniture.');
  return furniture ? { by: 'furniture' } : { by: 'depth', atMostM: numberOf(deepest!, 'deepest', 0, 100) };
}

/** The second number that is free; null without. Throws InputError. */
function secondNumber(
  device: Device,
  { number, second, secondFrom, secondTo }: Options,
): SecondNumber | null {
  if (second === undefined) return null;
  requireNumber(device, second);
  if (second === number) throw new InputError('second', `--second ${second} is free already.`);
  const from = numberOf(secondFrom, 'second-from', -90, 100);
  const to = numberOf(secondTo, 'second-to', -90, 100);
  if (to <= from) throw new InputError('second-to', `--second-to ${to} is not above --second-from ${from}.`);
  return { number: second, from, to };
}

const and = (second: SecondNumber | null, value: number | null) =>
  second ? ` with ${second.number} ${value}` : '';

/** `size`: the smallest device that keeps so much of a window in shade. */
export function sizeCommand(): Command {
  return withMoments(
    new Command('size')
      .description('the least size of a device with which so much of a window is in shade, from exact shade')
      .argument('<project>', 'project file'),
  )
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--scheme <scheme>', 'name or id of the scheme; the one that stands when left out')
    .option('--opening <opening>', 'id or name of a glazed opening, or OWNER/OPENING')
    .requiredOption('--device <device>', 'name or id of a device of the scheme')
    .option('--number <number>', 'which of its numbers is free, by its key in the project file', 'depthM')
    .option('--from <value>', 'least value', '0.05')
    .option('--to <value>', 'greatest value', '3')
    .option(
      '--second <number>',
      'another of its numbers that is free too: then the least area of device is found',
    )
    .option('--second-from <value>', 'its least value', '0')
    .option('--second-to <value>', 'its greatest value', '2')
    .option('--hours <set>', 'name or id of a set of hours: the beam in them, by the weather')
    .option('--weather <file>', 'EPW or CSV for --hours; the project’s when left out')
    .option('--goal <percent>', 'share of the glass that is to be in shade, per cent', '95')
    .option(
      '--room <room>',
      'in place of --opening and --goal: name or key of a room, with --deepest or --furniture',
    )
    .option('--deepest <metres>', 'no sun deeper into the room than this')
    .option('--furniture', 'no sun on the furniture of the room')
    .option('--at-most <kwh>', 'in place of --goal, with --hours: kWh of their sun on the glass')
    .option('--each', 'at each moment, not only over all of them')
    .option('--json', 'print JSON')
    .action(async (path: string, options: Options) => {
      const read = await readProject(path);
      const id = optionId(read.project, options.option ?? TODAY);
      const project = withScheme(read.project, id, options.scheme);
      const device = requireDevice(project, id, options.device);
      const current = requireNumber(device, options.number);
      const from = numberOf(options.from, 'from', -90, 100);
      const to = numberOf(options.to, 'to', -90, 100);
      if (to <= from) throw new InputError('to', `--to ${to} is not above --from ${from}.`);
      for (const [name, value] of [
        ['from', from],
        ['to', to],
      ] as const) {
        const problem = makeProblem({ ...device.make, [options.number]: value } as DeviceMake);
        if (problem) throw new InputError(name, `--${name} ${value}: ${problem}`);
      }
      const size = { number: options.number, from, to, second: secondNumber(device, options) };
      const asked = { project, id, meshes: read.meshes, device, current, size };
      const { answer, said } =
        options.room === undefined ? await sizedAtWindow(asked, options) : sizedInRoom(asked, options);
      console.log(options.json ? JSON.stringify(answer, null, 1) : said);
    });
}

/** A device of an option, and the numbers of it that are free. */
interface Asked {
  project: Project;
  id: string;
  meshes: MeshStore;
  device: Device;
  /** The number as it is now. */
  current: number;
  size: { number: string; from: number; to: number; second: SecondNumber | null };
}

/** What was found: as JSON and in words. */
interface Answered {
  answer: object;
  said: string;
}

/** Suns of a set of hours that a size goes by: more than in the page, so that it agrees with what a sweep reads. */
const MAX_SUNS = 720;

const six = (value: number) => Math.round(value * 1e6) / 1e6;

/** The size for a room. Throws InputError `room`, `hours`. */
function sizedInRoom({ project, id, meshes, device, size }: Asked, options: Options): Answered {
  const { number, from, to, second } = size;
  const { zone } = project.site.place;
  const goal = roomGoal(options);
  const [room, ...more] = roomKeys(roomsIn(project, id, meshes), options.room!);
  if (!room || more.length > 0)
    throw new InputError('room', `“${options.room}” means ${more.length + 1} rooms; name one by its key.`);
  if (options.hours)
    throw new InputError('hours', 'A room is sized for moments: --set NAME or --at 2026-03-21T09:30.');
  const moments = askedMoments(project, options);
  const { value, isMet, ...rest } = sizeForRoom(project, id, meshes, room, device, moments, size, goal);
  const key = goal.by === 'depth' ? 'depth_m' : 'lit_m2';
  const told = (of: typeof rest.worst) => of && { moment: momentName(of.atMs, zone), [key]: six(of.value) };
  const answer = {
    room,
    device: device.name,
    number,
    value,
    ...(second && { second: { number: second.number, value: rest.second } }),
    met: isMet,
    moments: rest.moments,
    found: told(rest.worst),
    without: told(rest.bare),
  };
  const which = `${value}${and(second, rest.second)}`;
  const does = isMet
    ? `${device.name}: ${number} ${which} does it`
    : `No ${number} from ${from} to ${to} does it; the best is ${which}`;
  const said = `${does} in ${room}: ${JSON.stringify(answer.found)}, without it ${JSON.stringify(answer.without)}`;
  return { answer, said };
}

/** What is said where no moment has the sun before the window: no size is needed, and none does anything. */
function neverInSun(
  opening: string,
  { name }: Device,
  { number, second }: Asked['size'],
  isOfHours: boolean,
): Answered {
  const answer = {
    opening,
    device: name,
    number,
    value: null,
    ...(second && { second: { number: second.number, value: null } }),
    met: null,
    moments: 0,
    whole_kwh: isOfHours ? 0 : null,
    found: null,
    as_it_stands: null,
    without: null,
  };
  const when = isOfHours ? 'those hours' : 'those moments';
  return {
    answer,
    said: `The sun never reaches ${opening} in ${when}: there is nothing to size ${name} for.`,
  };
}

/** The size for a window. Throws InputError `opening`, `at-most`. */
async function sizedAtWindow(
  { project, id, meshes, device, current, size }: Asked,
  options: Options,
): Promise<Answered> {
  const { number, from, to, second } = size;
  const { zone } = project.site.place;
  if (options.opening === undefined)
    throw new InputError('opening', 'Name a window with --opening, or a room with --room.');
  const places = glazedPlaces(project, id, meshes).flatMap((body) => body.places);
  const place = onePlace(places, options.opening);
  const share = numberOf(options.goal, 'goal', 0.1, 100) / 100;
  if (options.atMost !== undefined && !options.hours)
    throw new InputError('at-most', '--at-most is kWh of a set of hours: name it with --hours.');
  const set = options.hours ? requireHourSet(project, options.hours) : null;
  const weather = options.weather ? await readWeatherFile(options.weather) : null;
  const moments: WeighedMoment[] = set
    ? beamOfSet(project, set, place.face.normal, weather, MAX_SUNS)
    : askedMoments(project, options).map((atMs) => ({ atMs, weight: 1 }));
  const window = new WindowShade(project, id, meshes, place, device, moments);
  if (window.moments === 0) return neverInSun(keyOf(place), device, size, set !== null);
  const goal =
    options.atMost === undefined
      ? share
      : Math.max(0, 1 - numberOf(options.atMost, 'at-most', 0, 1e9) / Math.max(1e-9, window.whole));
  const each = (options.each ?? false) && options.atMost === undefined;
  const found = sizeDevice(window, device.make, { ...size, goal, each });
  const bare = window.read(null);
  const reading = (of: typeof bare) => ({
    shaded: six(of.shaded),
    least: of.least && { moment: momentName(of.least.atMs, zone), shaded: six(of.least.share) },
  });
  const answer = {
    opening: keyOf(place),
    device: device.name,
    number,
    value: found.value,
    ...(second && { second: { number: second.number, value: found.second } }),
    met: found.isMet,
    moments: window.moments,
    whole_kwh: set ? six(window.whole) : null,
    found: reading(found.reading),
    as_it_stands: { value: current, ...reading(window.read(device.make)) },
    without: reading(bare),
  };
  const percent = (of: { shaded: number }) => `${(of.shaded * 100).toFixed(1)} %`;
  const which = `${answer.value}${and(second, found.second)}`;
  const does = answer.met
    ? `${device.name} at ${answer.opening}: ${number} ${which} shades ${percent(answer.found)}`
    : `No ${number} from ${from} to ${to} does it; the best is ${which}, with ${percent(answer.found)}`;
  return {
    answer,
    said: `${does} over ${answer.moments} moments; without it ${percent(answer.without)}`,
  };
}
