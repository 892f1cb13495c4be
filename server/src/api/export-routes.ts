import { InputError, OUT_FORMATS, type OutFormat, refuseTooLarge, requireOption } from '@dial-shade/core';
import { Router } from 'express';
import { z } from 'zod';
import { findProject, projectMeshBytes } from '../store/projects';
import { gone, handle, notFound, param, parsed, plainName, stream } from './answers';
import type { Services } from './services';

const query = z.object({ option: z.string().max(64), format: z.string().max(20) });

const TYPES: Record<OutFormat, [type: string, ending: string]> = {
  obj: ['model/obj', 'obj'],
  stl: ['model/stl', 'stl'],
  glb: ['model/gltf-binary', 'glb'],
  geojson: ['application/geo+json', 'geojson'],
  cityjson: ['application/json', 'city.json'],
};

/** What goes out of a project: an option as a file of an open format, the whole as a project file. */
export function exportRoutes({ db, errands }: Services): Router {
  const router = Router();
  const projectOf = async (request: Parameters<typeof param>[0]) => {
    const stored = await findProject(db, param(request, 'id'));
    if (!stored) throw notFound('This project');
    return stored;
  };

  router.get(
    '/projects/:id/out',
    handle(async (request, response) => {
      const { id, project } = await projectOf(request);
      const { option, format: wanted } = parsed(query, request.query);
      const format = OUT_FORMATS.find((known) => known === wanted);
      if (!format)
        throw new InputError(
          'format',
          `“${wanted}” is no format that can be written; use ${OUT_FORMATS.join(', ')}.`,
        );
      const { letter, name } = requireOption(project, option);
      refuseTooLarge(project, option);
      const meshes = await projectMeshBytes(db, project);
      const bytes = await errands.make(
        id,
        { kind: 'out', project, optionId: option, format, meshes },
        gone(response),
      );
      const [type, ending] = TYPES[format];
      response.attachment(`${plainName(`${project.name} ${letter} ${name}`, 'option')}.${ending}`).type(type);
      await stream(response, bytes);
    }),
  );

  router.get(
    '/projects/:id/file',
    handle(async (request, response) => {
      const { id, project } = await projectOf(request);
      const meshes = await projectMeshBytes(db, project);
      const bytes = await errands.make(id, { kind: 'file', project, meshes }, gone(response));
      response.attachment(`${plainName(project.name, 'project')}.json`).type('application/json');
      await stream(response, bytes);
    }),
  );

  return router;
}
