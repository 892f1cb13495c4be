import { requireStudy, signature, signatureChanges, type SunHoursResult } from '@dial-shade/core';
import { useMemo } from 'react';
import { create } from 'zustand';
import { api, type Run } from './api';
import { notify } from './notice-store';
import { useDocument, useProject } from './project-store';
import { saveNow, takeNewer } from './saver';

interface Runs {
  /** Newest first. */
  runs: Run[];
  results: Record<string, SunHoursResult>;
  /** Rays a second that the server has lately traced, once it has measured any. */
  raysPerSecond: number | null;
}

export const useRuns = create<Runs>(() => ({ runs: [], results: {}, raysPerSecond: null }));

/** Results that are being fetched; true where something newer has been told of meanwhile. */
const loading = new Map<string, boolean>();

/** Loads the runs of a project and follows them, and its revisions, until the returned function is called. */
export function followProject(projectId: string): () => void {
  useRuns.setState({ runs: [], results: {} });
  const refresh = async () => {
    try {
      const [runs, { raysPerSecond }] = await Promise.all([api.runs(projectId), api.speed()]);
      useRuns.setState({ runs, raysPerSecond });
    } catch {
      // The stream reconnects by itself and asks again.
    }
  };
  const events = new EventSource(`/api/projects/${projectId}/events`);
  events.addEventListener('hello', () => void refresh().then(() => checkRevision(projectId)));
  events.addEventListener('run', (event) => noteRun((JSON.parse(event.data as string) as { run: Run }).run));
  events.addEventListener('revision', () => void checkRevision(projectId));
  return () => events.close();
}

async function checkRevision(projectId: string): Promise<void> {
  try {
    const stored = await api.project(projectId);
    const { saved, saveStatus, id } = useProject.getState();
    if (id !== projectId || !saved || stored.revision <= saved.revision) return;
    if (saveStatus !== 'saving' && saveStatus !== 'conflict') takeNewer(stored.revision, stored.project);
  } catch {
    // Saving says when the server is away.
  }
}

const isOver = ({ status }: Run) => status === 'done' || status === 'stopped' || status === 'failed';

/** Takes over what is told of a run. What was asked for before it ended may arrive after its end was told. */
export function noteRun(run: Run): void {
  const { runs } = useRuns.getState();
  const known = runs.find((other) => other.id === run.id);
  const isLate = known !== undefined && isOver(known) && !isOver(run);
  const merged = isLate ? { ...run, ...known } : { ...known, ...run };
  useRuns.setState({ runs: known ? runs.map((r) => (r.id === run.id ? merged : r)) : [merged, ...runs] });
  if (!known)
    void api
      .run(run.id)
      .then((whole) => noteRun(whole))
      .catch(() => {});
  if (isLate) return;
  if (run.hasResult && run.status !== 'queued' && run.status !== 'failed') void loadResult(run.id, true);
  if (run.status === 'failed' && known?.status !== 'failed') notify(run.message ?? 'The run failed.', true);
  if (run.status === 'done' && known?.status === 'running')
    void api
      .speed()
      .then(({ raysPerSecond }) => useRuns.setState({ raysPerSecond }))
      .catch(() => {});
}

/** Fetches the result of a run once; `again` fetches what is newer, after what is being fetched already. */
export async function loadResult(runId: string, again = false): Promise<void> {
  if (loading.has(runId)) {
    if (again) loading.set(runId, true);
    return;
  }
  if (!again && useRuns.getState().results[runId]) return;
  do {
    loading.set(runId, false);
    try {
      const result = await api.result(runId);
      useRuns.setState(({ results }) => ({ results: { ...results, [runId]: result } }));
    } catch {
      // There is none yet; the next event asks again.
    }
  } while (loading.get(runId));
  loading.delete(runId);
}

/** Saves, then asks the server to run a study of an option. */
export async function startRun(studyId: string, optionId: string): Promise<void> {
  const { id } = useProject.getState();
  for (let i = 0; i < 20 && !(await saveNow()); i++) await new Promise((resolve) => setTimeout(resolve, 150));
  if (useProject.getState().saveStatus !== 'saved') {
    notify('The project is not saved yet, so it cannot be run; try again when the server is back.', true);
    return;
  }
  try {
    noteRun(await api.startRun(id!, studyId, optionId));
  } catch (error) {
    notify((error as Error).message, true);
  }
}

export async function stopRun(runId: string): Promise<void> {
  try {
    noteRun(await api.stopRun(runId));
  } catch (error) {
    notify((error as Error).message, true);
  }
}

/** How a study of an option stands: the run to show, its result, and what changed since. */
export interface ResultState {
  /** The newest run that waits or works, if any. */
  active: Run | null;
  /** The newest run with something to show. */
  shown: Run | null;
  result: SunHoursResult | null;
  /** What changed since the shown run, one sentence each; empty when nothing. */
  changes: string[];
  failed: Run | null;
}

export function useResultState(studyId: string | null, optionId: string): ResultState {
  const project = useDocument();
  const runs = useRuns((state) => state.runs);
  const results = useRuns((state) => state.results);
  return useMemo(() => {
    const own = runs.filter((run) => run.studyId === studyId && run.optionId === optionId);
    const newest = own[0] ?? null;
    const active = newest && (newest.status === 'queued' || newest.status === 'running') ? newest : null;
    const shown = own.find((run) => run.hasResult) ?? null;
    const study = project.studies.find((s) => s.id === studyId);
    const then = shown?.signature;
    const changes =
      study && then
        ? signatureChanges(then, signature(project, optionId, requireStudy(project, study.id)))
        : [];
    return {
      active,
      shown,
      result: shown ? (results[shown.id] ?? null) : null,
      changes,
      failed: newest?.status === 'failed' ? newest : null,
    };
  }, [project, runs, results, studyId, optionId]);
}
