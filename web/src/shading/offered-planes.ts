import { glazedPlaces, type Option, planeDrawn, planeUnder, type WorthPlane } from '@dial-shade/core';
import { useMemo } from 'react';
import { useMeshes } from '../state/mesh-cache';
import { useDocument } from '../state/project-store';

export const PLANES: Record<string, Offered> = {
  level: {
    name: 'level, over the head',
    plane: { aboveM: 0.2, offM: 0, tiltDeg: 0, sideM: 1, outM: 2, cellM: 0.1 },
  },
  upright: {
    name: 'upright, in front',
    plane: { aboveM: 0.3, offM: 0.8, tiltDeg: 90, sideM: 0.8, outM: 2, cellM: 0.1 },
  },
  slanted: {
    name: 'slanted',
    plane: { aboveM: 0.3, offM: 0, tiltDeg: 30, sideM: 1, outM: 2, cellM: 0.1 },
  },
};

/** A plane that a map may be made on. */
export interface Offered {
  name: string;
  plane: WorthPlane;
  /** The device whose underside it is. */
  without?: string;
}

/** The planes that are offered at a window: those of the list, undersides of what hangs there, and those that were drawn. */
export function usePlanes(option: Option, schemeId: string, chosen: string | null): Record<string, Offered> {
  const project = useDocument();
  const { targets } = project;
  const meshes = useMeshes((state) => state.meshes);
  return useMemo(() => {
    const devices = option.schemes.find(({ id }) => id === schemeId)?.devices ?? [];
    const place = glazedPlaces(project, option.id, meshes)
      .flatMap(({ places }) => places)
      .find(({ owner, opening }) => `${owner.id}/${opening.id}` === chosen);
    const under = devices.flatMap(({ id, name, make }): [string, Offered][] => {
      const plane = planeUnder(make);
      return plane ? [[`under ${id}`, { name: `underside of ${name}`, plane, without: id }]] : [];
    });
    const drawn = targets.flatMap((target): [string, Offered][] => {
      const plane = place && target.kind === 'plane' ? planeDrawn(target, place) : null;
      return plane ? [[`drawn ${target.id}`, { name: `drawn: ${target.name}`, plane }]] : [];
    });
    return { ...PLANES, ...Object.fromEntries([...under, ...drawn]) };
  }, [project, option, schemeId, meshes, chosen, targets]);
}

/** A plane with other numbers, or why it cannot be. */
export function changedPlane(plane: WorthPlane, fields: Partial<WorthPlane>): WorthPlane | string {
  const next = { ...plane, ...fields };
  if (!(next.sideM >= 0 && next.outM > 0 && next.outM <= 20 && next.sideM <= 20)) return 'From 0 to 20 m.';
  if (!(next.cellM >= 0.02 && next.cellM <= 2)) return 'Cells are from 0.02 to 2 m.';
  if (!(Math.abs(next.tiltDeg) <= 90)) return 'From −90 to 90 degrees.';
  if (!(next.offM >= 0 && next.offM <= 20 && Math.abs(next.aboveM) <= 20)) return 'At most 20 m away.';
  return next;
}
