import type { Request } from 'express';
import { HttpError } from './answers';

/** Bytes from which a body is large: such bodies are read one at a time. */
const LARGE_BYTES = 8 * 1048576;
/** Values that a JSON body may hold, counted while it comes in: nothing is parsed before. */
const MAX_VALUES = 30_000_000;
const COMMA = 0x2c;
const BRACE = 0x7b;
const BRACKET = 0x5b;

let turn: Promise<void> = Promise.resolve();

/** Waits until no other large body is being read; gives what is to be called when this one is done with. */
async function takeTurn(): Promise<() => void> {
  const before = turn;
  let done = () => {};
  turn = new Promise((resolve) => (done = resolve));
  await before;
  return done;
}

/**
 * Reads a body as it came, uncompressed, up to a limit. Throws HttpError `type` (415) when it is of another kind or
 * compressed, and `too-large` (413) when it has more bytes, or as JSON more values, than may be.
 */
export async function readBody(
  request: Request,
  type: 'application/json' | 'application/octet-stream' | 'image/png' | 'image/jpeg',
  limit: number,
): Promise<Buffer> {
  const { headers } = request;
  if (!headers['content-type']?.toLowerCase().startsWith(type))
    throw new HttpError(415, 'type', `Send this as ${type}.`);
  const encoding = headers['content-encoding'] ?? 'identity';
  if (encoding !== 'identity')
    throw new HttpError(415, 'type', 'Send the request without compression; it is not unpacked here.');
  const declared = headers['content-length'] === undefined ? null : Number(headers['content-length']);
  if (declared !== null && declared > limit) throw tooLarge(limit);
  const done = declared === null || declared > LARGE_BYTES ? await takeTurn() : () => {};
  try {
    const chunks: Buffer[] = [];
    let length = 0;
    let values = 0;
    for await (const chunk of request as AsyncIterable<Buffer>) {
      length += chunk.length;
      if (length > limit) throw tooLarge(limit);
      if (type === 'application/json')
        for (let i = 0; i < chunk.length; i++) {
          const byte = chunk[i]!;
          if (byte === COMMA || byte === BRACE || byte === BRACKET) values++;
        }
      if (values > MAX_VALUES)
        throw new HttpError(
          413,
          'too-large',
          `The request holds more than ${MAX_VALUES.toLocaleString('en')} values; leave out what is far from the site.`,
        );
      chunks.push(chunk);
    }
    return Buffer.concat(chunks, length);
  } finally {
    done();
  }
}

function tooLarge(limit: number): HttpError {
  return new HttpError(
    413,
    'too-large',
    `The request has more than ${Math.floor(limit / 1048576)} MB, which is the most that can be sent; leave out what is far from the site.`,
  );
}
