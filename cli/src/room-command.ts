import {
  csvText,
  InputError,
  MASS_CLASSES,
  type MassClass,
  ROOM_METHOD,
  ROOM_PRESETS,
  type RoomAssumptions,
  roomsIn,
  type RoomYear,
  roomYear,
  TODAY,
  withoutDevices,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { withScheme } from './device-options';
import { optionId, readProject, writeFolder } from './project-file';
import { roomKeys } from './rooms-command';
import { readWeatherFile } from './weather-file';
import { csvOption } from './csv-option';

interface Options {
  option?: string;
  scheme?: string;
  room: string;
  weather?: string;
  preset: string;
  assume?: string[];
  out: string;
  csv: CsvForm;
}

/** Assumptions of a preset with some of them set otherwise, `wallU=0.3`. Throws InputError `preset` or `assume`. */
function assumptions(preset: string, changed: readonly string[]): RoomAssumptions {
  const assumed = { ...roomPreset(preset) };
  for (const text of changed) {
    const [, key = '', value = ''] = /^(\w+)=(.+)$/.exec(text) ?? [];
    if (!Object.hasOwn(assumed, key))
      throw new InputError(
        'assume',
        `“${text}” assumes nothing; write NAME=VALUE with ${Object.keys(assumed).join(', ')}.`,
      );
    if (key === 'mass') {
      if (!Object.hasOwn(MASS_CLASSES, value))
        throw new InputError(
          'assume',
          `The mass is one of ${Object.keys(MASS_CLASSES).join(', ')}, not “${value}”.`,
        );
      assumed.mass = value as MassClass;
      continue;
    }
    const number = Number(value);
    if (!Number.isFinite(number) || number < 0 || number > 1000)
      throw new InputError('assume', `“${key}” is a number from 0 to 1000, not “${value}”.`);
    if (key === 'blindsPass' && number > 1)
      throw new InputError('assume', `“blindsPass” is a share from 0 to 1, not “${value}”.`);
    Object.assign(assumed, { [key]: number });
  }
  if (assumed.coolC <= assumed.heatC)
    throw new InputError('assume', `coolC ${assumed.coolC} is not above heatC ${assumed.heatC}.`);
  return assumed;
}

/** `room`: heating, cooling and temperatures of a room through a weather year. */
export function roomCommand(): Command {
  return new Command('room')
    .description('heating, cooling and temperatures of a room through a year, with its devices and without')
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option(
      '--scheme <scheme>',
      'name or id of the scheme; “none” for no devices; the one that stands when left out',
    )
    .requiredOption('--room <room>', 'name or key of a room')
    .option('--weather <file>', 'EPW or CSV; the project’s year when left out')
    .option('--preset <preset>', Object.keys(ROOM_PRESETS).join(', '), 'new')
    .option(
      '--assume <name=value>',
      'another assumption than that of the preset; may be given several times',
      (text: string, all: string[] = []) => [...all, text],
    )
    .requiredOption('--out <folder>', 'folder for hours.csv and summary.json')
    .addOption(csvOption())
    .action(async (path: string, options: Options) => {
      const read = await readProject(path);
      const { meshes } = read;
      const id = optionId(read.project, options.option ?? TODAY);
      const project = withScheme(read.project, id, options.scheme);
      const assumed = assumptions(options.preset, options.assume ?? []);
      const rooms = roomsIn(project, id, meshes);
      const keys = roomKeys(rooms, options.room);
      const [room, ...more] = rooms.filter(({ key }) => keys.has(key));
      if (more.length > 0)
        throw new InputError(
          'room',
          `“${options.room}” means ${more.length + 1} rooms; name one by its key: ${[...keys].slice(0, 6).join(', ')}.`,
        );
      const weather = options.weather ? await readWeatherFile(options.weather) : null;
      const year = roomYear(project, id, meshes, room!, assumed, weather);
      const bare = roomYear(withoutDevices(project, id), id, meshes, room!, assumed, weather);
      const { envelope, zone, notes } = year;
      const summary = {
        option: id,
        method: ROOM_METHOD.number,
        scheme: project.options.find((one) => one.id === id)!.scheme,
        room: room!.name,
        key: room!.key,
        mass: room!.massName,
        floorM2: envelope.floorM2,
        volumeM3: envelope.volumeM3,
        windowsM2: envelope.windowsM2,
        wallsM2: envelope.wallsM2,
        roofM2: envelope.roofM2,
        groundM2: envelope.groundM2,
        hWindows: zone.hWindows,
        hOpaque: zone.hOpaque,
        hVentilation: zone.hVentilation,
        assumed,
        ...figuresOf(year),
        withoutDevices: figuresOf(bare),
        notes: [
          ...notes,
          'For comparison under the stated assumptions (ISO 13790:2008, simple hourly method).',
        ],
      };
      await writeFolder(options, {
        'hours.csv': hoursCsv(year),
        'summary.json': `${JSON.stringify(summary, null, 1)}\n`,
      });
      console.log(
        `${room!.massName}, ${room!.name}: heating ${told(summary.heatingKWh, summary.error.heatingKWh)}, cooling ${told(summary.coolingKWh, summary.error.coolingKWh)}, ${summary.tooWarmH} h over 26 °C without cooling; without devices ${summary.withoutDevices.heatingKWh.toFixed(0)} kWh, ${summary.withoutDevices.coolingKWh.toFixed(0)} kWh, ${summary.withoutDevices.tooWarmH} h`,
      );
    });
}

const told = (kWh: number, error: number) => `${kWh.toFixed(0)} ± ${error.toFixed(1)} kWh`;

function figuresOf({ heating, cooling, solar, heatingW, coolingW, tooWarmH, blindsDownH, error }: RoomYear) {
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  const peak = (values: Float64Array) => values.reduce((most, one) => Math.max(most, one), 0);
  return {
    solarKWh: sum(solar),
    heatingKWh: sum(heating),
    coolingKWh: sum(cooling),
    error: { solarKWh: error.solar, heatingKWh: error.heating, coolingKWh: error.cooling },
    peakHeatingW: peak(heatingW),
    peakCoolingW: peak(coolingW),
    tooWarmH,
    blindsDownH,
    months: { solarKWh: solar, heatingKWh: heating, coolingKWh: cooling },
  };
}

function hoursCsv(year: RoomYear): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const round = (value: number, digits: number) => Number(value.toFixed(digits));
  return csvText([
    ['hour', 'outdoor_c', 'beam_w', 'sky_w', 'ground_w', 'inside_c', 'heating_w', 'cooling_w'],
    ...Array.from(year.outdoorC, (outdoor, i) => [
      `${two(year.month[i]!)}-${two(year.day[i]!)} ${two(year.hour[i]!)}:00`,
      round(outdoor, 2),
      round(year.beamW[i]!, 2),
      round(year.skyW[i]!, 2),
      round(year.groundW[i]!, 2),
      round(year.insideC[i]!, 3),
      round(year.heatingW[i]!, 2),
      round(year.coolingW[i]!, 2),
    ]),
  ]);
}

/** One of the sets of assumptions. Throws InputError `preset`. */
export function roomPreset(name: string): RoomAssumptions {
  if (Object.hasOwn(ROOM_PRESETS, name)) return ROOM_PRESETS[name as keyof typeof ROOM_PRESETS];
  throw new InputError(
    'preset',
    `There is no preset “${name}”; there are ${Object.keys(ROOM_PRESETS).join(', ')}.`,
  );
}
