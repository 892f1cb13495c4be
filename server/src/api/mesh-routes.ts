import type { Router } from 'express';
import { putBlob } from '../store/blobs';
import { gone, handle, notFound, param, sendBlob } from './answers';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

/** Bytes that a mesh may have. */
const MAX_MESH_BYTES = 160 * 1048576;

/** Meshes by content hash. */
export function meshRoutes({ db, errands }: Services): Router {
  const router = strictRouter();

  router.post(
    '/meshes',
    handle(async (request, response) => {
      await refuseIfFull(db);
      const sent = await readBody(request, response, {
        type: 'application/octet-stream',
        limit: MAX_MESH_BYTES,
        room: ROOMS.upload,
      });
      const errand = { kind: 'read-mesh', body: sent } as const;
      const { hash, triangles, bytes } = await errands.read(errand, gone(response));
      await putBlob(db, hash, 'mesh', bytes);
      response.status(201).json({ hash, triangles });
    }),
  );

  router.get(
    '/meshes/:hash',
    handle(async (request, response) => {
      const hash = param(request, 'hash');
      const isThere = await sendBlob(db, request, response, {
        hash,
        kind: 'mesh',
        type: 'application/octet-stream',
      });
      if (!isThere) throw notFound('This mesh');
    }),
  );

  return router;
}
