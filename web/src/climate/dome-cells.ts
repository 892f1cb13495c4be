import { BAND_DEG, BANDS, skyVault, type Subdivision } from '@dial-shade/core';

/** Of the horizon. */
export const DOME_RADIUS = 98;

/** Stereographic, seen from below: north up, east to the right, the horizon as the rim. */
function place(altitudeDeg: number, azimuthDeg: number): string {
  const r = DOME_RADIUS * Math.tan(((90 - altitudeDeg) * Math.PI) / 360);
  const a = (azimuthDeg * Math.PI) / 180;
  return `${(r * Math.sin(a)).toFixed(2)} ${(-r * Math.cos(a)).toFixed(2)}`;
}

/** A patch as a path: an annular piece with its sides along azimuths. */
function piece(low: number, high: number, from: number, to: number): string {
  const steps = Math.max(1, Math.ceil((to - from) / 4));
  const along = (altitude: number, backwards: boolean) =>
    Array.from({ length: steps + 1 }, (_, i) =>
      place(altitude, from + ((to - from) * (backwards ? steps - i : i)) / steps),
    );
  // The cap has no inner side.
  return `M${[...along(low, false), ...(high < 90 ? along(high, true) : [])].join('L')}Z`;
}

const made = new Map<Subdivision, { path: string; solidAngle: number }[]>();

/** The patches of the vault in the order of `skyVault`, as paths on a disc of radius 98. */
export function domeCells(subdivision: Subdivision): { path: string; solidAngle: number }[] {
  const known = made.get(subdivision);
  if (known) return known;
  const { solidAngle, altitudeDeg, azimuthDeg, count } = skyVault(subdivision);
  const height = BAND_DEG / subdivision;
  const cells = Array.from({ length: count }, (_, p) => {
    const altitude = altitudeDeg[p]!;
    const zenith = p === count - 1;
    const band = Math.min(BANDS.length - 1, Math.floor(altitude / BAND_DEG));
    const width = zenith ? 360 : 360 / (BANDS[band]! * subdivision);
    const low = zenith ? BANDS.length * BAND_DEG : Math.floor(altitude / height) * height;
    return {
      path: piece(low, zenith ? 90 : low + height, azimuthDeg[p]! - width / 2, azimuthDeg[p]! + width / 2),
      solidAngle: solidAngle[p]!,
    };
  });
  made.set(subdivision, cells);
  return cells;
}
