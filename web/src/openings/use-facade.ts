import {
  editOpenings,
  type Face,
  faceOfOwner,
  findOpenable,
  type FittedBody,
  hostKey,
  type Model,
  type Opening,
  type OpeningOutline,
  openingViolation,
  type OwnerRef,
  type PartyPart,
  partyParts,
} from '@dial-shade/core';
import { create } from 'zustand';
import { useMeshes } from '../state/mesh-cache';
import { currentProject, edit, forgetWithProject, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';
import { useOpenings } from './use-openings';

/** The face of a body or an imported mesh that is worked on: that of the selection. */
export interface Facade {
  owner: OwnerRef;
  body: Pick<Model, 'id' | 'name' | 'openings'>;
  face: Face;
  fitted: FittedBody;
  parties: PartyPart[];
}

/** An opening that was refused, why, and where it could go. */
export interface Refused {
  reason: string;
  nearest: OpeningOutline | null;
  /** Puts it at the nearest place. */
  accept: () => void;
}

export const useRefused = create<{ refused: Refused | null }>(() => ({ refused: null }));
forgetWithProject(() => useRefused.setState({ refused: null }));

export function useFacade(): Facade | null {
  const project = useDocument();
  const meshes = useMeshes((state) => state.meshes);
  const openings = useOpenings(useView((v) => v.optionId));
  const selection = useView((v) => v.selection);
  const body = selection && findOpenable(project, selection);
  const face = selection?.face && faceOfOwner(project, selection, selection.face, meshes);
  if (!body || !face || !openings.all.some((standing) => standing.body === body)) return null;
  const fitted = openings.fitted(body);
  const owner = { optionId: selection.optionId, id: selection.id };
  const parties = partyParts([face], openings.near(body)).get(face.key) ?? [];
  return { owner, body, face, fitted, parties };
}

/** The openings of the face that stand for themselves: no rule made them. */
export function singlesOf({ body, face }: Facade): Opening[] {
  return body.openings.filter((o) => hostKey(o.host) === face.key);
}

/** Puts an opening (new, or one that is there already) on its face; where it cannot be, the nearest place is offered. */
export function placeOpening(facade: Facade, opening: Opening, name: string): boolean {
  const { face, owner, parties } = facade;
  const others = singlesOf(facade).filter((o) => o.id !== opening.id);
  const violation = openingViolation(face, opening.outline, others, parties);
  if (!violation) {
    useRefused.setState({ refused: null });
    const refused = edit(
      name,
      editOpenings(owner, (list) =>
        list.some((o) => o.id === opening.id)
          ? list.map((o) => (o.id === opening.id ? opening : o))
          : [...list, opening],
      ),
    );
    if (!refused) setView({ opening: opening.id });
    return !refused;
  }
  const { reason, nearest } = violation;
  useRefused.setState({
    refused: {
      reason,
      nearest,
      accept: () => {
        if (nearest) placeOpening(facade, { ...opening, outline: nearest }, name);
      },
    },
  });
  return false;
}

/** Takes an opening out of the body that it stands in. */
export function removeOpening(owner: OwnerRef, openingId: string): void {
  const refused = edit(
    'remove an opening',
    editOpenings(owner, (list) => list.filter((o) => o.id !== openingId)),
  );
  if (!refused) setView({ opening: null });
}

/** The first glazing type of the project. */
export function defaultGlazing(): string {
  return currentProject().glazings[0]!.id;
}
