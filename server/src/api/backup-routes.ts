import type { Router } from 'express';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { z } from 'zod';
import { parsed } from '../parsed';
import { backupOf } from '../store/backup';
import { restoreBackup } from '../store/restore';
import { gone, handle, HttpError } from './answers';
import type { Services } from './services';
import { strictRouter } from './strict-router';

/** Time that a backup which comes in may keep still. */
const STILL_MS = 60_000;

const asked = z.object({ existing: z.enum(['refuse', 'keep', 'replace']).default('refuse') });

/** Everything that is kept, taken out and put back. */
export function backupRoutes({ db, errands }: Services): Router {
  const router = strictRouter();

  router.get(
    '/backup',
    handle(async (_request, response) => {
      const day = new Date().toISOString().slice(0, 10);
      response.attachment(`dial-shade-${day}.tar.gz`).type('application/gzip');
      // It is packed for speed: most of it is pictures and results.
      await pipeline(backupOf(db), createGzip({ level: 1 }), response);
    }),
  );

  router.post(
    '/restore',
    handle(async (request, response) => {
      const { existing } = parsed(asked, request.query);
      if (request.headers['content-type'] !== 'application/gzip')
        throw new HttpError(415, 'type', 'Send this as application/gzip.');
      request.setTimeout(STILL_MS, () => request.destroy(new Error('nothing came for a minute')));
      const signal = gone(response);
      const read = (body: Buffer) => errands.read({ kind: 'read-stored', body }, signal);
      response.json(await restoreBackup(db, request, existing, read));
    }),
  );

  return router;
}
