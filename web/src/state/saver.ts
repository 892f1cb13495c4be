import { type Conflict, type Project, sameJson, withTheirs } from '@dial-shade/core';
import { create } from 'zustand';
import { api, type ApiError, type Newer, newerProject } from './api';
import { type Checks, checks } from './checks';
import { notify } from './notice-store';
import { forgetWithProject, mergeNewer, useProject } from './project-store';

interface Conflicts {
  conflicts: Conflict[];
  theirs: Project | null;
  /** What both sides began from: with it the same is asked again where the page or the project is left before the choice. */
  base: Project | null;
}

const NONE: Conflicts = { conflicts: [], theirs: null, base: null };

/** Both sides changed the same objects; waits for a choice. */
export const useConflicts = create<Conflicts>(() => NONE);

const QUIET_MS = 500;
const RETRY_MS = 1500;

let timer: ReturnType<typeof setTimeout> | null = null;
let saving = false;
/** What was sent and may have arrived although its answer did not, the newest last. */
let unanswered: { id: string; project: Project }[] = [];
const MAX_UNANSWERED = 4;

/** What was last open and not saved when its page or its project was left. */
let left: { id: string; project: Project } | null = null;

const unsavedKey = (id: string) => `dial-shade:draft:${id}`;

/** Whether there is work that had not reached the server when the page was closed. */
export function hasUnsaved(id: string): boolean {
  return takeUnsaved(id) !== null;
}

function takeUnsaved(id: string): { revision: number; base: Project; project: Project } | null {
  try {
    return JSON.parse(localStorage.getItem(unsavedKey(id)) ?? 'null') as ReturnType<typeof takeUnsaved>;
  } catch {
    return null;
  }
}

function keepUnsaved(): void {
  const { id, project, saved } = useProject.getState();
  if (!id || !project || !saved || project === saved.project) return;
  left = { id, project };
  writeUnsaved(id, saved.revision, useConflicts.getState().base ?? saved.project, project);
}

function writeUnsaved(id: string, revision: number, base: Project, project: Project): void {
  try {
    localStorage.setItem(unsavedKey(id), JSON.stringify({ revision, base, project }));
  } catch {
    // The page's store is full; the document is still held by the page itself.
  }
}

/** Once something is saved there is no more to be kept of it, unless there was something newer when it was left. */
function noteSaved(id: string, revision: number, project: Project): void {
  if (localStorage.getItem(unsavedKey(id)) === null) return;
  const now = useProject.getState();
  const newest = now.id === id ? now.project! : left?.id === id ? left.project : project;
  if (newest === project) localStorage.removeItem(unsavedKey(id));
  else writeUnsaved(id, revision, project, newest);
}

forgetWithProject(() => useConflicts.setState(NONE));

/** Saves a moment after every change, for as long as the project is open. Returns what ends it. */
export function keepSaved(): () => void {
  useConflicts.setState(NONE);
  const unsubscribe = useProject.subscribe((state, before) => {
    if (state.project === before.project || state.id !== before.id || !state.saved) return;
    if (state.project !== state.saved.project) schedule(QUIET_MS);
  });
  const leave = () => keepUnsaved();
  window.addEventListener('pagehide', leave);
  return () => {
    unsubscribe();
    window.removeEventListener('pagehide', leave);
    // Another project may be opened before this one is saved.
    leave();
    void saveNow();
  };
}

function schedule(ms: number): void {
  if (useProject.getState().saveStatus !== 'conflict' && useProject.getState().saveStatus !== 'offline')
    useProject.setState({ saveStatus: 'waiting' });
  if (timer) clearTimeout(timer);
  timer = setTimeout(() => void saveNow(), ms);
}

/** Saves what is not saved yet; resolves to whether the server has everything. */
export async function saveNow(): Promise<boolean> {
  const { id, project, saved, saveStatus } = useProject.getState();
  if (!id || !project || !saved || saveStatus === 'conflict') return false;
  if (project === saved.project) {
    useProject.setState({ saveStatus: 'saved' });
    return true;
  }
  if (saving) {
    schedule(200);
    return false;
  }
  saving = true;
  unanswered = [...unanswered, { id, project }].slice(-MAX_UNANSWERED);
  if (saveStatus !== 'offline') useProject.setState({ saveStatus: 'saving' });
  try {
    const { revision } = await api.saveProject(id, saved, project);
    if (useProject.getState().id === id) useProject.setState({ saved: { revision, project } });
    unanswered = [];
    noteSaved(id, revision, project);
  } catch (error) {
    await onFailure(error as ApiError, id, saved.project);
    return false;
  } finally {
    saving = false;
    for (const go of waiting.splice(0)) go();
  }
  const now = useProject.getState();
  if (now.project === now.saved?.project) {
    useProject.setState({ saveStatus: 'saved' });
    return true;
  }
  schedule(QUIET_MS);
  return false;
}

/** Those who wait for the end of the save under way. */
const waiting: (() => void)[] = [];

/**
 * Takes over the revision that the server holds, if it is newer. While a save is under way its answer is waited for: the
 * news may be of that very save.
 */
export async function checkRevision(id: string): Promise<void> {
  const { saved: base } = useProject.getState();
  if (!base) return;
  let stored: { revision: number; project: Project };
  try {
    const newer = await api.newer(id, base.revision);
    stored = { revision: newer.revision, project: newerProject(base.project, newer) };
  } catch {
    // Saving says when the server is away.
    return;
  }
  const { saved } = useProject.getState();
  if (saved && stored.revision <= saved.revision) return;
  const merging = await checks.fetch();
  while (saving) await new Promise<void>((resolve) => waiting.push(resolve));
  const state = useProject.getState();
  if (state.id === id && state.saveStatus !== 'conflict') takeNewer(merging, stored.revision, stored.project);
}

async function onFailure(error: ApiError, id: string, base: Project): Promise<void> {
  if (useProject.getState().id !== id) return;
  if (error.code === 'stale') {
    const merging = await checks.fetch();
    if (useProject.getState().id === id)
      takeNewer(merging, error.body.revision as number, newerProject(base, error.body as Newer));
  } else if (error.code === 'too-busy') {
    // It takes its time, and is asked again; nothing is wrong.
    keepUnsaved();
    schedule(RETRY_MS);
  } else if (error.offline) {
    if (useProject.getState().saveStatus !== 'offline') notify(error.message, true);
    useProject.setState({ saveStatus: 'offline' });
    keepUnsaved();
    schedule(RETRY_MS);
  } else {
    useProject.setState({ saveStatus: 'offline' });
    notify(`Not saved: ${error.message}`, true);
    keepUnsaved();
    schedule(RETRY_MS * 4);
  }
}

/**
 * Puts work that had not been saved when the page was closed into the project as it now stands on the server; asks when
 * both changed the same thing.
 */
export function restoreUnsaved({ mergeProjects, parseProject }: Checks, id: string): void {
  const unsaved = takeUnsaved(id);
  if (!unsaved) return;
  const { project } = useProject.getState();
  let base: Project, own: Project;
  try {
    // It may have been kept by an earlier program.
    [base, own] = [parseProject(unsaved.base), parseProject(unsaved.project)];
  } catch (error) {
    notify(
      `Work that had not been saved when the page was closed cannot be read: ${String((error as Error).message)}`,
      true,
    );
    return;
  }
  const { merged, conflicts } = mergeProjects(base, own, project!);
  useProject.setState({ project: merged, editName: 'work from before the page was closed' });
  if (conflicts.length) askFor(conflicts, project!, base);
  else notify('Work that had not been saved when the page was closed is back.');
}

function askFor(conflicts: Conflict[], theirs: Project, base: Project): void {
  useProject.setState({ saveStatus: 'conflict' });
  useConflicts.setState({ conflicts, theirs, base });
  keepUnsaved();
}

/** Merges a newer revision into the open document; asks when both sides changed the same thing. */
export function takeNewer(merging: Checks, revision: number, theirs: Project): void {
  const before = useProject.getState();
  if (before.saved && revision <= before.saved.revision) return;
  const own = unanswered.find(({ id, project }) => id === before.id && sameJson(project, theirs));
  if (own) {
    // Not another page: a save of ours, whose answer was lost on the way.
    unanswered = [];
    useProject.setState({ saved: { revision, project: own.project } });
    schedule(50);
    return;
  }
  const conflicts = mergeNewer(merging, revision, theirs);
  if (conflicts.length) {
    askFor(conflicts, theirs, before.saved!.project);
    return;
  }
  const { project } = useProject.getState();
  if (sameJson(project, theirs)) {
    useProject.setState({ saved: { revision, project: project! }, saveStatus: 'saved' });
    if (before.project !== before.saved?.project || !sameJson(before.project, theirs))
      notify('Changes from another page were taken over.');
  } else {
    notify('Changes from another page were merged with yours.');
    schedule(50);
  }
}

/** Ends a conflict by keeping this page's version of what both changed, or the other's. */
export function resolveConflicts(keep: 'mine' | 'theirs'): void {
  const { theirs, conflicts } = useConflicts.getState();
  useConflicts.setState(NONE);
  useProject.setState({ saveStatus: 'waiting' });
  if (keep === 'theirs' && theirs) {
    const project = withTheirs(useProject.getState().project!, conflicts);
    useProject.setState({ project, editName: 'take the other page’s version' });
  }
  schedule(0);
}
