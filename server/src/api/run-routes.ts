import type { Router } from 'express';
import { z } from 'zod';
import { findProject } from '../store/projects';
import { findRun, listRuns, measuredSpeed, requestStop, resultBytes, notifyRun } from '../store/runs';
import { gone, handle, notFound, page, param, stream } from './answers';
import { parsed } from '../parsed';
import type { Services } from './services';
import { strictRouter } from './strict-router';

const paging = z.object(page(200));
const newRun = z.object({ study: z.string().min(1).max(80), option: z.string().min(1).max(140) });
const runId = z.uuid({ error: 'a run is named by a UUID' });

/** Runs: ask for one, list, follow, stop, and take out what they found. */
export function runRoutes({ db, jobs, errands }: Services): Router {
  const router = strictRouter();
  const idOf = (request: Parameters<typeof param>[0]) => parsed(runId, param(request, 'run'));

  const resultOf = async (request: Parameters<typeof param>[0]) => {
    const id = idOf(request);
    const bytes = await resultBytes(db, id);
    if (!bytes) throw notFound('A result of this run');
    return { id, bytes };
  };

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
      const body = parsed(newRun, request.body);
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
      const { bytes } = await resultOf(request);
      response.type('application/octet-stream').send(bytes);
    }),
  );

  router.get(
    '/runs/:run/summary',
    handle(async (request, response) => {
      const { id, bytes } = await resultOf(request);
      const summary = await errands.make(id, { kind: 'summary', result: bytes }, gone(response));
      response.type('json');
      await stream(response, summary);
    }),
  );

  router.get(
    '/runs/:run/sensors.csv',
    handle(async (request, response) => {
      const { id, bytes } = await resultOf(request);
      const csv = await errands.make(id, { kind: 'csv', result: bytes }, gone(response));
      response.attachment('sensors.csv').type('text/csv');
      await stream(response, csv);
    }),
  );

  return router;
}
