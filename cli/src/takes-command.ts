import {
  planStudy,
  requireStudy,
  slicesCsv,
  STUDY_KINDS,
  takersByPlaceCsv,
  takersCsv,
  TODAY,
  whoTakes,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject, writeFolder } from './project-file';
import { readWeatherFile } from './weather-file';
import { csvOption } from './csv-option';

interface Options {
  study: string;
  option?: string;
  weather?: string;
  out: string;
  csv: CsvForm;
}

/** `takes`: who takes the light from what a study measures, written to a folder. */
export function takesCommand(): Command {
  return new Command('takes')
    .description('who takes the light from what a study measures: takers.csv, places.csv, slices.csv')
    .argument('<project>', 'project file')
    .requiredOption('--study <name>', 'name or id of the study')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--weather <file>', 'weather year (EPW or CSV) in place of the project’s')
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .addOption(csvOption())
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const study = requireStudy(project, options.study);
      const weather = options.weather === undefined ? null : await readWeatherFile(options.weather);
      const plan = planStudy(project, optionId(project, options.option ?? TODAY), study, meshes, weather);
      const told = whoTakes(project, plan, meshes);
      await writeFolder(options, {
        'takers.csv': takersCsv(told),
        'places.csv': takersByPlaceCsv(told),
        'slices.csv': slicesCsv(told),
      });
      const { unit } = STUDY_KINDS[study.kind].measures[0];
      const [most] = told.takers;
      console.log(
        `${told.value.toFixed(2)} of ${told.open.toFixed(2)} ${unit} arrive; ${most ? `“${most.name}” takes the most, ${most.takes.toFixed(2)}` : 'nobody takes any'}.`,
      );
    });
}
