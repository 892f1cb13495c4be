import type { Ground, MassShape } from '../project';
import { groundAlong, groundLevel } from '../site';
import { normalFootprint, storeyPlate } from './plates';
import { roofShape } from './roof-shape';

/** Levels of a mass in metres: where its walls begin, its lowest floor, its eaves and its highest point. */
export interface MassLevels {
  bottomM: number;
  floorM: number;
  eavesM: number;
  topM: number;
}

/**
 * Levels of a mass. On the ground, the lowest floor stands at the highest ground under its walls (plus the offset) and
 * the walls run down to the lowest; raised, and at a level, walls and floor begin together.
 */
export function massLevels(mass: MassShape, ground: Ground): MassLevels {
  const heights = mass.storeys.reduce((sum, storey) => sum + storey.heightM, 0);
  let floorM: number;
  let bottomM: number;
  if (mass.base.on === 'level') {
    floorM = bottomM = mass.base.levelM;
  } else {
    const levels = groundAlong(ground, (storeyPlate(mass, 0) ?? normalFootprint(mass.footprint)).outer);
    floorM = levels.highM + mass.base.offsetM;
    bottomM = Math.min(levels.lowM, floorM);
  }
  const eavesM = floorM + heights;
  const plate = storeyPlate(mass, mass.storeys.length - 1) ?? normalFootprint(mass.footprint);
  return { bottomM, floorM, eavesM, topM: eavesM + roofShape(plate, mass.roof).topM };
}

/** Level of the floor of a storey, metres. */
export function storeyFloorM(mass: MassShape, ground: Ground, storey: number): number {
  return (
    massLevels(mass, ground).floorM +
    mass.storeys.slice(0, storey).reduce((sum, { heightM }) => sum + heightM, 0)
  );
}

/** Whether a mass stands on the ground rather than over it, at any of its corners within 5 cm. */
export function standsOnGround(mass: MassShape, ground: Ground): boolean {
  const { bottomM } = massLevels(mass, ground);
  return mass.footprint.outer.some((corner) => bottomM <= groundLevel(ground, corner) + 0.05);
}
