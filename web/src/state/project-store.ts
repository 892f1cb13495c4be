import type { Project } from '@dial-shade/core';
import { temporal } from 'zundo';
import { create, useStore as useStoreWith } from 'zustand';
import { type Checks, checks } from './checks';
import { notify } from './notice-store';

export type SaveStatus = 'saved' | 'saving' | 'waiting' | 'offline' | 'conflict';

interface ProjectState {
  id: string | null;
  project: Project | null;
  /** What the edit that led to this document is called. */
  editName: string;
  /** The document and revision that the server is known to have. */
  saved: { revision: number; project: Project } | null;
  saveStatus: SaveStatus;
}

type Tracked = Pick<ProjectState, 'project' | 'editName'>;

/** The open project with its undo history. */
export const useProject = create<ProjectState>()(
  temporal(
    (): ProjectState => ({ id: null, project: null, editName: '', saved: null, saveStatus: 'saved' }),
    {
      limit: 200,
      partialize: ({ project, editName }): Tracked => ({ project, editName }),
      equality: (a, b) => a.project === b.project,
    },
  ),
);

/** The open project; only to be used below a page that has loaded it. */
export function useDocument(): Project {
  return useProject((state) => state.project!);
}

/** The open project outside of React. */
export function currentProject(): Project {
  return useProject.getState().project!;
}

const forgetting = new Set<() => void>();

/** Has something forgotten when another project is opened. */
export function forgetWithProject(forget: () => void): void {
  forgetting.add(forget);
}

/** Opens a project and forgets the history of another. */
export function openProject(id: string, revision: number, project: Project): void {
  if (useProject.getState().id !== id) for (const forget of forgetting) forget();
  const { pause, resume, clear } = useProject.temporal.getState();
  pause();
  useProject.setState({ id, project, editName: '', saved: { revision, project }, saveStatus: 'saved' });
  resume();
  clear();
  gesture = unchecked = null;
}

/** What goes on, and the document before it: the last one known to be sound. */
let gesture: { key: string; from: Project } | null = null;

/** The last document known to be sound, where something was changed before the checks had been fetched. */
let unchecked: Project | null = null;

/** What is wrong with a document that an edit made of a sound one; told later where the checks are still to come. */
function problemsSince(from: Project, after: Project): string[] {
  if (checks.here) return checks.here.editProblems(unchecked ?? from, after);
  if (unchecked === null) void checks.fetch().then(checkEdited);
  unchecked ??= from;
  return [];
}

/** Takes back, step by step, what came before the checks and cannot be. */
function checkEdited({ editProblems }: Checks): void {
  // Something that goes on is looked at when it ends.
  if (unchecked === null || gesture !== null) return;
  for (;;) {
    const after = currentProject();
    const found = after === unchecked ? [] : editProblems(unchecked, after);
    if (found.length === 0) break;
    undo();
    if (currentProject() === after) break;
    notify(found[0]!, true);
  }
  unchecked = null;
}

/**
 * Changes the document under a name that undo shows. A change that would make the document unsound is not made; its
 * sentence is returned (and told, unless `quiet`). Edits with the same `gestureKey` become one step of undo.
 */
export function edit(
  name: string,
  change: (project: Project) => Project,
  { gestureKey, quiet = false }: { gestureKey?: string; quiet?: boolean } = {},
): string | null {
  const before = currentProject();
  let after: Project;
  try {
    after = change(before);
  } catch (error) {
    return refuse((error as Error).message, quiet);
  }
  if (after === before) return null;
  if (!gestureKey) {
    const found = problemsSince(gesture?.from ?? before, after);
    if (found.length) return refuse(found[0]!, quiet);
  }
  const history = useProject.temporal.getState();
  const going = gestureKey !== undefined && gesture?.key === gestureKey;
  if (going) history.pause();
  useProject.setState({ project: after, editName: name });
  if (going) history.resume();
  gesture = gestureKey === undefined ? null : { key: gestureKey, from: gesture?.from ?? before };
  return null;
}

/** Whether something is being dragged. */
export function isDragging(): boolean {
  return gesture !== null;
}

/** Ends a gesture; when it led to an unsound document it is taken back and the reason told. */
export function endGesture(): void {
  if (gesture === null) return;
  const found = problemsSince(gesture.from, currentProject());
  gesture = null;
  if (found.length) {
    undo();
    notify(found[0]!, true);
  }
  if (checks.here) checkEdited(checks.here);
}

function refuse(sentence: string, quiet: boolean): string {
  if (!quiet) notify(sentence, true);
  return sentence;
}

/** Name of the step that undo would take back, or null. */
export function useUndoName(): string | null {
  const name = useProject((state) => state.editName);
  const past = useHistory((state) => state.pastStates.length);
  return past > 0 ? name : null;
}

/** Name of the step that redo would bring back, or null. */
export function useRedoName(): string | null {
  return useHistory((state) =>
    state.futureStates.length ? (state.futureStates.at(-1)!.editName ?? '') : null,
  );
}

function useHistory<T>(pick: (state: ReturnType<typeof useProject.temporal.getState>) => T): T {
  return useStoreWith(useProject.temporal, pick);
}

export function undo(): void {
  gesture = null;
  useProject.temporal.getState().undo();
}

export function redo(): void {
  gesture = null;
  useProject.temporal.getState().redo();
}

/**
 * Takes over a newer revision from elsewhere: what changed there is merged into the document at hand and into every step
 * of the history. Gives the places that both sides changed differently; ours are kept there.
 */
export function mergeNewer({ mergeProjects }: Checks, revision: number, theirs: Project) {
  const { project, saved } = useProject.getState();
  const base = saved!.project;
  const { merged, conflicts } = mergeProjects(base, project!, theirs);
  const history = useProject.temporal;
  const rebase = (state: Partial<Tracked>) => ({
    ...state,
    project: mergeProjects(base, state.project!, theirs, { built: false }).merged,
  });
  const { pastStates, futureStates, pause, resume } = history.getState();
  pause();
  useProject.setState({ project: merged, saved: { revision, project: theirs } });
  resume();
  history.setState({ pastStates: pastStates.map(rebase), futureStates: futureStates.map(rebase) });
  return conflicts;
}
