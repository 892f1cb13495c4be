import type { Scene } from '@dial-shade/core';
import { setView, useView } from '../state/view-store';
import { isSelected, ownerKey } from './scene-look';

/** Draws nothing but what is chosen, and the ground; the rest goes on casting its shade. */
export function showOnlyChosen({ owners }: Pick<Scene, 'owners'>): void {
  const { selection, also } = useView.getState();
  const chosen = selection ? [selection, ...also] : [];
  const others = owners.filter(
    (owner) => owner.layer !== 'ground' && !chosen.some((one) => isSelected(owner, one)),
  );
  setView({ hidden: new Set(others.map(ownerKey)) });
}
