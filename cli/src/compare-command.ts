import {
  comparedCsv,
  comparedSensorsCsv,
  compareResults,
  MemoryMasks,
  planStudy,
  requireStudy,
  ruleFor,
  runStudy,
  STUDY_KINDS,
  type StudyResult,
  studyResult,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject, writeFolder } from './project-file';
import { readWeatherFile } from './weather-file';

interface Options {
  study: string;
  before: string;
  after: string;
  weather?: string;
  criteria?: string;
  out: string;
}

/** `compare`: a study of two options, place by place, written to a folder. */
export function compareCommand(): Command {
  return new Command('compare')
    .description('a study before and after: windows.csv, sensors.csv and summary.json')
    .argument('<project>', 'project file')
    .requiredOption('--study <name>', 'name or id of the study')
    .option('--before <option>', 'letter, name or id of the option before', TODAY)
    .requiredOption('--after <option>', 'letter, name or id of the option after')
    .option('--weather <file>', 'weather year (EPW or CSV) in place of the project’s')
    .option('--criteria <name>', 'name or id of the set of criteria; the first that fits when left out')
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const study = requireStudy(project, options.study);
      const weather = options.weather === undefined ? null : await readWeatherFile(options.weather);
      const rule = ruleFor(project, study, options.criteria);
      // What stands round about is traced once for both.
      const masks = new MemoryMasks(512 * 1024 ** 2);
      const resultOf = (option: string): StudyResult => {
        const plan = planStudy(project, optionId(project, option), study, meshes, weather);
        return studyResult(plan, runStudy(project, plan, meshes, { masks }));
      };
      const [before, after] = [resultOf(options.before), resultOf(options.after)];
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
      await writeFolder(options.out, {
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
