import { budgetProblem } from '@dial-shade/core';
import express, { Router } from 'express';
import { z } from 'zod';
import { parsed } from '../parsed';
import { keepSweep, keptSweep } from '../store/sweeps';
import { handle, HttpError, notFound, param } from './answers';
import type { Services } from './services';
import { strictRouter } from './strict-router';

/** What a sweep may have at most. */
const MAX_SWEEP = '4mb';

const sweep = z.record(z.string(), z.unknown(), { error: 'a sweep is an object' });

const sweepKey = z
  .string()
  .regex(/^[a-z]+(:[a-zA-Z0-9_-]{1,64}){1,3}$/, { error: 'a sweep is named WHAT:ID, as massing:b' });

/** The last sweeps of a project: kept and given back as pages wrote them. */
export function sweepRoutes({ db }: Services): Router {
  const router = strictRouter();

  router.put(
    '/projects/:id/sweeps/:key',
    express.json({ limit: MAX_SWEEP, inflate: false }),
    handle(async (request, response) => {
      const key = parsed(sweepKey, param(request, 'key'));
      const body = parsed(sweep, request.body);
      const problem = budgetProblem(body);
      if (problem) throw new HttpError(422, 'sweep', problem);
      if (!(await keepSweep(db, param(request, 'id'), key, JSON.stringify(body))))
        throw notFound('This project');
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
