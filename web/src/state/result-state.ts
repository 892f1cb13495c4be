import {
  type Project,
  resultFromBytes,
  signature,
  signatureChanges,
  type StudyResult,
} from '@dial-shade/core';
import { useEffect } from 'react';
import { computeWith } from '../workers/compute';
import type { Run } from './api';
import { useMeshes } from './mesh-cache';
import { notify } from './notice-store';
import { currentProject, useDocument, useProject } from './project-store';
import {
  type AtOnceRun,
  isOver,
  keepRun,
  keyOf,
  loadSignature,
  type Runs,
  setAtOnce,
  useRuns,
} from './run-store';

/** How a study of an option stands: the run to show, its result, and what changed since. */
export interface ResultState {
  /** The newest run that waits or works, if any. */
  active: Run | null;
  /** The newest run with something to show. */
  shown: Run | null;
  result: StudyResult | null;
  /** What changed since the shown run, one sentence each; empty when nothing. */
  changes: string[];
  failed: Run | null;
}

/** By the revision of the project that each is of: clocks of page and server need not agree. */
const isNewer = (run: Run | null, than: Run) => run !== null && run.revision > than.revision;

/** What a state is made of; the state stays the same object while these do. */
type Sources = readonly [
  Project,
  readonly Run[],
  Runs['results'],
  AtOnceRun | undefined,
  string | null,
  string,
];

const states = new Map<string, { sources: Sources; state: ResultState }>();
/** Pairs of study and option that are looked at at once, as a comparison of 20 options by 20 studies does. */
const MAX_STATES = 400;

/** The state of a study's result for an option: worked out once, however many parts of the page ask for it. */
export function resultState(...sources: Sources): ResultState {
  const [, , , , studyId, optionId] = sources;
  const key = `${studyId}/${optionId}`;
  const known = states.get(key);
  if (known?.sources.every((part, i) => part === sources[i])) return known.state;
  const state = makeState(...sources);
  states.delete(key);
  states.set(key, { sources, state });
  for (const old of states.keys()) {
    if (states.size <= MAX_STATES) break;
    states.delete(old);
  }
  return state;
}

function makeState(...[project, runs, results, here, studyId, optionId]: Sources): ResultState {
  const own = runs.filter((run) => run.studyId === studyId && run.optionId === optionId);
  const newest = own[0] ?? null;
  // What this page has computed stands for the run that keeps it, until another is newer.
  const mine =
    here && (here.keeping || here.keptAs === newest?.id || !isNewer(newest, here.run)) ? here : null;
  const isAtWork = newest && !isOver(newest);
  const shown = mine?.run ?? own.find((run) => run.hasResult) ?? null;
  const study = project.studies.find((s) => s.id === studyId);
  const then = shown?.signature;
  return {
    active: isAtWork && !mine ? newest : null,
    shown,
    result: mine?.result ?? (shown ? (results[shown.id] ?? null) : null),
    changes: study && then ? signatureChanges(then, signature(project, optionId, study)) : [],
    failed: newest?.status === 'failed' ? newest : null,
  };
}

/** How a study of an option of the open project stands now. */
export function standingOf(project: Project, studyId: string, optionId: string): ResultState {
  const { runs, results, atOnce } = useRuns.getState();
  return resultState(project, runs, results, atOnce[keyOf(studyId, optionId)], studyId, optionId);
}

export function useResultState(studyId: string | null, optionId: string): ResultState {
  const project = useDocument();
  const runs = useRuns((state) => state.runs);
  const results = useRuns((state) => state.results);
  const here = useRuns((state) => (studyId ? state.atOnce[keyOf(studyId, optionId)] : undefined));
  const state = resultState(project, runs, results, here, studyId, optionId);
  const unsigned = state.shown && !state.shown.signature ? state.shown.id : null;
  useEffect(() => {
    if (unsigned) void loadSignature(unsigned);
  }, [unsigned]);
  return state;
}

/**
 * Computes a small study in the page. Gives whether it was small enough, or the sentence that refused it. `coarse` gives
 * the first picture only, for while something is dragged; one that is live may be larger.
 */
export async function runHere(
  studyId: string,
  optionId: string,
  { coarse = false, isLive = false } = {},
): Promise<boolean | { refused: string }> {
  const project = currentProject();
  const projectId = useProject.getState().id!;
  // What is not saved yet is of the revision that it will be saved over.
  const revision = useProject.getState().saved?.revision ?? 0;
  const study = project.studies.find(({ id }) => id === studyId);
  if (!study) return false;
  const found = await computeWith(project, useMeshes.getState().meshes).run(
    optionId,
    studyId,
    coarse,
    isLive,
  );
  if (found === 'too large' || useProject.getState().id !== projectId) return false;
  if ('refused' in found) return found;
  const result = resultFromBytes(found.bytes);
  const { sensors, sensorsDone, rays } = result.summary;
  const run: Run = {
    id: `here:${keyOf(studyId, optionId)}:${performance.now()}`,
    projectId,
    studyId,
    optionId,
    revision,
    status: 'done',
    signature: signature(project, optionId, study),
    sensors,
    sensorsDone,
    rays,
    seconds: found.seconds,
    message: null,
    hasResult: true,
    createdAt: new Date().toISOString(),
  };
  setAtOnce(keyOf(studyId, optionId), () => ({ run, result, keeping: false, keptAs: null }));
  return true;
}

/** Runs a study of an option: a small one at once in the page, and in any case on the server, where it is kept. */
export async function startRun(studyId: string, optionId: string): Promise<void> {
  const projectId = useProject.getState().id;
  const isHere = await runHere(studyId, optionId);
  if (useProject.getState().id !== projectId) return;
  if (typeof isHere === 'object') {
    notify(isHere.refused, true);
    return;
  }
  await keepRun(studyId, optionId, true);
}
