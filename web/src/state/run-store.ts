import type { StudyResult } from '@dial-shade/core';
import { create } from 'zustand';
import { api, ApiError, type Run } from './api';
import { notify } from './notice-store';
import { useProject } from './project-store';
import { keptLater } from './kept-later';
import { checkRevision, saveNow } from './saver';

/** A small study that this page has computed itself, until the server has it too. */
export interface AtOnceRun {
  run: Run;
  result: StudyResult;
  /** The server is asked to keep it; with this id, once it has answered. */
  keeping: boolean;
  keptAs: string | null;
}

export interface Runs {
  /** Newest first. */
  runs: Run[];
  /** What this page has computed itself, by study and option. */
  atOnce: Record<string, AtOnceRun>;
  results: Record<string, StudyResult>;
  /** Rays a second that the server has lately traced, once it has measured any. */
  raysPerSecond: number | null;
}

export const useRuns = create<Runs>(() => ({
  runs: [],
  atOnce: {},
  results: {},
  raysPerSecond: null,
}));

/** Results that are being fetched: whether something newer has been told of meanwhile, and when the last of it has come. */
const loading = new Map<string, { again: boolean; end: Promise<void> }>();

/** Loads the runs of a project and follows them, and its revisions, until the returned function is called. */
export function followProject(projectId: string): () => void {
  useRuns.setState({ runs: [], atOnce: {}, results: {} });
  const refresh = async () => {
    // The stream reconnects by itself, says hello and has it asked for again.
    const runs = await api.runs(projectId).catch(() => null);
    if (runs && useProject.getState().id === projectId) takeList(runs);
  };
  const events = new EventSource(`/api/projects/${projectId}/events`);
  events.addEventListener('hello', () => {
    void refresh().then(() => checkRevision(projectId));
    void askSpeed();
    for (const { study, option } of keptLater.of(projectId)) void keepRun(study, option);
  });
  events.addEventListener('run', (event) => noteRun((JSON.parse(event.data as string) as { run: Run }).run));
  events.addEventListener('revision', () => void checkRevision(projectId));
  return () => events.close();
}

/** Whether nothing more is to come of a run. */
export const isOver = ({ status }: Run) => status === 'done' || status === 'stopped' || status === 'failed';

/** What is known of a run after it was told of once more. What was asked for before its end may arrive after its end was told. */
function afterNews(known: Run | undefined, run: Run): Run {
  const isLate = known !== undefined && isOver(known) && !isOver(run);
  return isLate ? { ...run, ...known } : { ...known, ...run };
}

/** Takes over what is told of a run. */
export function noteRun(run: Run): void {
  if (run.projectId !== useProject.getState().id) return;
  const { runs } = useRuns.getState();
  const known = runs.find((other) => other.id === run.id);
  const now = afterNews(known, run);
  useRuns.setState({ runs: known ? runs.map((r) => (r.id === run.id ? now : r)) : [now, ...runs] });
  if (!known)
    void api
      .run(run.id)
      .then((whole) => noteRun(whole))
      .catch(() => {});
  if (now.status !== run.status) return;
  if (run.hasResult && run.status !== 'queued' && run.status !== 'failed') renew(run);
  if (run.status === 'failed' && known?.status !== 'failed') notify(run.message ?? 'The run failed.', true);
  if (run.status === 'done' && known?.status === 'running') void askSpeed();
}

/**
 * Takes over a list of runs, newest first. It was read before it came: a run whose end was told meanwhile stays ended, and
 * those that were begun meanwhile stay. Of those that ended while nothing could be told the result is fetched.
 */
function takeList(list: readonly Run[]): void {
  const { runs } = useRuns.getState();
  const known = new Map(runs.map((run) => [run.id, run]));
  const listed = new Set(list.map(({ id }) => id));
  const since = runs.filter(
    ({ id, createdAt }) => !listed.has(id) && (!list[0] || createdAt >= list[0].createdAt),
  );
  useRuns.setState({ runs: [...since, ...list.map((run) => afterNews(known.get(run.id), run))] });
  for (const run of list) {
    const before = known.get(run.id);
    if (before && !isOver(before) && isOver(run) && run.hasResult) renew(run);
  }
}

/** Fetches the newest result of a run; what this page has computed itself gives way to the last of it. */
function renew({ id, status }: Run): void {
  void loadResult(id, true).then(() => status === 'done' && dropAtOnce(id));
}

async function askSpeed(): Promise<void> {
  const speed = await api.speed().catch(() => null);
  if (speed) useRuns.setState({ raysPerSecond: speed.raysPerSecond });
}

/** Fetches what a run depended on, which lists of runs leave out. */
export async function loadSignature(runId: string): Promise<void> {
  const { signature: found } = await api.run(runId).catch(() => ({ signature: undefined }));
  if (!found) return;
  useRuns.setState(({ runs }) => ({
    runs: runs.map((run) => (run.id === runId ? { ...run, signature: found } : run)),
  }));
}

/**
 * Fetches the result of a run once; `again` fetches what is newer, after what is being fetched already. Ends when the
 * newest has come, or could not be had.
 */
export function loadResult(runId: string, again = false): Promise<void> {
  const going = loading.get(runId);
  if (going) {
    going.again ||= again;
    return going.end;
  }
  if (!again && useRuns.getState().results[runId]) return Promise.resolve();
  const load = { again: false, end: Promise.resolve() };
  loading.set(runId, load);
  load.end = fetchNewest(runId, load);
  return load.end;
}

async function fetchNewest(runId: string, load: { again: boolean }): Promise<void> {
  let tries = 0;
  do {
    load.again = false;
    try {
      const result = await api.result(runId);
      useRuns.setState(({ results }) => ({ results: { ...results, [runId]: result } }));
    } catch {
      // There is none yet, and the next event asks again. Of a run that is over there is no next one.
      const run = useRuns.getState().runs.find(({ id }) => id === runId);
      if (run && isOver(run) && ++tries <= MAX_TRIES) {
        await pause(tries * 300);
        load.again = true;
      }
    }
  } while (load.again);
  loading.delete(runId);
}

/** How often a result is asked for again that is there and could not be had. */
const MAX_TRIES = 5;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What this page has computed is found by this. */
export const keyOf = (studyId: string, optionId: string) => `${studyId}/${optionId}`;

/** Changes what this page has computed of a study and an option. */
export function setAtOnce(key: string, change: (was: AtOnceRun | undefined) => AtOnceRun | undefined): void {
  useRuns.setState(({ atOnce: { [key]: was, ...others } }) => {
    const now = change(was);
    return { atOnce: now ? { ...others, [key]: now } : others };
  });
}

/** The page has from the server what it had computed itself, the same bytes. Where that could not be had it stays. */
function dropAtOnce(runId: string): void {
  if (!useRuns.getState().results[runId]) return;
  for (const [key, { keptAs }] of Object.entries(useRuns.getState().atOnce))
    if (keptAs === runId) setAtOnce(key, () => undefined);
}

/** What is being asked for now, by project, study and option; true where it was asked for again meanwhile. */
const asking = new Map<string, boolean>();

/**
 * Saves, then asks the server to run a study of an option. What the server has not answered, because the page was left or
 * the server is away, is asked for again when the page is back or hears from the server.
 * @param anew whether it is wished for once more even while it is being asked for: what it is of may have changed since
 */
export async function keepRun(studyId: string, optionId: string, anew = false): Promise<void> {
  const projectId = useProject.getState().id!;
  const name = `${projectId}/${keyOf(studyId, optionId)}`;
  keptLater.add(projectId, studyId, optionId);
  if (asking.has(name)) {
    if (anew) asking.set(name, true);
    return;
  }
  try {
    let isKept: boolean;
    do {
      asking.set(name, false);
      isKept = await askToKeep(projectId, studyId, optionId);
    } while (asking.get(name) && useProject.getState().id === projectId);
    if (isKept) keptLater.remove(projectId, studyId, optionId);
  } finally {
    asking.delete(name);
  }
}

/** Saves the open project, however long that takes; gives whether it is saved, which it is not while the server is away. */
async function isSaved(projectId: string): Promise<boolean> {
  while (!(await saveNow())) {
    const { id, saveStatus } = useProject.getState();
    if (id !== projectId || saveStatus === 'offline' || saveStatus === 'conflict') return false;
    await pause(150);
  }
  return useProject.getState().id === projectId;
}

/** Gives whether the server has answered, be it by refusing. */
async function askToKeep(projectId: string, studyId: string, optionId: string): Promise<boolean> {
  const key = keyOf(studyId, optionId);
  const here = useRuns.getState().atOnce[key];
  const note = (change: Partial<AtOnceRun>) =>
    setAtOnce(key, (was) => (was && was.run === here?.run ? { ...was, ...change } : was));
  note({ keeping: true });
  try {
    if (!(await isSaved(projectId))) {
      if (useProject.getState().id !== projectId) return false;
      notify(
        here
          ? 'The result is kept by this page only until the server is back.'
          : 'The project is not saved yet; it is run when the server is back.',
        true,
      );
      return false;
    }
    const run = await api.startRun(projectId, studyId, optionId);
    note({ keptAs: run.id });
    noteRun(run);
    return true;
  } catch (error) {
    notify((error as Error).message, true);
    return !(error instanceof ApiError && error.offline);
  } finally {
    note({ keeping: false });
  }
}

export async function stopRun(runId: string): Promise<void> {
  try {
    noteRun(await api.stopRun(runId));
  } catch (error) {
    notify((error as Error).message, true);
  }
}
