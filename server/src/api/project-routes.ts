import { PROJECT_ORDERS } from '@dial-shade/core';
import type { Router } from 'express';
import { z } from 'zod';
import { MAX_FILE_BYTES } from '../jobs/errands';
import { putBlob } from '../store/blobs';
import {
  createProject,
  deleteProject,
  findProjectText,
  hasProject,
  listProjects,
  type ProjectText,
} from '../store/projects';
import { storageOf } from '../store/storage';
import { gone, handle, notFound, page, param, withDocument } from './answers';
import { parsed } from '../parsed';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

const listed = z.object({
  ...page(500),
  search: z.string().max(200).default(''),
  order: z.enum(PROJECT_ORDERS).default('changed'),
});

/** Projects: list, create, bring in, read, delete, follow. */
export function projectRoutes({ db, errands, events }: Services): Router {
  const router = strictRouter();

  router.get(
    '/projects',
    handle(async (request, response) => {
      response.json(await listProjects(db, parsed(listed, request.query)));
    }),
  );

  router.get(
    '/storage',
    handle(async (_request, response) => {
      response.json(await storageOf(db));
    }),
  );

  router.post(
    '/projects',
    handle(async (request, response) => {
      await refuseIfFull(db);
      const body = await readBody(request, response, {
        type: 'application/json',
        limit: MAX_FILE_BYTES,
        room: ROOMS.upload,
      });
      const year = new Date().getFullYear();
      const { document, blobs } = await errands.read({ kind: 'read-new', body, year }, gone(response));
      for (const { hash, kind, bytes } of blobs) await putBlob(db, hash, kind, bytes);
      const { id, revision, text: project } = await createProject(db, document);
      response.status(201).type('json').send(withDocument({ id, revision }, project));
    }),
  );

  router.get(
    '/projects/:id',
    handle(async (request, response) => {
      const { text, ...rest } = await found(param(request, 'id'));
      response.type('json').send(withDocument(rest, text));
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
    '/projects/:id/events',
    handle(async (request, response) => {
      const id = param(request, 'id');
      if (!(await hasProject(db, id))) throw notFound('This project');
      events.attach(id, response);
    }),
  );

  async function found(id: string): Promise<ProjectText> {
    const stored = await findProjectText(db, id);
    if (!stored) throw notFound('This project');
    return stored;
  }

  return router;
}
