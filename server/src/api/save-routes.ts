import type { Router } from 'express';
import { z } from 'zod';
import { DocumentSaver, type Newer } from '../jobs/document-saver';
import { MAX_FILE_BYTES } from '../jobs/errands';
import { parsed } from '../parsed';
import { gone, handle, notFound, param, withDocument } from './answers';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { strictRouter } from './strict-router';

const changesAsked = z.object({ since: z.coerce.number().int().min(1) });

/** Documents saved over a revision, whole or what changed of them, and what became of them since one. */
export function saveRoutes({ db, errands }: Services): Router {
  const router = strictRouter();
  const saver = new DocumentSaver(db, errands);

  for (const method of ['put', 'patch'] as const)
    router[method](
      '/projects/:id',
      handle(async (request, response) => {
        const id = param(request, 'id');
        const body = await readBody(request, response, {
          type: 'application/json',
          limit: MAX_FILE_BYTES,
          room: ROOMS.save,
        });
        const save = method === 'put' ? saver.whole : saver.changes;
        const outcome = await save.call(saver, id, body, gone(response));
        if (!outcome) throw notFound('This project');
        if ('saved' in outcome) {
          response.json({ id, revision: outcome.saved });
          return;
        }
        const message =
          'The project was changed elsewhere since you loaded it; merge your changes with the newer version.';
        response
          .status(409)
          .type('json')
          .send(newerText({ code: 'stale', message }, outcome.newer));
      }),
    );

  router.get(
    '/projects/:id/changes',
    handle(async (request, response) => {
      const { since } = parsed(changesAsked, request.query);
      const newer = await saver.since(param(request, 'id'), since, gone(response));
      if (!newer) throw notFound('This project');
      response.type('json').send(newerText({}, newer));
    }),
  );

  return router;
}

/** A newer document than the one that a page has, as JSON with these fields. */
function newerText(fields: object, newer: Newer): string {
  const { revision } = newer;
  return 'text' in newer
    ? withDocument({ ...fields, revision }, newer.text)
    : `${JSON.stringify({ ...fields, revision }).slice(0, -1)},"changes":${newer.changes}}`;
}
