import { faceAzimuthDeg, glassInSun, onFace, sectorOf } from '@dial-shade/core';
import { type Asked, sceneNow } from './scene-now';

/** The glass of one opening at a moment. */
export interface GlassRow {
  /** `OWNER/OPENING`. */
  key: string;
  name: string;
  /** Key of its wall and storey in the body. */
  face: string;
  body: string;
  storey: number | null;
  /** Of the wall it is in; null where that lies level. */
  sector: string | null;
  areaM2: number;
  /** The middle of its pane, and the way that it faces. */
  at: [number, number, number];
  normal: [number, number, number];
  sunlitM2: number;
  /** As it would be without the option's devices. */
  bareM2: number;
}

/** The glass in sun of an option's openings, or of one of them, moment by moment. Throws InputError. */
export function glassRows(asked: Asked, moments: readonly number[], only: string | null): GlassRow[][] {
  const { project, optionId, meshes } = asked;
  const { trueNorthDeg } = project.site.north;
  const scene = sceneNow(asked);
  const keyOf = (owner: string, opening: string) => `${owner}/${opening}`;
  return moments.map((atMs) =>
    glassInSun(project, optionId, meshes, atMs, {
      scene,
      wanted: ({ owner, opening }) => only === null || keyOf(owner.id, opening.id) === only,
    }).map(({ place: { owner, opening, face, box }, areaM2, sunlitM2, bareM2 }) => {
      const azimuth = faceAzimuthDeg(face.normal, trueNorthDeg);
      return {
        key: keyOf(owner.id, opening.id),
        name: opening.name,
        face: face.key,
        body: owner.name,
        storey: face.host.on === 'wall' ? face.host.storey : null,
        sector: azimuth === null ? null : sectorOf(azimuth),
        areaM2,
        at: [...onFace(face, [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2], 0)],
        normal: [...face.normal],
        sunlitM2,
        bareM2,
      };
    }),
  );
}
