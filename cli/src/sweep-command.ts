import {
  type Candidate,
  csvText,
  DEVICE_KINDS,
  DeviceSweep,
  type DeviceMake,
  frontOf,
  glazedPlaces,
  type HourSet,
  InputError,
  type Project,
  SWEEP_METHOD,
  type SweepKind,
  sweepMakes,
  type SweepRange,
  TODAY,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { keyOf, onePlace, requireDevice, requireHourSet, requireNumber, withScheme } from './device-options';
import { optionId, readProject, writeFolder } from './project-file';
import { readWeatherFile } from './weather-file';
import { csvOption } from './csv-option';

interface Options {
  option?: string;
  scheme?: string;
  opening: string;
  device: string;
  free: string[];
  beside: string[];
  unwanted?: string;
  wanted?: string;
  weather?: string;
  out: string;
  csv: CsvForm;
  json?: boolean;
}

/** `depthM=0.2:1.2:11`: a number between two values in so many steps. Throws InputError `free`. */
function rangeOf(text: string): SweepRange {
  const [number, values = ''] = text.split('=');
  const [from, to, steps] = values.split(':').map((part) => (part.trim() === '' ? NaN : Number(part)));
  const isWhole = Number.isInteger(steps) && steps! >= 2;
  if (!number || !(to! > from!) || !isWhole)
    throw new InputError(
      'free',
      `--free is written as depthM=0.2:1.2:11 (a number, least, greatest, how many values), not “${text}”.`,
    );
  return { number, from: from!, to: to!, steps: steps! };
}

/** `fins:depthM=0.1:1:10`: a device of another kind as it is first hung, with a number that is free. Throws InputError `beside`. */
function besideOf(text: string): SweepKind {
  const [kind = '', ...rest] = text.split(':');
  const known = DEVICE_KINDS[kind as DeviceMake['kind']] as (typeof DEVICE_KINDS)['fins'] | undefined;
  if (!known)
    throw new InputError(
      'beside',
      `--beside names a kind of device: ${Object.keys(DEVICE_KINDS).join(', ')}; not “${kind}”.`,
    );
  const range = rangeOf(rest.join(':'));
  if (typeof (known.plain as Record<string, unknown>)[range.number] !== 'number')
    throw new InputError('beside', `A device of the kind “${kind}” has no number “${range.number}”.`);
  return { make: known.plain, ranges: [range] };
}

/** The sets of hours that a sweep goes by. Throws InputError `hours`. */
function hoursAsked(project: Project, options: Options): { unwanted: HourSet; wanted: HourSet | null } {
  const first = (use: HourSet['use']) => project.hourSets.find((set) => set.use === use) ?? null;
  const unwanted = options.unwanted ? requireHourSet(project, options.unwanted) : first('unwanted');
  if (!unwanted)
    throw new InputError('hours', 'The project has no hours of unwanted sun; name a set with --unwanted.');
  if (options.wanted === 'none') return { unwanted, wanted: null };
  return { unwanted, wanted: options.wanted ? requireHourSet(project, options.wanted) : first('wanted') };
}

const six = (value: number | null) => (value === null ? null : Number(value.toFixed(6)));

/** A row a candidate: its numbers, what it does, and whether nothing beats it. */
function candidatesCsv(
  candidates: readonly Candidate[],
  numbers: readonly string[],
  { hasKinds, hasWanted }: { hasKinds: boolean; hasWanted: boolean },
): string {
  const fronts = { wanted: hasWanted && frontOf(candidates, 'wanted'), sky: frontOf(candidates, 'sky') };
  const valueOf = (make: DeviceMake, number: string) =>
    ((make as Record<string, unknown>)[number] as number | undefined) ?? '';
  return csvText([
    [
      ...(hasKinds ? ['kind'] : []),
      ...numbers,
      'unwanted_kept_out',
      ...(hasWanted ? ['wanted_let_in'] : []),
      'sky_let_in',
      ...(hasWanted ? ['front_wanted'] : []),
      'front_sky',
      'unwanted_error',
      ...(hasWanted ? ['wanted_error'] : []),
      'sky_error',
    ],
    ...candidates.map(({ make, keptOut, letIn, sky, error }, i) => [
      ...(hasKinds ? [make.kind] : []),
      ...numbers.map((number) => valueOf(make, number)),
      six(keptOut)!,
      ...(hasWanted ? [six(letIn)!] : []),
      six(sky)!,
      ...(fronts.wanted ? [Number(fronts.wanted[i])] : []),
      Number(fronts.sky[i]),
      six(error.keptOut)!,
      ...(hasWanted ? [six(error.letIn)!] : []),
      six(error.sky)!,
    ]),
  ]);
}

/** `sweep`: many sizes of a device at a window, with what each keeps out and lets in. */
export function sweepCommand(): Command {
  return new Command('sweep')
    .description('tries a device in many sizes at a window: unwanted sun kept out, wanted sun and sky let in')
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--scheme <scheme>', 'name or id of the scheme; the one that stands when left out')
    .requiredOption('--opening <opening>', 'id or name of a glazed opening, or OWNER/OPENING')
    .requiredOption('--device <device>', 'name or id of a device of the scheme')
    .requiredOption(
      '--free <number=from:to:count>',
      'a number that is free, by its key in the project file; one to three of them',
      (text: string, all: string[]) => [...all, text],
      [],
    )
    .option(
      '--beside <kind:number=from:to:count>',
      'another kind, as it is first hung, with a number that is free; any number of them',
      (text: string, all: string[]) => [...all, text],
      [],
    )
    .option('--unwanted <set>', 'name or id of a set of hours; the first of unwanted sun when left out')
    .option('--wanted <set>', 'the same of wanted sun; none for no such set')
    .option('--weather <file>', 'EPW or CSV; the project’s when left out')
    .requiredOption('--out <folder>', 'where candidates.csv and summary.json go')
    .addOption(csvOption())
    .option('--json', 'print the summary')
    .action(async (path: string, options: Options) => {
      const read = await readProject(path);
      const { meshes } = read;
      const id = optionId(read.project, options.option ?? TODAY);
      const project = withScheme(read.project, id, options.scheme);
      const places = glazedPlaces(project, id, meshes).flatMap((body) => body.places);
      const place = onePlace(places, options.opening);
      const device = requireDevice(project, id, options.device);
      if (options.free.length > 3)
        throw new InputError('free', 'At most three numbers are free at a time; leave the others out.');
      const ranges = options.free.map(rangeOf);
      for (const { number } of ranges) requireNumber(device, number);
      const { unwanted, wanted } = hoursAsked(project, options);
      const weather = options.weather ? await readWeatherFile(options.weather) : null;
      const beside = options.beside.map(besideOf);
      const { makes, leftOut } = sweepMakes([{ make: device.make, ranges }, ...beside]);
      const numbers = [
        ...new Set([...ranges, ...beside.flatMap((one) => one.ranges)].map((one) => one.number)),
      ];
      const asked = { project, optionId: id, meshes, weather };
      const sweep = new DeviceSweep(asked, place, device, { unwanted, wanted });
      const candidates = makes.map((make) => ({ make, ...sweep.read(make) }));
      const shares = ({ keptOut, letIn, sky, error }: ReturnType<typeof sweep.read>) => ({
        unwanted_kept_out: six(keptOut),
        wanted_let_in: six(letIn),
        sky_let_in: six(sky),
        error: {
          unwanted_kept_out: six(error.keptOut),
          wanted_let_in: letIn === null ? null : six(error.letIn),
          sky_let_in: six(error.sky),
        },
      });
      const summary = {
        option: id,
        method: SWEEP_METHOD.number,
        opening: keyOf(place),
        device: device.name,
        unwanted: { set: unwanted.name, whole: six(sweep.unwantedWhole) },
        wanted: wanted && { set: wanted.name, whole: six(sweep.wantedWhole) },
        unit: sweep.year.sky.hasWeather ? 'kWh' : 'h',
        candidates: candidates.length,
        left_out: leftOut,
        points: sweep.year.grid.count,
        without: shares(sweep.without),
        as_it_stands: shares(sweep.read(device.make)),
        notes: sweep.year.sky.notes,
      };
      const text = JSON.stringify(summary, null, 1);
      await writeFolder(options, {
        'candidates.csv': candidatesCsv(candidates, numbers, {
          hasKinds: beside.length > 0,
          hasWanted: wanted !== null,
        }),
        'summary.json': `${text}\n`,
      });
      if (options.json) console.log(text);
      else
        console.log(
          `${device.name} at ${summary.opening}: ${candidates.length} tried${leftOut ? `, ${leftOut} cannot be built` : ''}; without it ${(100 * summary.without.unwanted_kept_out!).toFixed(1)} % of the unwanted sun is kept out, as it stands ${(100 * summary.as_it_stands.unwanted_kept_out!).toFixed(1)} %`,
        );
    });
}
