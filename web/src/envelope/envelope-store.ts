import {
  change,
  type Edit,
  type Envelope,
  type EnvelopeProof,
  type Project,
  type Breaches,
} from '@dial-shade/core';
import { create } from 'zustand';
import { forgetWithProject } from '../state/project-store';
import type { EnvelopeFound } from '../workers/envelope-work';

/** How the surface of an envelope is drawn. */
export type EnvelopeLook = 'glass' | 'reasons' | 'hidden';

interface EnvelopeState {
  /** Ids of the envelope that is worked on, and the place of what is chosen of it. */
  chosen: string | null;
  kept: number;
  look: EnvelopeLook;
  /** Heights that contours are drawn by; null: none. */
  contours: 'ground' | 'datum' | null;
  /** Whether what sticks out of it is coloured. */
  showsBreaches: boolean;
  found: EnvelopeFound | { refused: string } | null;
  isRefining: boolean;
  breaches: { id: string; optionId: string; of: Breaches } | null;
  /** What tracing said, and of which state of things. */
  proof: { of: EnvelopeProof; about: readonly unknown[] } | null;
}

const NOTHING: EnvelopeState = {
  ...{ chosen: null, kept: 0, look: 'glass', contours: 'ground', showsBreaches: true },
  ...{ found: null, isRefining: false, breaches: null, proof: null },
};

/** What is looked at on the Envelope stage. */
export const useEnvelopes = create<EnvelopeState>(() => NOTHING);
forgetWithProject(() => useEnvelopes.setState(NOTHING));

/** The envelope that is worked on: the one chosen last, or the first. */
export function envelopeInHand(project: Project, chosen: string | null): Envelope | undefined {
  return project.envelopes.find(({ id }) => id === chosen) ?? project.envelopes[0];
}

/** What is chosen of what an envelope keeps. */
export function keptInHand(
  project: Project,
  { chosen, kept }: Pick<EnvelopeState, 'chosen' | 'kept'>,
): { envelope: Envelope; index: number } | null {
  const envelope = envelopeInHand(project, chosen);
  if (!envelope || envelope.keep.length === 0) return null;
  return { envelope, index: Math.min(kept, envelope.keep.length - 1) };
}

/** Changes what an envelope keeps, one thing of it. */
export function withKept(id: string, index: number, fields: Partial<Envelope['keep'][number]>): Edit {
  return (project) => {
    const keep = project.envelopes.find((one) => one.id === id)?.keep ?? [];
    return change('envelopes', id, {
      keep: keep.map((one, k) => (k === index ? { ...one, ...fields } : one)),
    })(project);
  };
}

/** What an envelope depends on: the same objects, the same answer. Always as many. */
export function envelopeParts(project: Project, envelope: Envelope | undefined): readonly unknown[] {
  const { site, areas, targets, neighbours, options } = project;
  const byModel = envelope?.lost === 'leave' || envelope?.keep.some(({ on }) => on === 'target');
  return [
    ...[envelope, site.place, site.north, site.ground, site.boundary, areas, targets],
    ...(byModel ? [neighbours, options] : [null, null]),
  ];
}
