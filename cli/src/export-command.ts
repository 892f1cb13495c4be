import { InputError, OUT_FORMATS, type OutFormat, TODAY, writeOption } from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject, writeOut } from './project-file';

/** `send-out`: an option as a file of an open format. */
export function exportCommand(): Command {
  return new Command('send-out')
    .description(`write an option as ${OUT_FORMATS.join(', ')}`)
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--format <format>', `${OUT_FORMATS.join(', ')}; by the ending of the file when left out`)
    .requiredOption('--out <file>', 'file to write')
    .action(async (path: string, options: { option?: string; format?: string; out: string }) => {
      const { project, meshes } = await readProject(path);
      const ending = /\.([a-z]+)$/i.exec(options.out)?.[1]?.toLowerCase() ?? '';
      const wanted = options.format ?? (ending === 'json' ? 'cityjson' : ending);
      const format = OUT_FORMATS.find((known) => known === wanted) as OutFormat | undefined;
      if (!format)
        throw new InputError(
          'format',
          `“${wanted}” is no format that can be written; use ${OUT_FORMATS.join(', ')}.`,
        );
      const id = optionId(project, options.option ?? TODAY);
      const bytes = await writeOption(project, id, meshes, format);
      await writeOut(options.out, bytes);
      console.log(`${bytes.length.toLocaleString('en')} bytes written to ${options.out}.`);
    });
}
