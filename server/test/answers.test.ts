import { InputError } from '@dial-shade/core';
import express from 'express';
import request from 'supertest';
import { z } from 'zod';
import { answerError, handle, HttpError, notFound, parsed } from '../src/api/answers';
import { projectRoot } from '../src/root';
import { isOffline, whileOffline } from '../src/store/database';

/** The answer to a request whose handler throws. */
async function answerTo(error: unknown) {
  const app = express();
  app.get(
    '/',
    handle(() => Promise.reject(error)),
  );
  app.use(answerError);
  const { status, body } = await request(app).get('/');
  return { status, body };
}

test('errors meant for the user keep their sentence and code', async () => {
  expect(await answerTo(new InputError('study', 'There is none.'))).toEqual({
    status: 422,
    body: { code: 'study', message: 'There is none.', problems: ['There is none.'] },
  });
  expect(await answerTo(notFound('This run'))).toEqual({
    status: 404,
    body: { code: 'not-found', message: 'This run does not exist (any more).' },
  });
  expect(await answerTo(new HttpError(409, 'stale', 'Changed.', { revision: 4 }))).toMatchObject({
    status: 409,
    body: { revision: 4 },
  });
});

test('a database that is away is a 503 that says work is kept', async () => {
  const { status, body } = await answerTo(
    Object.assign(new Error('connect ECONNREFUSED'), { code: 'ECONNREFUSED' }),
  );
  expect(status).toBe(503);
  expect(body.code).toBe('database-away');
  expect(body.message).toContain('your work is kept');
});

test('an unknown error is a 500 without a trace of the inside', async () => {
  const { status, body } = await answerTo(new TypeError('secret at /home/someone/file.ts:3'));
  expect(status).toBe(500);
  expect(JSON.stringify(body)).not.toMatch(/secret|file\.ts/);
});

test('a request that does not fit names the place', () => {
  const schema = z.object({ revision: z.number(), deep: z.object({ name: z.string() }) });
  expect(parsed(schema, { revision: 1, deep: { name: 'x' } })).toEqual({ revision: 1, deep: { name: 'x' } });
  expect(() => parsed(schema, { revision: 1, deep: {} })).toThrow('The request is not right at “deep.name”');
  expect(() => parsed(schema, null)).toThrow('at “its body”');
});

test('what means that the database is away, and what does not', () => {
  for (const code of ['ECONNREFUSED', '57P01', '57P03']) expect(isOffline({ code })).toBe(true);
  expect(isOffline(new Error('Connection terminated unexpectedly'))).toBe(true);
  for (const other of [new Error('syntax error'), { code: '23505' }, null, undefined])
    expect(isOffline(other)).toBe(false);
});

test('work is tried again while the database is away, and only then', async () => {
  let calls = 0;
  const flaky = () => {
    calls++;
    return calls < 3
      ? Promise.reject(Object.assign(new Error('away'), { code: 'ECONNREFUSED' }))
      : Promise.resolve('done');
  };
  expect(await whileOffline(flaky)).toBe('done');
  expect(calls).toBe(3);
  await expect(whileOffline(() => Promise.reject(new Error('wrong question')))).rejects.toThrow(
    'wrong question',
  );
  await expect(
    whileOffline(() => Promise.reject(Object.assign(new Error('away'), { code: 'EPIPE' })), 0),
  ).rejects.toThrow('away');
});

test('the folder of the project is found from below and not from elsewhere', () => {
  const root = projectRoot();
  expect(projectRoot(`${root}/server/src/api`)).toBe(root);
  expect(() => projectRoot('/')).toThrow('No project folder');
});
