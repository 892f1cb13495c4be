import { emptyProject, meshFromFile, parseProject, parseProjectFile, renameMeshes } from '@dial-shade/core';
import { Router } from 'express';
import { z } from 'zod';
import {
  createProject,
  deleteProject,
  findProject,
  listProjects,
  projectFile,
  putMesh,
  saveProject,
} from '../store/projects';
import { notify } from '../store/runs';
import { handle, HttpError, notFound, param, parsed } from './answers';
import type { Services } from './services';

const newProject = z.union([
  z.object({ project: z.unknown() }).refine((body) => body.project !== undefined, 'give a project or a name'),
  z.object({ name: z.string().trim().min(1).max(80) }),
]);
const save = z.object({ revision: z.number().int().min(1), project: z.unknown() });

/** Projects: list, create, bring in, read, save over a revision, delete, take out as a file. */
export function projectRoutes({ db, events }: Services): Router {
  const router = Router();

  router.get(
    '/projects',
    handle(async (_request, response) => {
      response.json(await listProjects(db));
    }),
  );

  router.post(
    '/projects',
    handle(async (request, response) => {
      const body = parsed(newProject, request.body);
      if ('name' in body) {
        const stored = await createProject(db, emptyProject(body.name, new Date().getFullYear()));
        response.status(201).json(stored);
        return;
      }
      const { project, meshes } = parseProjectFile(body.project);
      const hashes = new Map<string, string>();
      for (const [name, mesh] of Object.entries(meshes))
        hashes.set(name, await putMesh(db, meshFromFile(mesh)));
      response.status(201).json(await createProject(db, renameMeshes(project, hashes)));
    }),
  );

  router.get(
    '/projects/:id',
    handle(async (request, response) => {
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      response.json(stored);
    }),
  );

  router.put(
    '/projects/:id',
    handle(async (request, response) => {
      const body = parsed(save, request.body);
      const project = parseProject(body.project);
      const id = param(request, 'id');
      const saved = await saveProject(db, id, body.revision, project);
      if (saved) {
        await notify(db, { projectId: id, kind: 'revision', revision: saved.revision });
        response.json({ id, revision: saved.revision });
        return;
      }
      const stored = await findProject(db, id);
      if (!stored) throw notFound('This project');
      throw new HttpError(
        409,
        'stale',
        'The project was changed elsewhere since you loaded it; merge your changes with the newer version.',
        {
          revision: stored.revision,
          project: stored.project,
        },
      );
    }),
  );

  router.delete(
    '/projects/:id',
    handle(async (request, response) => {
      if (!(await deleteProject(db, param(request, 'id')))) throw notFound('This project');
      response.status(204).end();
    }),
  );

  router.get(
    '/projects/:id/file',
    handle(async (request, response) => {
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const name =
        stored.project.name
          .replace(/[^\p{L}\p{N} _-]/gu, '')
          .trim()
          .replace(/\s+/g, '-') || 'project';
      response.attachment(`${name}.json`).json(await projectFile(db, stored.project));
    }),
  );

  router.get(
    '/projects/:id/events',
    handle(async (request, response) => {
      events.attach(param(request, 'id'), response);
    }),
  );

  return router;
}
