import {
  type Face,
  findBody,
  type FittedBody,
  type Mass,
  type Opening,
  type OpeningOutline,
  openingMisfit,
  openingsIn,
  type OwnerRef,
  type PartyPart,
  reshapeBody,
} from '@dial-shade/core';
import { create } from 'zustand';
import { currentProject, edit, useDocument } from '../state/project-store';
import { setView, useView } from '../state/view-store';

/** The wall or roof face that is worked on: that of the selection. */
export interface Facade {
  owner: OwnerRef;
  body: Pick<Mass, 'id' | 'name' | 'openings' | 'storeys'>;
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

export function useFacade(): Facade | null {
  const project = useDocument();
  const optionId = useView((v) => v.optionId);
  const selection = useView((v) => v.selection);
  const body = selection && findBody(project, selection);
  if (!body || !selection?.face) return null;
  const fitted = openingsIn(project, optionId).fitted(body);
  const face = fitted.faces.find((f) => f.key === selection.face);
  if (!face) return null;
  const owner = { optionId: selection.optionId, id: selection.id };
  return { owner, body, face, fitted, parties: fitted.parties.get(face.key) ?? [] };
}

/** Puts an opening (new, or one that is there already) on its face; where it cannot be, the nearest place is offered. */
export function placeOpening(facade: Facade, opening: Opening, name: string): boolean {
  const { face, owner, parties, body } = facade;
  const others = body.openings.filter(
    (o) => o.id !== opening.id && JSON.stringify(o.host) === JSON.stringify(opening.host),
  );
  const misfit = openingMisfit(face, opening.outline, others, parties);
  if (!misfit) {
    useRefused.setState({ refused: null });
    const refused = edit(
      name,
      reshapeBody(owner, (b) => ({
        ...b,
        openings: b.openings.some((o) => o.id === opening.id)
          ? b.openings.map((o) => (o.id === opening.id ? opening : o))
          : [...b.openings, opening],
      })),
    );
    if (!refused) setView({ opening: opening.id });
    return !refused;
  }
  const { reason, nearest } = misfit;
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
    reshapeBody(owner, (b) => ({ ...b, openings: b.openings.filter((o) => o.id !== openingId) })),
  );
  if (!refused) setView({ opening: null });
}

/** The first glazing type of the project. */
export function plainGlazing(): string {
  return currentProject().glazings[0]!.id;
}
