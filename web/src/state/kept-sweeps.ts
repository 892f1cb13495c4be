import { contentHash } from '@dial-shade/core';
import { api, ApiError } from './api';
import { notify } from './notice-store';
import { useProject } from './project-store';

/** Hash of what a sweep was run from; models by their own hashes, which the rest names. */
export const sweepSignature = (parts: readonly unknown[]): string =>
  contentHash(parts.filter((part) => !(part instanceof Map)));

/** Lets the server keep a sweep of the open project, in place of the last one under the key. */
export async function keepSweep(key: string, sweep: object): Promise<void> {
  const { id } = useProject.getState();
  if (!id) return;
  try {
    await api.keepSweep(id, key, sweep);
  } catch (error) {
    if (error instanceof ApiError) notify(`The sweep is kept by this page only: ${error.message}`, true);
  }
}

/** The sweep that is kept under a key; null without one, or while the server is away. */
export async function keptSweep(key: string): Promise<Record<string, unknown> | null> {
  const { id } = useProject.getState();
  if (!id) return null;
  const found = await api.sweep(id, key).catch(() => null);
  return useProject.getState().id === id ? (found ?? null) : null;
}
