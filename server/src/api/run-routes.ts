import type { Request, Router } from 'express';
import { z } from 'zod';
import { findProject } from '../store/projects';
import { findRun, listRuns, measuredSpeed, requestStop, notifyRun } from '../store/runs';
import { gone, handle, notFound, page, param } from './answers';
import { readJson } from './bodies';
import { parsed } from '../parsed';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

const paging = z.object(page(200));
const newRun = z.object({ study: z.string().min(1).max(80), option: z.string().min(1).max(140) });
const runId = z.uuid({ error: 'a run is named by a UUID' });

/** The run that an address names. Throws InputError `request`. */
export function runOf(request: Request): string {
  return parsed(runId, param(request, 'run'));
}

/** Runs: ask for one, list, follow, stop. */
export function runRoutes({ db, jobs }: Services): Router {
  const router = strictRouter();

  router.get(
    '/speed',
    handle(async (_request, response) => {
      response.json({ raysPerSecond: await measuredSpeed(db) });
    }),
  );

  router.get(
    '/projects/:id/runs',
    handle(async (request, response) => {
      const id = param(request, 'id');
      const { limit, offset } = parsed(paging, request.query);
      response.json(await listRuns(db, id, limit, offset));
    }),
  );

  router.post(
    '/projects/:id/runs',
    handle(async (request, response) => {
      const body = parsed(newRun, await readJson(request, response));
      await refuseIfFull(db);
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const run = await jobs.submit(stored, body.option, body.study, gone(response));
      if (!run) throw notFound('This project');
      response.status(201).json(run);
    }),
  );

  router.get(
    '/runs/:run',
    handle(async (request, response) => {
      const run = await findRun(db, runOf(request));
      if (!run) throw notFound('This run');
      response.json(run);
    }),
  );

  router.post(
    '/runs/:run/stop',
    handle(async (request, response) => {
      const run = await requestStop(db, runOf(request));
      if (!run) throw notFound('This run');
      await notifyRun(db, run);
      response.json(run);
    }),
  );

  return router;
}
