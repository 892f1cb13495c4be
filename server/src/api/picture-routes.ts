import { isDate, isKeepable, pictureFacts } from '@dial-shade/core';
import type { Router } from 'express';
import { z } from 'zod';
import { parsed } from '../parsed';
import {
  keepPicture,
  keepThumb,
  listPictures,
  MAX_PICTURES,
  pictureBlob,
  removePicture,
} from '../store/pictures';
import { PROJECT_LIMITS } from '../store/storage';
import { handle, HttpError, notFound, page, param, sendBlob } from './answers';
import { readBody, ROOMS } from './bodies';
import type { Services } from './services';
import { refuseIfFull } from './refuse-if-full';
import { strictRouter } from './strict-router';

/** Bytes that a picture and its small copy may have. */
const MAX_PICTURE_BYTES = 96 * 1048576;
const MAX_THUMB_BYTES = 200_000;

const text = (most: number) =>
  z.string().min(1).max(most).refine(isKeepable, { error: 'it holds what cannot be kept' });
const facts = z.object({
  name: text(300),
  option: text(80),
  viewpoint: text(120),
  date: z.string().refine(isDate, { error: 'a date is written YYYY-MM-DD' }),
  minutes: z.coerce.number().min(0).max(1440),
});
const paging = z.object(page(500));
const pictureId = z.uuid({ error: 'a picture is named by a UUID' });

const JPEG = Buffer.from([0xff, 0xd8, 0xff]);

/** Width and height of a PNG, from its header. Throws InputError `picture` for one that is not whole, HttpError for anything else. */
function sizeOfPng(bytes: Buffer): { width: number; height: number } {
  const { type, widthPx, heightPx } = pictureFacts(bytes);
  if (type !== 'png') throw new HttpError(422, 'picture', 'This is no PNG picture.');
  return { width: widthPx, height: heightPx };
}

/** The gallery of a project: keep pictures, list, take out, remove. */
export function pictureRoutes({ db }: Services): Router {
  const router = strictRouter();
  const idOf = (request: Parameters<typeof param>[0]) => parsed(pictureId, param(request, 'picture'));
  const missing = () => notFound('This picture');

  router.post(
    '/projects/:id/pictures',
    handle(async (request, response) => {
      const said = parsed(facts, request.query);
      await refuseIfFull(db);
      const png = await readBody(request, response, {
        type: 'image/png',
        limit: MAX_PICTURE_BYTES,
        room: ROOMS.upload,
      });
      const kept = await keepPicture(db, param(request, 'id'), { ...said, ...sizeOfPng(png) }, png);
      if (!kept) throw notFound('This project');
      if (kept === 'full')
        throw new HttpError(
          422,
          'gallery-full',
          `The gallery holds at most ${MAX_PICTURES.toLocaleString('en')} pictures, and ${PROJECT_LIMITS.pictures / 2 ** 30} GB of them; remove some.`,
        );
      response.status(201).json(kept);
    }),
  );

  router.get(
    '/projects/:id/pictures',
    handle(async (request, response) => {
      const { limit, offset } = parsed(paging, request.query);
      response.json(await listPictures(db, param(request, 'id'), limit, offset));
    }),
  );

  router.put(
    '/pictures/:picture/thumb',
    handle(async (request, response) => {
      const id = idOf(request);
      const jpeg = await readBody(request, response, {
        type: 'image/jpeg',
        limit: MAX_THUMB_BYTES,
        room: ROOMS.upload,
      });
      if (!jpeg.subarray(0, 3).equals(JPEG)) throw new HttpError(422, 'picture', 'This is no JPEG picture.');
      if (!(await keepThumb(db, id, jpeg))) throw missing();
      response.status(204).end();
    }),
  );

  for (const [path, small] of [
    ['/pictures/:picture', false],
    ['/pictures/:picture/thumb', true],
  ] as const)
    router.get(
      path,
      handle(async (request, response) => {
        const found = await pictureBlob(db, idOf(request), small);
        if (!found || !(await sendBlob(db, request, response, found))) throw missing();
      }),
    );

  router.delete(
    '/pictures/:picture',
    handle(async (request, response) => {
      if (!(await removePicture(db, idOf(request)))) throw missing();
      response.status(204).end();
    }),
  );

  return router;
}
