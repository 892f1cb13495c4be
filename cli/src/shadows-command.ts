import { InputError, type ShadeOn, shadowFiles, shadowStudy, TODAY, type CsvForm } from '@dial-shade/core';
import { Command } from 'commander';
import { askedMoments, type MomentOptions, withMoments } from './asked-moments';
import { optionId, readProject, writeFolder } from './project-file';
import { number } from './typed-options';
import { csvOption } from './csv-option';

interface Options extends MomentOptions {
  option?: string;
  on: string;
  owners?: boolean;
  metres?: boolean;
  scale: number;
  out: string;
  csv: CsvForm;
}

const ON: readonly ShadeOn[] = ['areas', 'ground', 'roofs', 'facades'];

/** `shadows`: exact outlines and areas of shade at moments, as CSV, GeoJSON, SVG and DXF. */
export function shadowsCommand(): Command {
  return withMoments(
    new Command('shadows')
      .description('exact outlines and areas of shade at moments')
      .argument('<project>', 'project file'),
  )
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--on <what>', 'areas, ground, roofs or facades', 'areas')
    .option('--owners', 'also what each body throws by itself')
    .option('--metres', 'GeoJSON in project metres')
    .option('--scale <n>', 'scale of the SVG, 1 : n', number('The scale'), 500)
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .addOption(csvOption())
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const on = ON.find((one) => one === options.on);
      if (!on)
        throw new InputError(
          'on',
          `Shade is drawn on areas, ground, roofs or facades, not on “${options.on}”.`,
        );
      if (!(options.scale >= 1 && options.scale <= 100_000))
        throw new InputError('number', 'The scale goes from 1:1 to 1:100,000.');
      const moments = askedMoments(project, options);
      const id = optionId(project, options.option ?? TODAY);
      const study = shadowStudy(project, id, meshes, moments, on, options.owners);
      const files = shadowFiles(project, study, { metres: options.metres, scale: options.scale });
      await writeFolder(options, { ...files });
      const night = new Set(
        study.rows.filter(({ shadedM2 }) => shadedM2 === null).map(({ moment }) => moment),
      ).size;
      if (night)
        console.log(
          night === 1
            ? 'At one moment the sun is below the horizon; nothing is measured there.'
            : `At ${night} moments the sun is below the horizon; nothing is measured there.`,
        );
      const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`;
      console.log(
        `${count(study.receivers.length, 'receiver')} × ${count(moments.length, 'moment')} written to ${options.out}.`,
      );
    });
}
