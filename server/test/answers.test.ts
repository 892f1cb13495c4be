import { InputError } from '@dial-shade/core';
import express from 'express';
import request from 'supertest';
import { z } from 'zod';
import { answerError, handle, HttpError, notFound } from '../src/api/answers';
import { parsed } from '../src/parsed';
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

test('a database that cannot is answered with 503 or 507 and what to do, by its SQLSTATE', async () => {
  const by = (code: string) => answerTo(Object.assign(new Error('x'), { code }));
  expect(await by('53100')).toMatchObject({ status: 507, body: { code: 'disk-full' } });
  for (const code of ['53200', '53300', '57014', '40P01', '57P01', 'ECONNREFUSED'])
    expect((await by(code)).status).toBe(503);
  expect((await by('23505')).status).toBe(500);
});

test('what ends again and again is started after pauses that grow, and given up in the end; after a while of life it counts anew', async () => {
  const { patience } = await import('../../scripts/watched.mjs');
  let now = 0;
  const patient = patience(() => now);
  const pauses: (number | null)[] = [];
  while (pauses.at(-1) !== null) {
    patient.started();
    now += 100;
    pauses.push(patient.next());
  }
  const known = pauses.slice(0, -1) as number[];
  expect(known.length).toBeGreaterThan(3);
  expect([...known].sort((a, b) => a - b)).toEqual(known);
  patient.started();
  now += 3_600_000;
  expect(patient.next()).toBe(known[0]);
});
