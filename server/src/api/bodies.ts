import { JsonScan } from '@dial-shade/core';
import type { Request, Response } from 'express';
import { HttpError } from './answers';

/** Room in memory that bodies take together while they come in and are worked on. */
export class BodyRoom {
  private held = 0;

  constructor(private readonly bytes: number) {}

  /** Gives whether so much more fits in; it is held then. */
  take(bytes: number): boolean {
    if (this.held + bytes > this.bytes) return false;
    this.held += bytes;
    return true;
  }

  giveBack(bytes: number): void {
    this.held -= bytes;
  }
}

/** Saves have room that nothing else can fill. */
export const ROOMS = { save: new BodyRoom(384 * 1_048_576), upload: new BodyRoom(512 * 1_048_576) };

/** What a body is, and what it may take. */
export interface BodyWanted {
  type: 'application/json' | 'application/octet-stream' | 'image/png' | 'image/jpeg';
  /** Bytes that it may have. */
  limit: number;
  room: BodyRoom;
  times?: BodyTimes;
}

/** How long a body may keep still, and how long it may take. */
export interface BodyTimes {
  idleMs: number;
  totalMs: number;
}

const TIMES: BodyTimes = { idleMs: 15_000, totalMs: 180_000 };

/**
 * Reads a body as it came, uncompressed. Throws HttpError `type` (415) when it is of another kind or compressed, `too-large`
 * (413) when it has more bytes, or as JSON more values, than may be, `project` (422) when it is JSON that is no document,
 * `slow` (408) when it keeps still or takes too long, and `too-busy` (503) when there is no room beside others.
 */
export async function readBody(request: Request, response: Response, wanted: BodyWanted): Promise<Buffer> {
  const { headers } = request;
  const { type, limit, room, times = TIMES } = wanted;
  if (!headers['content-type']?.toLowerCase().startsWith(type))
    throw new HttpError(415, 'type', `Send this as ${type}.`);
  const encoding = headers['content-encoding'] ?? 'identity';
  if (encoding !== 'identity')
    throw new HttpError(415, 'type', 'Send the request without compression; it is not unpacked here.');
  if (Number(headers['content-length'] ?? 0) > limit) throw tooLarge(limit);

  let taken = 0;
  const hold = (bytes: number) => {
    if (!room.take(bytes))
      throw new HttpError(
        503,
        'too-busy',
        'The server has its hands full at the moment; try again in a little while.',
      );
    taken += bytes;
  };
  // It stays in memory until it has been answered.
  response.once('close', () => room.giveBack(taken));
  const scan = type === 'application/json' ? new JsonScan() : null;
  const chunks: Buffer[] = [];
  let length = 0;
  return new Promise((resolve, reject) => {
    const slow = () => {
      response.set('Connection', 'close');
      end(new HttpError(408, 'slow', 'The request did not come in whole in its time; send it again.'));
    };
    const total = setTimeout(slow, times.totalMs);
    const idle = setTimeout(slow, times.idleMs);
    /** Nothing more is taken: what still comes is let go by. */
    function end(error: unknown): void {
      clearTimeout(total);
      clearTimeout(idle);
      request.off('data', take).off('end', whole).off('close', gone);
      if (!error) return resolve(Buffer.concat(chunks, length));
      chunks.length = 0;
      request.resume();
      reject(error as Error);
    }
    function take(chunk: Buffer): void {
      idle.refresh();
      try {
        length += chunk.length;
        if (length > limit) throw tooLarge(limit);
        hold(chunk.length);
        const problem = scan?.take(chunk);
        if (problem)
          throw new HttpError(problem.code === 'project' ? 422 : 413, problem.code, problem.message);
        chunks.push(chunk);
      } catch (error) {
        end(error);
      }
    }
    const whole = () => end(null);
    const gone = () => end(new HttpError(400, 'request', 'The request ended before it was whole.'));
    request.on('data', take).on('end', whole).on('close', gone);
  });
}

/** A small JSON body, parsed: null where there is none. Throws as `readBody`, and HttpError `json` (400). */
export async function readJson(request: Request, response: Response): Promise<unknown> {
  const body = await readBody(request, response, {
    type: 'application/json',
    limit: 102_400,
    room: ROOMS.save,
  });
  try {
    return JSON.parse(body.toString('utf8')) as unknown;
  } catch {
    throw new HttpError(400, 'json', 'The request is not valid JSON.');
  }
}

function tooLarge(limit: number): HttpError {
  const most = limit < 1_048_576 ? `${Math.floor(limit / 1024)} kB` : `${Math.floor(limit / 1_048_576)} MB`;
  return new HttpError(
    413,
    'too-large',
    `The request has more than ${most}, which is the most that can be sent; leave out what is far from the site.`,
  );
}
