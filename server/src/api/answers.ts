import { InputError, isKeepable } from '@dial-shade/core';
import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { log } from '../log';
import { blobLength, blobPieces } from '../store/blobs';
import { type Database, databaseTrouble } from '../store/database';

/** An answer that is not a success: status, stable code, and a sentence that says what to do. */
export class HttpError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

export function notFound(what: string): HttpError {
  return new HttpError(404, 'not-found', `${what} does not exist (any more).`);
}

/** The value of a path parameter. Throws HttpError 404 for text that can name nothing, as what holds a NUL. */
export function param(request: Request, name: string): string {
  const value = String(request.params[name]);
  if (!isKeepable(value)) throw notFound('What this address names');
  return value;
}

/** The fields of a query that ask for a part of a list. */
export function page(most: number) {
  return {
    limit: z.coerce.number().int().min(1).max(most).default(most),
    offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
  };
}

/** A name as part of a file's name: letters, digits, blanks turned to hyphens. */
export function plainName(text: string, otherwise: string): string {
  const plain = text
    .replace(/[^\p{L}\p{N} _-]/gu, '')
    .trim()
    .replace(/\s+/g, '-');
  return plain || otherwise;
}

/** Bytes that are sent at once. */
const CHUNK = 262_144;

/** Sends bytes piece by piece, as fast as they are taken. */
export async function stream(response: Response, bytes: Uint8Array): Promise<void> {
  function* pieces() {
    for (let at = 0; at < bytes.length; at += CHUNK) yield bytes.subarray(at, at + CHUNK);
  }
  response.set('Content-Length', String(bytes.length));
  await pipeline(Readable.from(pieces()), response);
}

/** Time that whoever downloads may keep still. */
const STILL_MS = 60_000;

/** Bytes that are kept under their hash, and what they are. */
export interface BlobSent {
  hash: string;
  /** What it may be stored as. */
  kinds: readonly string[];
  type: string;
  /** False where something else may come to stand under the same address. */
  isLasting?: boolean;
}

/**
 * Sends kept bytes piece by piece, as fast as they are taken; whoever has them already is told so. What is under a hash never
 * changes, so it may be kept for good. Gives whether there are any.
 */
export async function sendBlob(
  db: Database,
  request: Request,
  response: Response,
  { hash, kinds, type, isLasting = true }: BlobSent,
): Promise<boolean> {
  const length = await blobLength(db, hash, kinds);
  if (length === null) return false;
  response
    .type(type)
    .set('ETag', `"${hash}"`)
    .set('Cache-Control', isLasting ? 'private, max-age=31536000, immutable' : 'private, no-cache');
  if (request.fresh) {
    response.status(304).end();
    return true;
  }
  response.set('Content-Length', String(length));
  if (request.method === 'HEAD') {
    response.end();
    return true;
  }
  response.setTimeout(STILL_MS, () => response.destroy());
  await pipeline(
    Readable.from(blobPieces(db, hash, length), { objectMode: false, highWaterMark: 1 }),
    response,
  );
  return true;
}

/** Raised when whoever asked has gone before the answer was whole. */
export function gone(response: Response): AbortSignal {
  const away = new AbortController();
  response.once('close', () => {
    if (!response.writableFinished) away.abort();
  });
  return away.signal;
}

/** JSON of the fields and, last, the document, which is JSON text already. */
export function withDocument(fields: object, text: string): string {
  return `${JSON.stringify(fields).slice(0, -1)},"project":${text}}`;
}

/** Passes the error of an asynchronous handler on. */
export function handle(work: (request: Request, response: Response) => Promise<void>): RequestHandler {
  return (request, response, next) => {
    work(request, response).catch(next);
  };
}

/** When what is busy, or away for the moment, is asked again. */
const RETRY_SECONDS = 2;

/** Every error as an answer: never a stack trace. */
export const answerError: ErrorRequestHandler = (error, request, response, _next) => {
  if (response.headersSent || response.destroyed) {
    response.destroy();
    return;
  }
  const send = (status: number, code: string, message: string, more: object = {}) => {
    if (status === 503) response.set('Retry-After', String(RETRY_SECONDS));
    response.status(status).json({ code, message, ...more });
  };
  const trouble = databaseTrouble(error);
  if (error instanceof HttpError) send(error.status, error.code, error.message, error.more);
  else if (error instanceof InputError) {
    // What is no request at all is told apart from what is understood and cannot be.
    if (error.code === 'json' || error.code === 'request') send(400, error.code, error.message);
    else send(422, error.code, error.message, { problems: error.problems });
  } else if (trouble) send(trouble.status, trouble.code, trouble.sentence);
  else if (error?.type === 'entity.too.large')
    send(413, 'too-large', 'The request is too large; leave out what is far from the site.');
  else if (error?.type === 'encoding.unsupported')
    send(415, 'type', 'Send the request without compression; it is not unpacked here.');
  else if (error?.type === 'entity.parse.failed') send(400, 'json', 'The request is not valid JSON.');
  else if (typeof error?.status === 'number' && error.status < 500)
    send(error.status, 'request', 'The request cannot be read.');
  else {
    log.error({ url: request.url, error: error?.stack }, 'a request failed');
    send(
      500,
      'internal',
      'Something went wrong on the server; its log says what. Nothing of your project was changed.',
    );
  }
};
