import {
  cutText,
  fitOutline,
  newId,
  moveOutline,
  type Opening,
  type OpeningOutline,
  outlineBox,
  type Point2,
} from '@dial-shade/core';

import { type Facade, placeOpening } from './use-facade';

/** The outline with its upper right corner elsewhere. */
export function sized(opening: Opening, to: Point2): OpeningOutline {
  const { u0, v0 } = outlineBox(opening.outline);
  return fitOutline(opening.outline, {
    u0,
    v0,
    u1: Math.max(u0 + 0.1, to[0]),
    v1: Math.max(v0 + 0.1, to[1]),
  });
}

/** A copy of an opening to its right. */
export function copyOpening(facade: Facade, opening: Opening): void {
  const { u0, u1 } = outlineBox(opening.outline);
  const id = newId('opening');
  const outline = moveOutline(opening.outline, u1 - u0 + 0.6, 0);
  placeOpening(
    facade,
    { ...opening, id, name: cutText(`${opening.name} copy`, 80), outline },
    `copy ${opening.name}`,
  );
}

/** How far to the right the middle of the nearest opening on the storey below lies, or null. */
export function below(facade: Facade, opening: Opening): number | null {
  const { host } = opening;
  if (host.on !== 'wall' || host.storey === 0) return null;
  const under = facade.fitted.byFace.get(`wall/${host.ring}/${host.edge}/${host.storey - 1}`) ?? [];
  const middle = (o: OpeningOutline) => {
    const { u0, u1 } = outlineBox(o);
    return (u0 + u1) / 2;
  };
  const own = middle(opening.outline);
  const middles = under.map((o) => middle(o.outline));
  if (middles.length === 0) return null;
  return middles.reduce((best, m) => (Math.abs(m - own) < Math.abs(best - own) ? m : best)) - own;
}

/** Moves an opening over the nearest one below. */
export function alignBelow(facade: Facade, opening: Opening): void {
  const du = below(facade, opening);
  if (du === null) return;
  placeOpening(facade, { ...opening, outline: moveOutline(opening.outline, du, 0) }, `align ${opening.name}`);
}
