import {
  comparedCsv,
  comparedMeasures,
  type ComparedOption,
  comparisonCsv,
  comparisonJson,
  envelopeValues,
  InputError,
  massingValues,
  type MeshStore,
  type Project,
  studyValues,
  type WeatherYear,
  comparedSensorsCsv,
  compareResults,
  MemoryMasks,
  planStudy,
  requireStudy,
  roomValues,
  inVariant,
  variantsOf,
  ruleFor,
  STUDY_KINDS,
  type StudyResult,
  studyResult,
  TODAY,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject, writeFolder } from './project-file';
import { roomPreset } from './room-command';
import { readWeatherFile } from './weather-file';
import { csvOption } from './csv-option';
import { runOnTerminal } from './terminal-run';

interface Options {
  study?: string;
  before: string;
  after?: string;
  all?: boolean;
  schemes?: boolean;
  rooms?: string;
  weather?: string;
  criteria?: string;
  out: string;
  csv: CsvForm;
}

/** `compare`: a study of two options, place by place, written to a folder. */
export function compareCommand(): Command {
  return new Command('compare')
    .description('a study before and after: windows.csv, sensors.csv and summary.json')
    .argument('<project>', 'project file')
    .option('--study <name>', 'name or id of the study')
    .option('--before <option>', 'letter, name or id of the option before', TODAY)
    .option('--after <option>', 'letter, name or id of the option after')
    .option('--all', 'every option, every study: comparison.csv and comparison.json')
    .option('--schemes', 'with --all: each option with its other schemes of devices, and without any')
    .option('--rooms <assumptions>', 'with --all: a year of typical rooms, “new”, “light” or “old”')
    .option('--weather <file>', 'weather year (EPW or CSV) in place of the project’s')
    .option('--criteria <name>', 'name or id of the set of criteria; the first that fits when left out')
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .addOption(csvOption())
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const weather = options.weather === undefined ? null : await readWeatherFile(options.weather);
      if (options.all) {
        await compareAll(project, meshes, weather, options);
        return;
      }
      if (options.study === undefined || options.after === undefined)
        throw new InputError(
          'compare',
          'Name a study with --study and an option with --after, or ask for --all.',
        );
      const afterName = options.after;
      const study = requireStudy(project, options.study);
      const rule = ruleFor(project, study, options.criteria);
      // What stands round about is traced once for both.
      const masks = new MemoryMasks(512 * 1024 ** 2);
      const resultOf = (option: string): StudyResult => {
        const plan = planStudy(project, optionId(project, option), study, meshes, weather);
        return studyResult(plan, runOnTerminal(project, plan, meshes, masks));
      };
      const [before, after] = [resultOf(options.before), resultOf(afterName)];
      const comparison = compareResults(before, after, rule);
      const { places, onlyBefore, onlyAfter } = comparison;
      const passing = places.filter(({ passes }) => passes).length;
      const summary = {
        study: study.name,
        kind: study.kind,
        before: before.summary.option,
        after: after.summary.option,
        measure: comparison.measure,
        criterion: rule,
        places: places.length,
        passing,
        failing: places.length - passing,
        onlyBefore,
        onlyAfter,
        notes: [...new Set([...before.summary.notes, ...after.summary.notes])],
      };
      await writeFolder(options, {
        'windows.csv': comparedCsv(comparison),
        'sensors.csv': comparedSensorsCsv(comparison, after),
        'summary.json': `${JSON.stringify(summary, null, 1)}\n`,
      });
      for (const note of summary.notes) console.log(note);
      const { unit } = STUDY_KINDS[study.kind].measures.find(({ key }) => key === comparison.measure)!;
      const worst = places.reduce((a, b) => (b.difference < a.difference ? b : a));
      console.log(
        `${passing} of ${places.length} places pass; the most is lost at “${worst.name}”: ${worst.before.toFixed(2)} to ${worst.after.toFixed(2)} ${unit}.`,
      );
    });
}

/** Every option by every measure; what cannot be run is left empty, and said. */
async function compareAll(
  document: Project,
  meshes: MeshStore,
  weather: WeatherYear | null,
  { study: only, out, csv, schemes: withSchemes, rooms }: Options,
): Promise<void> {
  const studies = only === undefined ? document.studies : [requireStudy(document, only)];
  const assumed = rooms === undefined ? null : roomPreset(rooms);
  const measures = comparedMeasures({ ...document, studies }).filter(
    ({ group }) => group !== 'rooms' || assumed,
  );
  // Today first: what the others take is told against it.
  const ordered = [...document.options].sort((a, b) => Number(b.id === TODAY) - Number(a.id === TODAY));
  const found = new Map<string, ComparedOption>();
  const today = new Map<string, StudyResult>();
  const notes: string[] = [];
  const masks = new MemoryMasks(512 * 1024 ** 2);
  const variants = ordered.flatMap((option) =>
    withSchemes ? variantsOf(option) : [{ id: option.id, option, name: option.name }],
  );
  for (const { id, option, name } of variants) {
    const { letter } = option;
    const { project, optionId: own } = inVariant(document, id);
    const values = massingValues(project, own, meshes);
    if (assumed) Object.assign(values, roomValues(project, own, meshes, assumed));
    for (const study of studies)
      try {
        const plan = planStudy(project, own, study, meshes, weather);
        const result = studyResult(plan, runOnTerminal(project, plan, meshes, masks));
        if (id === TODAY) today.set(study.id, result);
        Object.assign(values, studyValues(project, study, result, today.get(study.id) ?? null));
      } catch (error) {
        if (!(error instanceof InputError)) throw error;
        notes.push(`${letter} ${name}, “${study.name}”: ${error.message}`);
      }
    for (const envelope of project.envelopes)
      Object.assign(values, envelopeValues(project, own, envelope, meshes));
    found.set(id, { id, letter, name, values });
  }
  // In the order of the project, each option before what it is with other schemes.
  const options = document.options.flatMap(({ id }) =>
    variants.filter(({ option }) => option.id === id).map((one) => found.get(one.id)!),
  );
  await writeFolder(
    { out, csv },
    {
      'comparison.csv': comparisonCsv(measures, options),
      'comparison.json': comparisonJson(measures, options),
    },
  );
  for (const note of notes) console.log(note);
  console.log(
    `${options.length} ${withSchemes ? 'options and schemes' : 'options'} by ${measures.length} measures, ${studies.length} studies.`,
  );
}
