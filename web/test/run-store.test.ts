import './browser-stand-in';
import {
  editProject,
  InputError,
  moveOwner,
  requireStudy,
  resultToBytes,
  runAtOnce,
  type Project,
  type StudyResult,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { api, ApiError, type Run } from '../src/state/api';
import { currentProject, edit, openProject } from '../src/state/project-store';

/** The worker of the page, without a thread of its own. */
jest.mock('../src/workers/compute', () => ({
  computeWith: (project: Project) => ({
    run(optionId: string, studyId: string, coarse: boolean) {
      try {
        const found = runAtOnce(project, optionId, requireStudy(project, studyId), new Map(), coarse);
        return Promise.resolve(
          found ? { bytes: resultToBytes(found.plan, found.values), seconds: 0.1 } : 'too large',
        );
      } catch (error) {
        return Promise.resolve({ refused: (error as InputError).message });
      }
    },
  }),
}));

import { keptLater } from '../src/state/kept-later';
import { resultState, runHere, startRun } from '../src/state/result-state';
import { followProject, keepRun, loadResult, noteRun, useRuns } from '../src/state/run-store';

const RUN = {
  id: 'r',
  projectId: 'p',
  studyId: 's',
  optionId: 'a',
  revision: 1,
  status: 'running',
  sensors: 100,
  sensorsDone: 40,
  hasResult: true,
} as unknown as Run;

/** Answers that are given one by one, in the order in which they were asked for. */
let asked: ((result: StudyResult) => void)[];
const picture = (name: string) => name as unknown as StudyResult;
const answer = async (name: string) => {
  asked.shift()!(picture(name));
  await new Promise((resolve) => setTimeout(resolve, 0));
};
const shown = () => useRuns.getState().results.r as unknown as string | undefined;
const status = () => useRuns.getState().runs[0]!.status;

beforeEach(() => {
  asked = [];
  openProject('p', 1, kelpLane());
  useRuns.setState({ runs: [RUN], results: {}, raysPerSecond: null });
  jest.spyOn(api, 'result').mockImplementation(() => new Promise((resolve) => asked.push(resolve)));
  jest.spyOn(api, 'speed').mockResolvedValue({ raysPerSecond: 5e6 });
  jest.spyOn(api, 'run').mockImplementation(() => new Promise(() => {}));
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

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

describe('a small study computed in the page', () => {
  const key = 'courtyards-march/b';
  const here = () => useRuns.getState().atOnce[key];

  beforeEach(() => {
    openProject('p', 1, kelpLane());
    useRuns.setState({ runs: [], atOnce: {}, results: {} });
    jest.spyOn(api, 'startRun').mockResolvedValue({
      ...RUN,
      id: 'kept',
      studyId: 'courtyards-march',
      optionId: 'b',
      status: 'queued',
      hasResult: false,
    });
  });

  test('is there at once, is kept by the server, and gives way to what the server has', async () => {
    await startRun('courtyards-march', 'b');
    expect(here()!.result.summary).toMatchObject({ option: 'b', kind: 'sun-hours' });
    expect(here()).toMatchObject({ keptAs: 'kept', keeping: false });
    noteRun({ ...useRuns.getState().runs[0]!, status: 'done', sensorsDone: 100, hasResult: true });
    await answer('the same bytes');
    expect(here()).toBeUndefined();
    expect(useRuns.getState().results.kept).toBe('the same bytes');
  });

  test('stays until the last that the server tells of has come, and where that cannot be had', async () => {
    await startRun('courtyards-march', 'b');
    const run = useRuns.getState().runs[0]!;
    noteRun({ ...run, status: 'running', sensorsDone: 40, hasResult: true });
    noteRun({ ...run, status: 'done', sensorsDone: 100, hasResult: true });
    await Promise.resolve();
    expect(here()).toBeDefined();
    await answer('coarse');
    expect(here()).toBeDefined();
    await answer('the same bytes');
    expect(here()).toBeUndefined();

    jest.useFakeTimers();
    await startRun('courtyards-march', 'b');
    jest.spyOn(api, 'result').mockRejectedValue(new ApiError(0, 'offline', 'Away.'));
    useRuns.setState({ results: {} });
    noteRun({ ...run, status: 'done', sensorsDone: 100, hasResult: true });
    await jest.runAllTimersAsync();
    expect(here()!.keptAs).toBe('kept');
  });

  test('gives way to a run of a later revision and to no other, whatever the clocks say', async () => {
    expect(await runHere('courtyards-march', 'b')).toBe(true);
    const other = (revision: number, createdAt: string) => {
      const run = { ...RUN, id: 'other', studyId: 'courtyards-march', optionId: 'b', status: 'done' } as Run;
      const { runs, results, atOnce } = { ...useRuns.getState(), runs: [{ ...run, revision, createdAt }] };
      return resultState(currentProject(), runs, results, atOnce[key], 'courtyards-march', 'b').shown!.id;
    };
    expect(other(1, '2099-01-01T00:00:00Z')).toMatch(/^here:/);
    expect(other(2, '2001-01-01T00:00:00Z')).toBe('other');
  });

  test('coarse has values at the first sensors only', async () => {
    expect(await runHere('courtyards-march', 'b', { coarse: true })).toBe(true);
    const hours = here()!.result.values.hours!;
    expect(hours.some(Number.isNaN)).toBe(true);
    expect(hours.some((h) => h > 0)).toBe(true);
  });

  test('what is too large is left to the server, what cannot be run is said', async () => {
    const fine = kelpLane();
    fine.targets.forEach((target) => (target.spacingM = 0.5));
    fine.studies[1]!.stepMinutes = 5;
    openProject('p', 1, fine);
    expect(await runHere('garden-season', 'b')).toBe(false);
    const bare = kelpLane();
    bare.studies[0]!.targets = [];
    openProject('p', 1, bare);
    expect(await runHere('courtyards-march', 'b')).toEqual({
      refused: expect.stringContaining('has no target'),
    });
  });

  test('how it stands is worked out once for all who ask, and anew when something of it changes', async () => {
    await runHere('courtyards-march', 'b');
    const ask = (project = currentProject()) => {
      const { runs, results } = useRuns.getState();
      return resultState(project, runs, results, here(), 'courtyards-march', 'b');
    };
    const first = ask();
    expect(first).toMatchObject({ active: null, changes: [], failed: null });
    expect(first.shown).toBe(here()!.run);
    expect(ask()).toBe(first);
    const { id } = currentProject().options.find((option) => option.id === 'b')!.masses[0]!;
    const moved = moveOwner({ optionId: 'b', id }, 1, 0)(currentProject());
    expect(ask(moved).changes).toEqual(['The mass “Court ring” was changed.']);
  });
});

/** The stream of what the server tells, with a hand to say hello. */
let hello = () => {};
beforeEach(() => {
  Object.assign(globalThis, {
    EventSource: class {
      addEventListener = (name: string, heard: () => void) => void (name === 'hello' && (hello = heard));
      close = () => {};
    },
  });
});

describe('the list of runs, when the server says hello', () => {
  const at = (second: number) => new Date(1e12 + 1000 * second).toISOString();
  const run = (id: string, second: number, part: Partial<Run> = {}) =>
    ({ ...RUN, id, createdAt: at(second), hasResult: false, ...part }) as Run;
  let listed: (list: Run[]) => void;
  let stop: () => void;
  const settle = () => new Promise((resolve) => setTimeout(resolve, 0));
  const states = () => useRuns.getState().runs.map(({ id, status }) => `${id} ${status}`);

  beforeEach(() => {
    jest.spyOn(api, 'runs').mockImplementation(() => new Promise((resolve) => (listed = resolve)));
    openProject('p', 1, kelpLane());
    stop = followProject('p');
    hello();
  });
  afterEach(() => stop());

  test('does not set a run going again whose end was told while the list was on its way', async () => {
    noteRun(run('first', 1, { status: 'done' }));
    noteRun(run('begun-since', 3, { status: 'queued' }));
    listed([run('second', 2), run('first', 1)]);
    await settle();
    expect(states()).toEqual(['begun-since queued', 'second running', 'first done']);
  });

  test('keeps what a run depended on, and forgets what the server has let go', async () => {
    const signature = { parts: {} } as unknown as Run['signature'];
    useRuns.setState({ runs: [run('first', 1, { signature }), run('old', 0, { status: 'done' })] });
    listed([run('first', 1, { status: 'done' })]);
    await settle();
    expect(states()).toEqual(['first done']);
    expect(useRuns.getState().runs[0]!.signature).toBe(signature);
  });

  test('fetches the result of a run that ended while nothing could be told', async () => {
    listed([run('r', 1, { hasResult: true })]);
    await settle();
    expect(asked).toHaveLength(0);
    hello();
    listed([run('r', 1, { status: 'done', hasResult: true })]);
    await settle();
    await answer('whole');
    expect(shown()).toBe('whole');
  });
});

test('a run that the server has not answered is asked for again when the server is heard of', async () => {
  openProject('p', 1, kelpLane());
  const start = jest.spyOn(api, 'startRun').mockRejectedValueOnce(new ApiError(0, 'offline', 'Left.'));
  start.mockResolvedValue({ ...RUN, id: 'kept' });
  keptLater.add('q', 'courtyards-march', 'a');
  const stop = followProject('p');
  await startRun('courtyards-march', 'a');
  expect(keptLater.of('p')).toHaveLength(1);
  hello();
  hello();
  while (keptLater.of('p').length > 0) await new Promise((resolve) => setTimeout(resolve, 1));
  expect(start.mock.calls).toEqual(Array(2).fill(['p', 'courtyards-march', 'a']));
  expect(keptLater.of('p')).toEqual([]);
  expect(keptLater.of('q')).toHaveLength(1);
  stop();
});

test('a run that is wished for once more while it is being asked for is asked for anew', async () => {
  let answer = () => {};
  const start = jest
    .spyOn(api, 'startRun')
    .mockImplementationOnce(
      () => new Promise((resolve) => (answer = () => resolve({ ...RUN, id: 'first' }))),
    );
  start.mockResolvedValue({ ...RUN, id: 'second' });
  const first = startRun('courtyards-march', 'a');
  while (start.mock.calls.length === 0) await new Promise((resolve) => setTimeout(resolve, 1));
  expect(start).toHaveBeenCalledTimes(1);
  await startRun('courtyards-march', 'a');
  expect(start).toHaveBeenCalledTimes(1);
  answer();
  await first;
  expect(start).toHaveBeenCalledTimes(2);
  expect(keptLater.of('p')).toEqual([]);
});

test('a run is asked for when its document is saved, however long that takes', async () => {
  jest.useFakeTimers();
  const start = jest.spyOn(api, 'startRun').mockResolvedValue({ ...RUN, id: 'kept' });
  let answer = () => {};
  jest
    .spyOn(api, 'saveProject')
    .mockImplementation(() => new Promise((resolve) => (answer = () => resolve({ revision: 2 }))));
  edit('rename', editProject({ name: 'Changed' }));
  const asking = keepRun('courtyards-march', 'a');
  await jest.advanceTimersByTimeAsync(20_000);
  expect(start).not.toHaveBeenCalled();
  answer();
  await jest.advanceTimersByTimeAsync(500);
  await asking;
  expect(start).toHaveBeenCalledWith('p', 'courtyards-march', 'a');
});

test('the result of a run that is over is asked for again where it could not be had', async () => {
  jest.useFakeTimers();
  const result = jest.spyOn(api, 'result').mockRejectedValue(new ApiError(503, 'too-busy', 'Busy.'));
  noteRun({ ...RUN, status: 'done' });
  await jest.advanceTimersByTimeAsync(400);
  expect(shown()).toBeUndefined();
  result.mockResolvedValue(picture('there'));
  await jest.advanceTimersByTimeAsync(1000);
  expect(shown()).toBe('there');
});

test('what was asked for in a project that was left is not run in the next, and its runs are not shown there', async () => {
  const start = jest.spyOn(api, 'startRun');
  const asking = startRun('courtyards-march', 'a');
  openProject('q', 1, kelpLane());
  useRuns.setState({ runs: [] });
  await asking;
  expect(start).not.toHaveBeenCalled();
  noteRun(RUN);
  expect(useRuns.getState().runs).toEqual([]);
});

test('a run that the server refuses is not asked for again', async () => {
  openProject('p', 1, kelpLane());
  jest.spyOn(api, 'startRun').mockRejectedValue(new ApiError(422, 'project', 'No.'));
  await startRun('courtyards-march', 'a');
  expect(keptLater.of('p')).toEqual([]);
});
