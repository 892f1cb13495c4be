import { openingsIn, outlineArea, outlineBox, TODAY } from '@dial-shade/core';
import { Command } from 'commander';
import { optionId, readProject } from './project-file';

/** `openings`: every opening that stands in an option, what could not be placed, and what rules could not keep. */
export function openingsCommand(): Command {
  return new Command('openings')
    .description('every opening of an option as JSON')
    .argument('<project>', 'project file')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .action(async (path: string, options: { option?: string }) => {
      const { project, meshes } = await readProject(path);
      const id = optionId(project, options.option ?? TODAY);
      const all = openingsIn(project, id, meshes);
      const bodies = all.all.flatMap(({ body, optionId: of }) => {
        const fitted = all.of(body);
        if (!fitted) return [];
        const standing = [...fitted.byFace.values()].some((list) => list.length > 0);
        if (!standing && fitted.violations.length + fitted.relaxed.length === 0) return [];
        return [
          {
            owner: body.id,
            name: body.name,
            option: of,
            openings: [...fitted.byFace.entries()].flatMap(([face, list]) =>
              list.map((o) => {
                const { u0, v0, u1, v1 } = outlineBox(o.outline);
                return {
                  id: o.id,
                  face,
                  rule: o.rule,
                  kind: o.kind,
                  glazing: o.glazing,
                  leftM: u0,
                  sillM: v0,
                  widthM: u1 - u0,
                  headM: v1,
                  areaM2: outlineArea(o.outline),
                };
              }),
            ),
            parties: Object.fromEntries(fitted.parties),
            misfits: fitted.violations.map(({ opening, violation }) => ({ id: opening.id, ...violation })),
            gaveWay: fitted.relaxed.map(({ rule, face, what, asked, got }) => ({
              rule,
              face: face.key,
              what,
              asked,
              got,
            })),
          },
        ];
      });
      console.log(JSON.stringify({ option: id, bodies }, null, 1));
    });
}
