import {
  buildOutline,
  change,
  edgeSetbacks,
  type Edit,
  type Envelope,
  type Point2,
  type Project,
  type Ring,
} from '@dial-shade/core';
import { currentProject } from '../state/project-store';
import { envelopeInHand, useEnvelopes } from './envelope-store';

/** What can be taken hold of on the Envelope stage. */
export type EnvelopeHandle =
  | {
      kind: 'corner';
      at: Point2;
      /** Level on which it lies; null: the ground. */
      levelM: number | null;
      ring: Ring;
      index: number;
      /** What it is a corner of. */
      of: string;
      key: string;
      put: (ring: [number, number][]) => Edit;
    }
  | {
      /** The edge of what may be built on, set back from the outline by so much. */
      kind: 'edge';
      from: Point2;
      to: Point2;
      levelM: null;
      ring: Ring;
      index: number;
      /** Of every edge. */
      setbacksM: readonly number[];
      envelope: Envelope;
    };

/** Handles of the envelope in hand: corners of an outline of its own and of areas that it keeps, edges for setbacks. */
export function envelopeHandles(): EnvelopeHandle[] {
  const project = currentProject();
  const envelope = envelopeInHand(project, useEnvelopes.getState().chosen);
  if (!envelope) return [];
  const handles: EnvelopeHandle[] = [];
  for (const { on, id } of envelope.keep) {
    const area = on === 'area' ? project.areas.find((one) => one.id === id) : undefined;
    if (!area) continue;
    const levelM = area.on.kind === 'level' ? area.on.levelM : null;
    area.outline.forEach((at, index) =>
      handles.push({
        ...{
          kind: 'corner',
          at,
          levelM,
          ring: area.outline,
          index,
          of: area.name,
          key: `area-${area.id}-${index}`,
        },
        put: (outline) => change('areas', area.id, { outline }),
      }),
    );
  }
  const ring = envelope.build ?? project.site.boundary;
  if (!ring) return handles;
  if (envelope.build)
    ring.forEach((at, index) =>
      handles.push({
        ...{
          kind: 'corner',
          at,
          levelM: null,
          ring,
          index,
          of: envelope.name,
          key: `build-${envelope.id}-${index}`,
        },
        put: (build) => change('envelopes', envelope.id, { build }),
      }),
    );
  const setbacksM = edgeSetbacks(envelope, ring.length);
  const inner = innerOf(project, envelope);
  inner?.forEach((from, index) => {
    const to = inner[(index + 1) % inner.length]!;
    handles.push({ kind: 'edge', from, to, levelM: null, ring, index, setbacksM, envelope });
  });
  return handles;
}

/** What may be built on; null where its setbacks leave nothing. */
function innerOf(project: Project, envelope: Envelope): Point2[] | null {
  try {
    return buildOutline(project, envelope);
  } catch {
    return null;
  }
}
