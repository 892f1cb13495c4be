import type { Envelope } from '@dial-shade/core';
import { useEffect } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { newestOnly } from '../state/newest-only';
import { currentProject, isDragging, useDocument } from '../state/project-store';
import { computeAside, computeWith } from '../workers/compute';
import { envelopeParts, useEnvelopes } from './envelope-store';

interface Wish {
  id: string;
  over: 'ground' | 'datum';
}

const meshesNow = () => useMeshes.getState().meshes;

/** A coarse surface while something moves. */
const findCoarse = newestOnly(
  async ({ id, over }: Wish) => await computeWith(currentProject(), meshesNow()).envelope(id, true, over),
  (found) => useEnvelopes.setState({ found, isRefining: true }),
);

/** The whole one once it rests. */
const findFine = newestOnly(
  async ({ id, over }: Wish) => await computeAside(currentProject(), meshesNow()).envelope(id, false, over),
  (found) => useEnvelopes.setState({ found, isRefining: false }),
);

const findBreaches = newestOnly(
  async ({ id, optionId }: { id: string; optionId: string }) =>
    await computeAside(currentProject(), meshesNow()).breaches(id, optionId),
  (of, wish) => useEnvelopes.setState({ breaches: 'refused' in of ? null : { ...wish, of } }),
);

/** How long nothing must move before the whole surface is found. */
const QUIET_MS = 160;

/** Keeps the surface of an envelope, and what an option has over it, true to the model. */
export function useEnvelopeFound(envelope: Envelope | undefined, optionId: string): void {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const contours = useEnvelopes((state) => state.contours);
  const over = contours ?? 'ground';
  const id = envelope?.id ?? null;
  const about = envelopeParts(project, envelope);
  useEffect(() => {
    if (id === null) {
      useEnvelopes.setState({ found: null, breaches: null });
      return;
    }
    const shown = useEnvelopes.getState().found;
    // While it rests the surface at hand stays until the whole one is there.
    if (isDragging() || !shown || 'refused' in shown || shown.id !== id) void findCoarse({ id, over });
    let stop = () => {};
    const rest = () => {
      const timer = setTimeout(() => {
        if (isDragging()) rest();
        else void findFine({ id, over });
      }, QUIET_MS);
      stop = () => clearTimeout(timer);
    };
    rest();
    return () => stop();
    // oxlint-disable-next-line react/exhaustive-deps
  }, [id, over, meshes, ...about]);
  const option = project.options.find((one) => one.id === optionId);
  useEffect(() => {
    if (id === null) return;
    const timer = setTimeout(() => void findBreaches({ id, optionId }), QUIET_MS);
    return () => clearTimeout(timer);
    // oxlint-disable-next-line react/exhaustive-deps
  }, [id, optionId, option, project.options, meshes, ...about]);
}
