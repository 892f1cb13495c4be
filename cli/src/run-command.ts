import {
  InputError,
  planStudy,
  requireStudy,
  resultGeoJson,
  resultGlb,
  resultScale,
  resultSvg,
  sensorsCsv,
  studyResult,
  summarize,
  summaryJson,
  TODAY,
  type CsvForm,
} from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject, writeFolder } from './project-file';
import { readWeatherFile } from './weather-file';
import { csvOption } from './csv-option';
import { runOnTerminal } from './terminal-run';

interface Options {
  study: string;
  option?: string;
  weather?: string;
  also?: string;
  out: string;
  csv: CsvForm;
}

const FURTHER = ['geojson', 'glb', 'svg'];

/** The further files that are asked for. Throws InputError `format`. */
function furtherFormats(typed: string | undefined): Set<string> {
  const formats = (typed ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);
  const unknown = formats.find((one) => !FURTHER.includes(one));
  if (unknown !== undefined)
    throw new InputError('format', `“${unknown}” is no further file; there are ${FURTHER.join(', ')}.`);
  return new Set(formats);
}

/** `run`: one study of one option, its sensors and its summary written to a folder. */
export function runCommand(): Command {
  return new Command('run')
    .description('run a study and write sensors.csv and summary.json')
    .argument('<project>', 'project file')
    .requiredOption('--study <name>', 'name or id of the study')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--weather <file>', 'weather year (EPW or CSV) for the kinds that need one')
    .option('--also <formats>', 'further files, of geojson, glb and svg, with commas between them')
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .addOption(csvOption())
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const study = requireStudy(project, options.study);
      const weather = options.weather === undefined ? null : await readWeatherFile(options.weather);
      const also = furtherFormats(options.also);
      const plan = planStudy(project, optionId(project, options.option ?? TODAY), study, meshes, weather);
      const values = runOnTerminal(project, plan, meshes);
      const summary = summarize(plan, values);
      const result = studyResult(plan, values);
      const scale = resultScale(result, study.scale);
      await writeFolder(options, {
        'sensors.csv': sensorsCsv(study.kind, plan.grid, values),
        'summary.json': `${JSON.stringify(summaryJson(summary), null, 1)}\n`,
        ...(also.has('geojson') && { 'cells.geojson': resultGeoJson(project, result) }),
        ...(also.has('glb') && { 'cells.glb': await resultGlb(result, project.site.ground, scale) }),
        ...(also.has('svg') && { 'map.svg': resultSvg(project, result, scale) }),
      });
      for (const note of summary.notes) console.log(note);
      const { unit } = summary.measure;
      console.log(
        `${summary.sensors} points × ${summary.directions} directions; mean ${summary.values.mean.toFixed(2)} ${unit}; ` +
          `${(summary.criterion.share * 100).toFixed(1)} % has at least ${summary.criterion.atLeast} ${unit}.`,
      );
    });
}
