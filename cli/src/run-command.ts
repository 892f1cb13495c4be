import {
  InputError,
  planStudy,
  requireStudy,
  runStudy,
  sensorsCsv,
  summarize,
  summaryJson,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { optionId, readProject } from './project-file';
import { readWeatherFile } from './weather-file';

interface Options {
  study: string;
  option?: string;
  weather?: string;
  out: string;
}

/** `run`: one study of one option, its sensors and its summary written to a folder. */
export function runCommand(): Command {
  return new Command('run')
    .description('run a study and write sensors.csv and summary.json')
    .argument('<project>', 'project file')
    .requiredOption('--study <name>', 'name or id of the study')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--weather <file>', 'weather year (EPW or CSV) for the kinds that need one')
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const study = requireStudy(project, options.study);
      const weather = options.weather === undefined ? null : await readWeatherFile(options.weather);
      const plan = planStudy(project, optionId(project, options.option ?? TODAY), study, meshes, weather);
      const values = runStudy(project, plan, meshes);
      const summary = summarize(plan, values);
      try {
        await mkdir(options.out, { recursive: true });
        await writeFile(join(options.out, 'sensors.csv'), sensorsCsv(study.kind, plan.grid, values));
        await writeFile(
          join(options.out, 'summary.json'),
          JSON.stringify(summaryJson(summary), null, 1) + '\n',
        );
      } catch (error) {
        throw new InputError(
          'out',
          `The folder ${options.out} cannot be written: ${(error as Error).message}.`,
        );
      }
      for (const note of summary.notes) console.log(note);
      const { unit } = summary.measure;
      console.log(
        `${summary.sensors} points × ${summary.directions} directions; mean ${summary.values.mean.toFixed(2)} ${unit}; ` +
          `${(summary.criterion.share * 100).toFixed(1)} % has at least ${summary.criterion.atLeast} ${unit}.`,
      );
    });
}
