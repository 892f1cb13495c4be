import { InputError, modelProblems, problems, projectFileSchema } from '@dial-shade/core';
import { Command } from 'commander';
import { readJson, readProject } from './project-file';

/** `check`: every problem of a project file, one sentence a line; of a sound one, what is worth a look. */
export function checkCommand(): Command {
  return new Command('check')
    .description('every problem of a project file, one sentence each')
    .argument('<project>', 'project file')
    .action(async (path: string) => {
      const raw = await readJson(path);
      const found = problems(raw, projectFileSchema);
      if (found.length) throw new InputError('project', found[0]!, found);
      const { project, meshes } = await readProject(path);
      console.log(
        `“${project.name}” is sound: ${project.options.length} options, ${project.neighbours.length} neighbours, ${project.studies.length} studies.`,
      );
      // What stands around is the same in every option: it is told once.
      const told = new Set<string>();
      for (const { id, letter } of project.options)
        for (const { sentence, owner } of modelProblems(project, id, meshes)) {
          const line = `${owner.optionId === null ? 'To look at' : `To look at in ${letter}`}: ${sentence}`;
          if (!told.has(line)) console.log(line);
          told.add(line);
        }
    });
}
