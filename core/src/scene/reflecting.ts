import type { Surface } from './piece';

/** What throws light back, by what its reflectance is told for; kept as its number here. */
export const REFLECTING = ['ground', 'facades', 'glass', 'devices', 'crowns'] as const;

export const GROUND = REFLECTING.indexOf('ground');
export const FACADES = REFLECTING.indexOf('facades');
export const GLASS = REFLECTING.indexOf('glass');
export const DEVICES = REFLECTING.indexOf('devices');
export const CROWNS = REFLECTING.indexOf('crowns');

/** What a surface throws light back as, as a number in `REFLECTING`. @param isDevice whether it is of something that shades */
export function reflectingOf({ kind, passing }: Surface, isDevice: boolean): number {
  if (kind === 'ground') return GROUND;
  if (passing?.through === 'leaves') return CROWNS;
  if (isDevice || kind === 'device') return DEVICES;
  return kind === 'glazing' ? GLASS : FACADES;
}
