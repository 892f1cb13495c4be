import { signature, type Signature, signatureChanges } from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { notify } from '../state/notice-store';
import { currentProject, forgetWithProject } from '../state/project-store';
import { computeWith } from '../workers/compute';
import type { TakesFound } from '../workers/takes-work';

/** Who takes what, of one study of one option, and what it was found from. */
export interface Takes extends TakesFound {
  studyId: string;
  optionId: string;
  from: Signature;
}

interface TakesState {
  takes: Takes | null;
  isAtWork: boolean;
  /** The place whose takers are listed; null: all places together. */
  place: string | null;
  /** Whether the massing is coloured by what it takes. */
  onMassing: boolean;
}

const NOTHING: TakesState = { takes: null, isAtWork: false, place: null, onMassing: false };

export const useTakes = create<TakesState>(() => NOTHING);
forgetWithProject(() => useTakes.setState(NOTHING));

/** Finds who takes what from a study of an option. */
export async function findTakers(studyId: string, optionId: string): Promise<void> {
  const project = currentProject();
  const study = project.studies.find(({ id }) => id === studyId)!;
  const from = signature(project, optionId, study);
  useTakes.setState({ isAtWork: true });
  try {
    const found = await computeWith(project, useMeshes.getState().meshes).takes(optionId, studyId);
    if ('refused' in found) notify(found.refused, true);
    else useTakes.setState({ takes: { ...found, studyId, optionId, from }, place: null });
  } finally {
    useTakes.setState({ isAtWork: false });
  }
}

/** What has changed since it was found, one sentence each. */
export function takesChanges({ studyId, optionId, from }: Takes): string[] {
  const project = currentProject();
  const study = project.studies.find(({ id }) => id === studyId);
  return study ? signatureChanges(from, signature(project, optionId, study)) : ['The study was removed.'];
}
