import { InputError, OUT_FORMATS, type OutFormat, requireOption, writeOption } from '@dial-shade/core';
import { Router } from 'express';
import { z } from 'zod';
import { findProject, projectMeshes } from '../store/projects';
import { handle, notFound, param, parsed } from './answers';
import type { Services } from './services';

const query = z.object({ option: z.string().max(64), format: z.string().max(20) });

const TYPES: Record<OutFormat, [type: string, ending: string]> = {
  obj: ['model/obj', 'obj'],
  stl: ['model/stl', 'stl'],
  glb: ['model/gltf-binary', 'glb'],
  geojson: ['application/geo+json', 'geojson'],
  cityjson: ['application/json', 'city.json'],
};

/** An option as a file of an open format. */
export function exportRoutes({ db }: Services): Router {
  const router = Router();
  router.get(
    '/projects/:id/out',
    handle(async (request, response) => {
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const { option, format: wanted } = parsed(query, request.query);
      const format = OUT_FORMATS.find((known) => known === wanted);
      if (!format)
        throw new InputError(
          'format',
          `“${wanted}” is no format that can be written; use ${OUT_FORMATS.join(', ')}.`,
        );
      const { project } = stored;
      const { letter, name } = requireOption(project, option);
      const bytes = await writeOption(project, option, await projectMeshes(db, project), format);
      const [type, ending] = TYPES[format];
      const plain = `${project.name} ${letter} ${name}`
        .replace(/[^\p{L}\p{N} _-]/gu, '')
        .trim()
        .replace(/\s+/g, '-');
      response
        .attachment(`${plain || 'option'}.${ending}`)
        .type(type)
        .send(Buffer.from(bytes));
    }),
  );
  return router;
}
