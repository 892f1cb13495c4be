import { MAX_UNDERLAY_BYTES } from '@dial-shade/core';
import type { Router } from 'express';
import { PICTURE_KINDS, putBlob } from '../store/blobs';
import { gone, handle, notFound, param, sendBlob } from './answers';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

/** What documents name by its content hash: where it is sent and got, what it is stored as, how it is read and how large it may be. */
const BLOBS = [
  {
    path: '/meshes',
    what: 'This mesh',
    kinds: ['mesh'],
    errand: 'read-mesh',
    limit: 160 * 1048576,
  },
  {
    path: '/underlays',
    what: 'This picture',
    kinds: PICTURE_KINDS,
    errand: 'read-underlay',
    limit: MAX_UNDERLAY_BYTES,
  },
] as const;

/** Meshes, and pictures for the ground, by content hash; taken and given as plain bytes, so that no browser shows them as a page. */
export function blobRoutes({ db, errands }: Services): Router {
  const router = strictRouter();
  for (const { path, what, kinds, errand, limit } of BLOBS) {
    router.post(
      path,
      handle(async (request, response) => {
        await refuseIfFull(db);
        const body = await readBody(request, response, {
          type: 'application/octet-stream',
          limit,
          room: ROOMS.upload,
        });
        const { bytes, ...told } = await errands.read({ kind: errand, body }, gone(response));
        await putBlob(db, told.hash, kinds[0], bytes);
        response.status(201).json(told);
      }),
    );

    router.get(
      `${path}/:hash`,
      handle(async (request, response) => {
        const hash = param(request, 'hash');
        const isThere = await sendBlob(db, request, response, {
          hash,
          kinds,
          type: 'application/octet-stream',
        });
        if (!isThere) throw notFound(what);
      }),
    );
  }
  return router;
}
