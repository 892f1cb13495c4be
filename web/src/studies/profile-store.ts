import type { ProfileLine } from '@dial-shade/core';
import { create } from 'zustand';
import { forgetWithProject } from '../state/project-store';

interface ProfileState {
  /** The line along which results are read; its target by id. */
  line: ProfileLine | null;
  /** A line of which only the first end is set. */
  draft: ProfileLine | null;
  /** How far along the line one looks, metres. */
  atM: number | null;
}

/** The profile that is looked at. It belongs to no result: the same line is read in every option and study. */
export const useProfile = create<ProfileState>(() => ({ line: null, draft: null, atM: null }));
forgetWithProject(() => useProfile.setState({ line: null, draft: null, atM: null }));
