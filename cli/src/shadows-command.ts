import {
  InputError,
  instantOf,
  isDate,
  momentsOf,
  type ShadeOn,
  shadowFiles,
  shadowStudy,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { momentSet } from './moments-command';
import { optionId, readProject, writeOut } from './project-file';
import { number } from './typed-options';

interface Options {
  option?: string;
  set?: string;
  at?: string[];
  on: string;
  owners?: boolean;
  metres?: boolean;
  scale: number;
  out: string;
}

const ON: readonly ShadeOn[] = ['areas', 'ground', 'roofs', 'facades'];

/** A moment by the clock on site, as epoch ms. Throws InputError `at`. */
function momentAt(text: string, zone: string): number {
  const match = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})$/.exec(text);
  const minutes = match ? Number(match[2]) * 60 + Number(match[3]) : NaN;
  if (!match || !isDate(match[1]!) || !(minutes < 1440) || Number(match[3]) > 59)
    throw new InputError('at', `“${text}” is not a moment; write the clock on site as 2026-03-21T09:30.`);
  return instantOf(match[1]!, minutes, zone);
}

/** `shadows`: exact outlines and areas of shade at moments, as CSV, GeoJSON, SVG and DXF. */
export function shadowsCommand(): Command {
  return new Command('shadows')
    .description('exact outlines and areas of shade at moments')
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--set <name>', 'name or id of a moment set')
    .option(
      '--at <moment>',
      'clock on site, 2026-03-21T09:30; may be given several times',
      (text, all: string[] = []) => [...all, text],
    )
    .option('--on <what>', 'areas, ground, roofs or facades', 'areas')
    .option('--owners', 'also what each body throws by itself')
    .option('--metres', 'GeoJSON in project metres')
    .option('--scale <n>', 'scale of the SVG, 1 : n', number('The scale'), 500)
    .requiredOption('--out <folder>', 'folder to write to; made when it is not there')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const { site } = project;
      if (!options.set === !options.at)
        throw new InputError(
          'at',
          'Name either a moment set (--set NAME) or moments (--at 2026-03-21T09:30).',
        );
      const on = ON.find((one) => one === options.on);
      if (!on)
        throw new InputError(
          'on',
          `Shade is drawn on areas, ground, roofs or facades, not on “${options.on}”.`,
        );
      if (!(options.scale >= 1 && options.scale <= 100_000))
        throw new InputError('number', 'The scale goes from 1:1 to 1:100,000.');
      const moments = options.set
        ? momentsOf(momentSet(project, options.set), site).map(({ atMs }) => atMs)
        : options.at!.map((text) => momentAt(text, site.place.zone));
      const id = optionId(project, options.option ?? TODAY);
      const study = shadowStudy(project, id, meshes, moments, on, options.owners);
      const files = shadowFiles(project, study, { metres: options.metres, scale: options.scale });
      try {
        await mkdir(options.out, { recursive: true });
      } catch (error) {
        throw new InputError('out', `The folder ${options.out} cannot be made: ${(error as Error).message}.`);
      }
      for (const [name, content] of Object.entries(files))
        await writeOut(join(options.out, name), content as string);
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
