import type { Router } from 'express';
import { z } from 'zod';
import { parsed } from '../parsed';
import { keepSweep, keptSweep } from '../store/sweeps';
import { gone, handle, notFound, param } from './answers';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

/** What a sweep may have at most. */
const MAX_SWEEP_BYTES = 4 * 1_048_576;

const sweepKey = z
  .string()
  .regex(/^[a-z]+(:[a-zA-Z0-9_-]{1,64}){1,3}$/, { error: 'a sweep is named WHAT:ID, as massing:b' });

/** The last sweeps of a project: kept and given back as pages wrote them. */
export function sweepRoutes({ db, errands }: Services): Router {
  const router = strictRouter();

  router.put(
    '/projects/:id/sweeps/:key',
    handle(async (request, response) => {
      const key = parsed(sweepKey, param(request, 'key'));
      await refuseIfFull(db);
      const body = await readBody(request, response, {
        type: 'application/json',
        limit: MAX_SWEEP_BYTES,
        room: ROOMS.save,
      });
      const id = param(request, 'id');
      const { text } = await errands.save(id, { kind: 'read-sweep', body }, gone(response));
      if (!(await keepSweep(db, id, key, text))) throw notFound('This project');
      response.status(204).end();
    }),
  );

  router.get(
    '/projects/:id/sweeps/:key',
    handle(async (request, response) => {
      const key = parsed(sweepKey, param(request, 'key'));
      const text = await keptSweep(db, param(request, 'id'), key);
      if (text === null) response.status(204).end();
      else response.type('json').send(text);
    }),
  );

  return router;
}
