import { faceAzimuthDeg, outlineArea } from '../form';
import { type Sector, SECTORS } from '../project';
import type { FittedBody } from './fitted';
import { sectorOf } from './rule';

/** Areas of the outer walls that face a sector, m². */
export interface FacadeAreas {
  /** Walls above the lowest floor without party walls, openings included. */
  facadeM2: number;
  partyM2: number;
  /** Windows, voids and glazed doors. */
  glazedM2: number;
}

/** Wall, party wall and glazed area by sector of true bearing. */
export function facadeAreas(
  bodies: readonly FittedBody[],
  trueNorthDeg: number,
): Record<Sector, FacadeAreas> {
  const areas = Object.fromEntries(
    SECTORS.map((sector) => [sector, { facadeM2: 0, partyM2: 0, glazedM2: 0 }]),
  ) as Record<Sector, FacadeAreas>;
  for (const { faces, byFace, parties } of bodies)
    for (const face of faces) {
      const azimuth = faceAzimuthDeg(face.normal, trueNorthDeg);
      if (face.host.on !== 'wall' || azimuth === null) continue;
      const sum = areas[sectorOf(azimuth)];
      const party = (parties.get(face.key) ?? []).reduce(
        (m2, p) => m2 + (p.u1 - p.u0) * (p.v1 - Math.max(0, p.v0)),
        0,
      );
      sum.partyM2 += party;
      sum.facadeM2 += face.lengthM * face.heightM - party;
      for (const opening of byFace.get(face.key) ?? [])
        if (opening.kind === 'void' || opening.glazing) sum.glazedM2 += outlineArea(opening.outline);
    }
  return areas;
}
