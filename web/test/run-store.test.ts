import './browser-stand-in';
import type { SunHoursResult } from '@dial-shade/core';
import { api, type Run } from '../src/state/api';
import { loadResult, noteRun, useRuns } from '../src/state/run-store';

const RUN = {
  id: 'r',
  studyId: 's',
  optionId: 'a',
  status: 'running',
  sensors: 100,
  sensorsDone: 40,
  hasResult: true,
} as unknown as Run;

/** Answers that are given one by one, in the order in which they were asked for. */
let asked: ((result: SunHoursResult) => void)[];
const picture = (name: string) => name as unknown as SunHoursResult;
const answer = async (name: string) => {
  asked.shift()!(picture(name));
  await new Promise((resolve) => setTimeout(resolve, 0));
};
const shown = () => useRuns.getState().results.r as unknown as string | undefined;
const status = () => useRuns.getState().runs[0]!.status;

beforeEach(() => {
  asked = [];
  useRuns.setState({ runs: [RUN], results: {}, raysPerSecond: null });
  jest.spyOn(api, 'result').mockImplementation(() => new Promise((resolve) => asked.push(resolve)));
  jest.spyOn(api, 'speed').mockResolvedValue({ raysPerSecond: 5e6 });
  jest.spyOn(api, 'run').mockImplementation(() => new Promise(() => {}));
});
afterEach(() => jest.restoreAllMocks());

test('a run that ends while a coarse picture is on its way is fetched again', async () => {
  noteRun(RUN);
  expect(asked).toHaveLength(1);
  noteRun({ ...RUN, status: 'done', sensorsDone: 100 });
  expect(asked).toHaveLength(1);
  await answer('coarse');
  expect(shown()).toBe('coarse');
  await answer('whole');
  expect(shown()).toBe('whole');
  expect(asked).toHaveLength(0);
});

test('a picture that cannot be had does not stop the next from being fetched', async () => {
  jest.spyOn(api, 'result').mockRejectedValueOnce(new Error('none yet'));
  await loadResult('r', true);
  expect(shown()).toBeUndefined();
  void loadResult('r', true);
  await answer('whole');
  expect(shown()).toBe('whole');
  await loadResult('r');
  expect(asked).toHaveLength(0);
});

test('what was asked for before a run ended does not set it going again', async () => {
  noteRun({ ...RUN, status: 'done', sensorsDone: 100 });
  await answer('whole');
  noteRun({ ...RUN, status: 'running', sensorsDone: 60 });
  expect(status()).toBe('done');
  expect(useRuns.getState().runs[0]!.sensorsDone).toBe(100);
  expect(asked).toHaveLength(0);
});

test('a run that is queued again after its server went is shown as queued', () => {
  noteRun({ ...RUN, status: 'queued' });
  expect(status()).toBe('queued');
});
