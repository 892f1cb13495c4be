import { InputError } from '../errors';
import { RAD } from '../civil';
import { sunVector } from '../sun';

/** Patches in each band of altitude, upwards; the last is the cap about the zenith. */
export const BANDS = [30, 30, 24, 24, 18, 12, 6] as const;
/** Height of a band, degrees; the cap reaches from 84° to the zenith. */
export const BAND_DEG = 12;

export type Subdivision = 1 | 2 | 4;
export const SUBDIVISIONS: readonly Subdivision[] = [1, 2, 4];

/** The vault in patches. */
export interface SkyVault {
  subdivision: Subdivision;
  count: number;
  /** Of the middle of each patch in altitude and in azimuth, degrees, clockwise from true north. */
  altitudeDeg: Float64Array;
  azimuthDeg: Float64Array;
  /** Steradians; they sum to 2π. */
  solidAngle: Float64Array;
  /** 3 numbers a patch: unit vector towards its centre, project frame. */
  vectors: Float64Array;
}

/**
 * The sky vault in 145 patches (CIE 108-1994: seven bands of 12° and a cap), each below the cap split 2 × 2 or 4 × 4 on
 * request: 577, 2,305. Patches go band by band upwards, in each clockwise from true north, where the first of the 145
 * lies about the north.
 * @param trueNorthDeg clockwise from drawing north to true north
 * Throws InputError `sky` for another subdivision.
 */
export function skyVault(subdivision: Subdivision = 1, trueNorthDeg = 0): SkyVault {
  if (!SUBDIVISIONS.includes(subdivision))
    throw new InputError(
      'sky',
      `A patch of the sky is split into 1, 2 or 4 a side, not ${String(subdivision)}.`,
    );
  const n = subdivision;
  const count = BANDS.reduce((sum, patches) => sum + patches, 0) * n * n + 1;
  const vault: SkyVault = {
    subdivision,
    count,
    altitudeDeg: new Float64Array(count),
    azimuthDeg: new Float64Array(count),
    solidAngle: new Float64Array(count),
    vectors: new Float64Array(count * 3),
  };
  let p = 0;
  const put = (altitudeDeg: number, azimuthDeg: number, solidAngle: number) => {
    vault.altitudeDeg[p] = altitudeDeg;
    vault.azimuthDeg[p] = ((azimuthDeg % 360) + 360) % 360;
    vault.solidAngle[p] = solidAngle;
    vault.vectors.set(sunVector(altitudeDeg, azimuthDeg, trueNorthDeg), p * 3);
    p++;
  };
  const height = BAND_DEG / n;
  BANDS.forEach((patches, band) => {
    const around = patches * n;
    for (let row = 0; row < n; row++) {
      const low = band * BAND_DEG + row * height;
      const solid = (2 * Math.PI * (Math.sin((low + height) * RAD) - Math.sin(low * RAD))) / around;
      for (let i = 0; i < around; i++)
        put(low + height / 2, ((i + 0.5) * 360) / around - 180 / patches, solid);
    }
  });
  put(90, 0, 2 * Math.PI * (1 - Math.sin(BANDS.length * BAND_DEG * RAD)));
  return vault;
}

/** The patch that a direction of the sky lies in. */
export function patchAt({ subdivision: n }: SkyVault, altitudeDeg: number, azimuthDeg: number): number {
  const height = BAND_DEG / n;
  const row = Math.floor(Math.max(0, altitudeDeg) / height);
  const band = Math.floor(row / n);
  let first = 0;
  for (let b = 0; b < Math.min(band, BANDS.length); b++) first += BANDS[b]! * n * n;
  if (band >= BANDS.length) return first;
  const around = BANDS[band]! * n;
  const turned = (((azimuthDeg + 180 / BANDS[band]!) % 360) + 360) % 360;
  return first + (row - band * n) * around + Math.min(around - 1, Math.floor((turned * around) / 360));
}
