import type { Router } from 'express';
import { resultBytes, resultHash } from '../store/runs';
import { gone, handle, notFound, sendBlob, stream } from './answers';
import { runOf } from './run-routes';
import type { Services } from './services';
import { strictRouter } from './strict-router';

/** What runs have found: as bytes, as a summary, as a table. */
export function resultRoutes({ db, errands }: Services): Router {
  const router = strictRouter();
  const missing = () => notFound('A result of this run');
  const resultOf = async (id: string) => {
    const bytes = await resultBytes(db, id);
    if (!bytes) throw missing();
    return bytes;
  };

  router.get(
    '/runs/:run/result',
    handle(async (request, response) => {
      const id = runOf(request);
      const type = 'application/octet-stream';
      const hash = await resultHash(db, id);
      if (hash) {
        if (!(await sendBlob(db, request, response, { hash, kinds: ['result'], type }))) throw missing();
        return;
      }
      response.type(type);
      await stream(response, await resultOf(id));
    }),
  );

  router.get(
    '/runs/:run/summary',
    handle(async (request, response) => {
      const id = runOf(request);
      const errand = async () => ({ kind: 'summary', result: await resultOf(id) }) as const;
      const summary = await errands.make(id, errand, gone(response));
      response.type('json');
      await stream(response, summary);
    }),
  );

  router.get(
    '/runs/:run/sensors.csv',
    handle(async (request, response) => {
      const id = runOf(request);
      const errand = async () => ({ kind: 'csv', result: await resultOf(id) }) as const;
      const csv = await errands.make(id, errand, gone(response));
      response.attachment('sensors.csv').type('text/csv');
      await stream(response, csv);
    }),
  );

  return router;
}
