import type { Router } from 'express';
import { z } from 'zod';
import { findProject } from '../store/projects';
import {
  findRun,
  listRuns,
  measuredSpeed,
  requestStop,
  resultBytes,
  resultHash,
  notifyRun,
} from '../store/runs';
import { gone, handle, notFound, page, param, sendBlob, stream } from './answers';
import { readJson } from './bodies';
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

  const missing = () => notFound('A result of this run');
  const resultOf = async (id: string) => {
    const bytes = await resultBytes(db, id);
    if (!bytes) throw missing();
    return bytes;
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
      const body = parsed(newRun, await readJson(request, response));
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
      const id = idOf(request);
      const type = 'application/octet-stream';
      const hash = await resultHash(db, id);
      if (hash) {
        if (!(await sendBlob(db, request, response, { hash, kind: 'result', type }))) throw missing();
        return;
      }
      response.type(type);
      await stream(response, await resultOf(id));
    }),
  );

  router.get(
    '/runs/:run/summary',
    handle(async (request, response) => {
      const id = idOf(request);
      const errand = async () => ({ kind: 'summary', result: await resultOf(id) }) as const;
      const summary = await errands.make(id, errand, gone(response));
      response.type('json');
      await stream(response, summary);
    }),
  );

  router.get(
    '/runs/:run/sensors.csv',
    handle(async (request, response) => {
      const id = idOf(request);
      const errand = async () => ({ kind: 'csv', result: await resultOf(id) }) as const;
      const csv = await errands.make(id, errand, gone(response));
      response.attachment('sensors.csv').type('text/csv');
      await stream(response, csv);
    }),
  );

  return router;
}
