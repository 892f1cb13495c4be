import { meshFromBytes } from '@dial-shade/core';
import express, { Router } from 'express';
import { getBlob, putMesh } from '../store/projects';
import { handle, HttpError, notFound, param } from './answers';
import type { Services } from './services';

/** Meshes by content hash. */
export function meshRoutes({ db }: Services): Router {
  const router = Router();

  router.post(
    '/meshes',
    express.raw({ type: 'application/octet-stream', limit: '160mb' }),
    handle(async (request, response) => {
      if (!(request.body instanceof Buffer))
        throw new HttpError(415, 'type', 'Send a mesh as application/octet-stream.');
      const mesh = meshFromBytes(request.body);
      response.status(201).json({ hash: await putMesh(db, mesh), triangles: mesh.triangles.length / 3 });
    }),
  );

  router.get(
    '/meshes/:hash',
    handle(async (request, response) => {
      const bytes = await getBlob(db, param(request, 'hash'), 'mesh');
      if (!bytes) throw notFound('This mesh');
      response
        .type('application/octet-stream')
        .set('Cache-Control', 'public, max-age=31536000, immutable')
        .send(bytes);
    }),
  );

  return router;
}
