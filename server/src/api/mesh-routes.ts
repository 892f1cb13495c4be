import type { Router } from 'express';
import { getBlob, putBlob } from '../store/projects';
import { gone, handle, notFound, param } from './answers';
import { readBody } from './bodies';
import type { Services } from './services';
import { strictRouter } from './strict-router';

/** Bytes that a mesh may have. */
const MAX_MESH_BYTES = 160 * 1048576;

/** Meshes by content hash. */
export function meshRoutes({ db, errands }: Services): Router {
  const router = strictRouter();

  router.post(
    '/meshes',
    handle(async (request, response) => {
      const sent = await readBody(request, 'application/octet-stream', MAX_MESH_BYTES);
      const errand = { kind: 'read-mesh', body: sent } as const;
      const { hash, triangles, bytes } = await errands.read(errand, gone(response));
      await putBlob(db, hash, 'mesh', bytes);
      response.status(201).json({ hash, triangles });
    }),
  );

  router.get(
    '/meshes/:hash',
    handle(async (request, response) => {
      const bytes = await getBlob(db, param(request, 'hash'), 'mesh');
      if (!bytes) throw notFound('This mesh');
      response
        .type('application/octet-stream')
        .set('Cache-Control', 'private, max-age=31536000, immutable')
        .send(bytes);
    }),
  );

  return router;
}
