import { InputError, problems, projectFileSchema } from '@dial-shade/core';
import { Command } from 'commander';
import { readJson, readProject } from './project-file';

/** `check`: every problem of a project file, one sentence a line. */
export function checkCommand(): Command {
  return new Command('check')
    .description('every problem of a project file, one sentence each')
    .argument('<project>', 'project file')
    .action(async (path: string) => {
      const raw = await readJson(path);
      const found = problems(raw, projectFileSchema);
      if (found.length) throw new InputError('project', found[0]!, found);
      const { project } = await readProject(path);
      console.log(
        `“${project.name}” is sound: ${project.options.length} options, ${project.neighbours.length} neighbours, ${project.studies.length} studies.`,
      );
    });
}
