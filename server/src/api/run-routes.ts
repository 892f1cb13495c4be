import { resultFromBytes, sensorsCsv } from '@dial-shade/core';
import { Router } from 'express';
import { z } from 'zod';
import { findProject } from '../store/projects';
import { findRun, listRuns, measuredSpeed, requestStop, resultBytes, notifyRun } from '../store/runs';
import { gone, handle, notFound, param, parsed } from './answers';
import type { Services } from './services';

const newRun = z.object({ study: z.string().min(1).max(80), option: z.string().min(1).max(80) });
const runId = z.uuid({ error: 'a run is named by a UUID' });

/** Runs: ask for one, list, follow, stop, and take out what they found. */
export function runRoutes({ db, jobs }: Services): Router {
  const router = Router();
  const idOf = (request: Parameters<typeof param>[0]) => parsed(runId, param(request, 'run'));

  router.get(
    '/speed',
    handle(async (_request, response) => {
      response.json({ raysPerSecond: await measuredSpeed(db) });
    }),
  );

  router.get(
    '/projects/:id/runs',
    handle(async (request, response) => {
      response.json(await listRuns(db, param(request, 'id')));
    }),
  );

  router.post(
    '/projects/:id/runs',
    handle(async (request, response) => {
      const body = parsed(newRun, request.body);
      const stored = await findProject(db, param(request, 'id'));
      if (!stored) throw notFound('This project');
      const run = await jobs.submit(stored.id, stored.project, body.option, body.study, gone(response));
      if (!run) throw notFound('This project');
      response.status(201).json(run);
    }),
  );

  router.get(
    '/runs/:run',
    handle(async (request, response) => {
      const run = await findRun(db, idOf(request));
      if (!run) throw notFound('This run');
      response.json(run);
    }),
  );

  router.post(
    '/runs/:run/stop',
    handle(async (request, response) => {
      const run = await requestStop(db, idOf(request));
      if (!run) throw notFound('This run');
      await notifyRun(db, run);
      response.json(run);
    }),
  );

  router.get(
    '/runs/:run/result',
    handle(async (request, response) => {
      const bytes = await resultBytes(db, idOf(request));
      if (!bytes) throw notFound('A result of this run');
      response.type('application/octet-stream').send(bytes);
    }),
  );

  router.get(
    '/runs/:run/summary',
    handle(async (request, response) => {
      const bytes = await resultBytes(db, idOf(request));
      if (!bytes) throw notFound('A result of this run');
      response.json(resultFromBytes(bytes).summary);
    }),
  );

  router.get(
    '/runs/:run/sensors.csv',
    handle(async (request, response) => {
      const bytes = await resultBytes(db, idOf(request));
      if (!bytes) throw notFound('A result of this run');
      const { grid, values } = resultFromBytes(bytes);
      response.attachment('sensors.csv').type('text/csv').send(sensorsCsv(grid, values));
    }),
  );

  return router;
}
