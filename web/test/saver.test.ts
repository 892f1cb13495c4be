import './browser-stand-in';
import { change, documentChanges, editProject, type Project, remove, withChanges } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { api, ApiError } from '../src/state/api';
import * as checks from '../src/state/document-checks';
import { useNotices } from '../src/state/notice-store';
import { currentProject, edit, openProject, useProject } from '../src/state/project-store';
import {
  checkRevision,
  keepSaved,
  resolveConflicts,
  saveNow,
  restoreUnsaved,
  takeNewer,
  useConflicts,
} from '../src/state/saver';

/** A server that holds one project, for as long as it is not away. */
class Server {
  revision = 1;
  project: Project = kelpLane();
  away = false;
  saves = 0;

  save = (
    _id: string,
    { revision, project: base }: { revision: number; project: Project },
    project: Project,
  ): Promise<{ revision: number }> => {
    if (this.away)
      return Promise.reject(
        new ApiError(503, 'database-away', 'The database cannot be reached at the moment.'),
      );
    if (revision !== this.revision)
      return Promise.reject(
        new ApiError(409, 'stale', 'changed elsewhere', { revision: this.revision, project: this.project }),
      );
    this.saves++;
    // What goes over the wire is what changed.
    this.project = withChanges(this.project, structuredClone(documentChanges(base, project)));
    return Promise.resolve({ revision: ++this.revision });
  };

  /** A save by another page. */
  elsewhere(make: (project: Project) => Project): void {
    this.project = make(this.project);
    this.revision++;
  }
}

let server: Server;
let stop: () => void;
const status = () => useProject.getState().saveStatus;
const kept = () => localStorage.getItem('dial-shade:draft:p');
const settle = () => jest.advanceTimersByTimeAsync(3000);

beforeEach(() => {
  jest.useFakeTimers();
  localStorage.clear();
  server = new Server();
  api.saveProject = server.save;
  openProject('p', 1, kelpLane());
  useConflicts.setState({ conflicts: [], theirs: null, base: null });
  stop = keepSaved();
});

afterEach(async () => {
  stop();
  await settle();
  jest.useRealTimers();
});

test('a change is saved a moment later, several changes at once', async () => {
  edit('rename', editProject({ name: 'One' }));
  expect(status()).toBe('waiting');
  edit('rename', editProject({ name: 'Two' }));
  await settle();
  expect(server.project.name).toBe('Two');
  expect(server.saves).toBe(1);
  expect(status()).toBe('saved');
  expect(useProject.getState().saved!.revision).toBe(2);
});

test('while the server is away work is kept and then saved', async () => {
  server.away = true;
  edit('rename', editProject({ name: 'Kept' }));
  await settle();
  expect(status()).toBe('offline');
  expect(kept()).toContain('"name":"Kept"');
  expect(useNotices.getState().notices.at(-1)!.text).toContain('cannot be reached');
  edit('rename', editProject({ name: 'Kept on' }));
  await settle();
  expect(status()).toBe('offline');
  server.away = false;
  await settle();
  expect(status()).toBe('saved');
  expect(server.project.name).toBe('Kept on');
  expect(kept()).toBeNull();
});

test('while the server has its hands full the page waits, and says nothing of it', async () => {
  let asked = 0;
  api.saveProject = (...said) =>
    asked++ < 2 ? Promise.reject(new ApiError(503, 'too-busy', 'Hands full.')) : server.save(...said);
  const before = useNotices.getState().notices.length;
  edit('rename', editProject({ name: 'Patient' }));
  await jest.advanceTimersByTimeAsync(600);
  expect(status()).toBe('waiting');
  expect(kept()).toContain('"name":"Patient"');
  await settle();
  await settle();
  expect([server.project.name, status(), asked]).toEqual(['Patient', 'saved', 3]);
  expect(useNotices.getState().notices).toHaveLength(before);
  expect(kept()).toBeNull();
});

test('a stale save is merged and saved over the newer revision', async () => {
  server.elsewhere((project) => change('targets', 'garden', { name: 'Plots' })(project));
  edit('rename', editProject({ name: 'Mine' }));
  await settle();
  expect(server.project.name).toBe('Mine');
  expect(server.project.targets[0]!.name).toBe('Plots');
  expect(status()).toBe('saved');
});

describe('a page has no conflict with itself', () => {
  /** Answers to saves and questions, given when the test says. */
  let answers: (() => void)[];
  const held = <T>(value: T) => new Promise<T>((resolve) => answers.push(() => resolve(value)));

  beforeEach(() => {
    answers = [];
    api.saveProject = async (id, base, project) => held(await server.save(id, base, project));
    api.newer = () => Promise.resolve({ revision: server.revision, project: server.project });
  });

  afterEach(async () => {
    for (let i = 0; i < 3; i++) {
      for (const answer of answers.splice(0)) answer();
      await settle();
    }
  });

  test('when it hears of its own save before the answer, and goes on changing the same thing', async () => {
    edit('rename', editProject({ name: 'One' }));
    await jest.advanceTimersByTimeAsync(600);
    expect(server.project.name).toBe('One');
    edit('rename', editProject({ name: 'Two' }));
    const checked = checkRevision('p');
    await jest.advanceTimersByTimeAsync(10);
    expect(status()).toBe('waiting');
    answers.shift()!();
    await checked;
    expect(useConflicts.getState().conflicts).toEqual([]);
    expect(useProject.getState().saved!.revision).toBe(2);
    await settle();
    answers.shift()!();
    await settle();
    expect(server.project.name).toBe('Two');
    expect(status()).toBe('saved');
  });

  test('when the answer to a save is lost', async () => {
    api.saveProject = async (id, base, project) => {
      await server.save(id, base, project);
      throw new ApiError(0, 'offline', 'The server cannot be reached.');
    };
    edit('rename', editProject({ name: 'One' }));
    await jest.advanceTimersByTimeAsync(600);
    expect(server.revision).toBe(2);
    api.saveProject = server.save;
    edit('rename', editProject({ name: 'Two' }));
    await settle();
    expect(useConflicts.getState().conflicts).toEqual([]);
    expect(server.project.name).toBe('Two');
    expect(status()).toBe('saved');
  });

  test('but with another page it has, while a save is under way too', async () => {
    edit('rename', editProject({ name: 'One' }));
    await jest.advanceTimersByTimeAsync(600);
    server.elsewhere((project) => ({ ...project, name: 'Theirs' }));
    edit('rename', editProject({ name: 'Two' }));
    const checked = checkRevision('p');
    answers.shift()!();
    await checked;
    expect(useConflicts.getState().conflicts).toEqual([{ path: ['name'], mine: 'Two', theirs: 'Theirs' }]);
    resolveConflicts('theirs');
    await settle();
    expect(currentProject().name).toBe('Theirs');
  });
});

test('when both changed the same thing, nothing is saved before the choice', async () => {
  server.elsewhere((project) => ({ ...project, name: 'Theirs' }));
  edit('rename', editProject({ name: 'Mine' }));
  await settle();
  expect(status()).toBe('conflict');
  expect(useConflicts.getState().conflicts).toEqual([{ path: ['name'], mine: 'Mine', theirs: 'Theirs' }]);
  expect(await saveNow()).toBe(false);
  expect(server.project.name).toBe('Theirs');
  resolveConflicts('mine');
  await settle();
  expect(server.project.name).toBe('Mine');
  expect(status()).toBe('saved');
});

test('the other’s version can be taken, deep in a list, with the rest of ours kept', async () => {
  server.elsewhere((project) => change('targets', 'garden', { name: 'Theirs' })(project));
  edit('rename a target', change('targets', 'garden', { name: 'Mine', spacingM: 2 }));
  await settle();
  expect(status()).toBe('conflict');
  resolveConflicts('theirs');
  await settle();
  expect(server.project.targets[0]).toMatchObject({ name: 'Theirs', spacingM: 2 });
});

test('a removal against a change is offered, and taking the other’s brings the thing back', async () => {
  server.elsewhere((project) => change('neighbours', 'rope-store', { name: 'Rope hall' })(project));
  edit('remove a neighbour', (project) => ({
    ...project,
    neighbours: project.neighbours.filter((n) => n.id !== 'rope-store'),
  }));
  await settle();
  expect(status()).toBe('conflict');
  resolveConflicts('theirs');
  await settle();
  expect(server.project.neighbours.some((n) => n.name === 'Rope hall')).toBe(true);
});

test('a newer revision is taken over without a save when nothing was changed here', async () => {
  server.elsewhere((project) => ({ ...project, name: 'Theirs' }));
  takeNewer(checks, server.revision, server.project);
  await settle();
  expect(currentProject().name).toBe('Theirs');
  expect(server.saves).toBe(0);
  takeNewer(checks, 1, kelpLane());
  expect(currentProject().name).toBe('Theirs');
});

test('work from before the page was closed comes back; where another page changed the same, it asks', async () => {
  server.away = true;
  edit('rename', editProject({ name: 'Mine' }));
  edit('rename a target', change('targets', 'garden', { name: 'Plots' }));
  await settle();
  server.away = false;
  server.elsewhere((project) => ({ ...project, name: 'Theirs', note: 'seen on site' }));
  openProject('p', server.revision, structuredClone(server.project));
  restoreUnsaved(checks, 'p');
  expect(currentProject()).toMatchObject({ name: 'Mine', note: 'seen on site' });
  expect(currentProject().targets[0]!.name).toBe('Plots');
  expect(status()).toBe('conflict');
  await settle();
  expect(server.project.name).toBe('Theirs');
  resolveConflicts('mine');
  await settle();
  expect(server.project).toMatchObject({ name: 'Mine', note: 'seen on site' });
  expect(kept()).toBeNull();
});

test('a target that one page removes and the other measures is asked about, and either answer can be saved', async () => {
  for (const keep of ['mine', 'theirs'] as const) {
    server = new Server();
    api.saveProject = server.save;
    openProject('p', 1, kelpLane());
    server.elsewhere(remove('targets', 'garden'));
    edit(
      'measure the garden too',
      change('studies', 'courtyards-march', { targets: ['courtyards', 'garden'] }),
    );
    await settle();
    expect(status()).toBe('conflict');
    resolveConflicts(keep);
    await settle();
    expect(status()).toBe('saved');
    expect(server.project.targets.some(({ id }) => id === 'garden')).toBe(keep === 'mine');
    expect(server.project.studies[0]!.targets).toEqual(
      keep === 'mine' ? ['courtyards', 'garden'] : ['courtyards'],
    );
  }
});

test('work that an earlier program kept in the browser is brought to this version and merged', async () => {
  const before = ({ envelopes: _, comparison: __, ...project }: Project) => ({ ...project, version: 6 });
  localStorage.setItem(
    'dial-shade:draft:p',
    JSON.stringify({
      revision: 1,
      base: before(kelpLane()),
      project: before({ ...kelpLane(), name: 'Kept by six' }),
    }),
  );
  restoreUnsaved(checks, 'p');
  await settle();
  expect(status()).toBe('saved');
  expect(server.project).toEqual({ ...kelpLane(), name: 'Kept by six' });
});

test('work that this program cannot read stays where it is, and says why', () => {
  const kept = JSON.stringify({ revision: 1, base: kelpLane(), project: { ...kelpLane(), version: 99 } });
  localStorage.setItem('dial-shade:draft:p', kept);
  restoreUnsaved(checks, 'p');
  expect(currentProject()).toEqual(kelpLane());
  expect(localStorage.getItem('dial-shade:draft:p')).toBe(kept);
  expect(useNotices.getState().notices.at(-1)!.text).toMatch(
    /cannot be read.*version 99.*update the program/,
  );
});

describe('when another project is opened', () => {
  const openAnother = () => {
    stop();
    openProject('q', 1, { ...kelpLane(), name: 'Another' });
    stop = keepSaved();
  };
  const backAgain = () => {
    stop();
    openProject('p', server.revision, structuredClone(server.project));
    stop = keepSaved();
    restoreUnsaved(checks, 'p');
  };

  test('work that the server could not be given is there at the next visit, and is saved then', async () => {
    server.away = true;
    edit('rename', editProject({ name: 'Not sent' }));
    openAnother();
    await settle();
    server.away = false;
    expect(currentProject().name).toBe('Another');
    backAgain();
    expect(currentProject().name).toBe('Not sent');
    await settle();
    expect(server.project.name).toBe('Not sent');
    expect(kept()).toBeNull();
  });

  test('what was changed while a save was under way is not lost, and is no conflict with that save', async () => {
    let answer = () => {};
    api.saveProject = async (id, base, project) => {
      const saved = await server.save(id, base, project);
      return new Promise((resolve) => (answer = () => resolve(saved)));
    };
    edit('rename', editProject({ name: 'Sent' }));
    await jest.advanceTimersByTimeAsync(600);
    edit('rename', editProject({ name: 'Changed on' }));
    openAnother();
    answer();
    api.saveProject = server.save;
    await settle();
    expect(server.project.name).toBe('Sent');
    backAgain();
    expect(useConflicts.getState().conflicts).toEqual([]);
    await settle();
    expect(server.project.name).toBe('Changed on');
    expect(kept()).toBeNull();
  });

  test('its conflicts are not asked about there, and are asked about again here', async () => {
    server.elsewhere((project) => ({ ...project, name: 'Theirs' }));
    edit('rename', editProject({ name: 'Mine' }));
    await settle();
    expect(status()).toBe('conflict');
    openAnother();
    expect(useConflicts.getState().conflicts).toEqual([]);
    expect(status()).toBe('saved');
    await settle();
    backAgain();
    expect(useConflicts.getState().conflicts).toEqual([{ path: ['name'], mine: 'Mine', theirs: 'Theirs' }]);
    resolveConflicts('mine');
    await settle();
    expect(server.project.name).toBe('Mine');
  });
});
