import {
  cutText,
  BECOMES,
  type Becomes,
  importModel,
  InputError,
  likelyUnit,
  MODEL_UNITS,
  modelRows,
  type ModelUnit,
  parseProject,
  TODAY,
  type UpAxis,
} from '@dial-shade/core';
import { Command } from 'commander';
import { basename } from 'node:path';
import { readModel } from './model-command';
import { optionId, projectText, readProject, writeOut } from './project-file';

interface Options {
  out: string;
  as?: string;
  part: string[];
  option?: string;
  unit?: string;
  up?: string;
  height: string;
  heightProperty?: string;
  centre?: boolean;
  takeSite?: boolean;
}

/** `bring-in`: a model file into a project. */
export function importCommand(): Command {
  return new Command('bring-in')
    .description('bring a model file into a project')
    .argument('<project>', 'project file')
    .argument('<file>', 'model file')
    .requiredOption('--out <file>', 'project file to write')
    .option('--as <becomes>', `what every part becomes: ${BECOMES.join(', ')}`)
    .option(
      '--part <key=becomes>',
      'what one part becomes, by its key from `model`; may be repeated',
      collect,
      [],
    )
    .option('--option <option>', 'the option that takes what becomes part of one')
    .option('--unit <unit>', 'm, cm, mm, ft or in; what the file states, else the likely one')
    .option('--up <axis>', 'z or y; what the file states, else z')
    .option('--height <metres>', 'height of outlines that have none', '6')
    .option('--height-property <name>', 'property that holds heights')
    .option('--centre', 'set the middle of the model at the origin')
    .option('--take-site', 'take place and true north over from the file')
    .action(async (path: string, file: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const model = await readModel(file);
      const up = (options.up ?? model.up ?? 'z') as UpAxis;
      if (up !== 'z' && up !== 'y') throw new InputError('up', `“${options.up}” is no axis; use z or y.`);
      const unit = (options.unit ??
        model.unit ??
        (model.mesh ? likelyUnit(model.mesh, up) : 'm')) as ModelUnit;
      if (!MODEL_UNITS.some(({ id }) => id === unit))
        throw new InputError(
          'unit',
          `“${unit}” is no unit; use ${MODEL_UNITS.map(({ id }) => id).join(', ')}.`,
        );
      const heightM = Number(options.height);
      if (!(heightM >= 0.1 && heightM <= 1000))
        throw new InputError('height', `“${options.height}” is no height between 0.1 and 1000 m.`);
      const becomes: Record<string, Becomes> = {};
      for (const text of options.part) {
        const at = text.lastIndexOf('=');
        becomes[text.slice(0, at)] = known(text.slice(at + 1));
      }
      const as = options.as === undefined ? null : known(options.as);
      const all = as
        ? Object.fromEntries(
            modelRows(model).map(({ key, likely }) => [
              key,
              as === 'option' && likely === 'device' ? likely : as,
            ]),
          )
        : {};
      const brought = importModel(project, model, {
        unit,
        up,
        becomes: { ...all, ...becomes },
        optionId: optionId(
          project,
          options.option ?? project.options.find((o) => o.id !== TODAY)?.id ?? TODAY,
        ),
        heightProperty: options.heightProperty ?? null,
        heightM,
        takeSite: options.takeSite ?? false,
        name: cutText(basename(file).replace(/\.[a-z]+$/i, ''), 80) || 'Model',
        centre: options.centre ?? false,
      });
      const checked = parseProject(brought.project);
      await writeOut(options.out, projectText(checked, new Map([...meshes, ...brought.meshes])));
      for (const note of brought.notes) console.log(note);
      console.log(
        `${brought.ids.length} ${brought.ids.length === 1 ? 'thing' : 'things'} brought in: ${brought.ids.slice(0, 20).join(', ')}`,
      );
    });
}

function collect(value: string, before: string[]): string[] {
  return [...before, value];
}

function known(text: string): Becomes {
  const found = BECOMES.find((becomes) => becomes === text);
  if (!found)
    throw new InputError(
      'becomes',
      `“${text}” is nothing that a part can become; use ${BECOMES.join(', ')}.`,
    );
  return found;
}
