import { DEG, RAD, wrap180 } from '../civil';

/** Shadow angles of the sun on a facade, degrees. */
export interface ShadowAngles {
  /** Horizontal shadow angle: sun azimuth − facade azimuth, −180…180, positive clockwise. */
  hsaDeg: number;
  /** Vertical shadow angle, tan VSA = tan h / cos HSA; null when the sun is not in front of the facade. */
  vsaDeg: number | null;
}

/** @param facadeAzimuthDeg azimuth of the facade's outward normal, clockwise from true north */
export function shadowAngles(
  altitudeDeg: number,
  azimuthDeg: number,
  facadeAzimuthDeg: number,
): ShadowAngles {
  const hsaDeg = wrap180(azimuthDeg - facadeAzimuthDeg);
  const facing = Math.cos(hsaDeg * RAD);
  if (Math.abs(hsaDeg) >= 90) return { hsaDeg, vsaDeg: null };
  return { hsaDeg, vsaDeg: Math.atan2(Math.tan(altitudeDeg * RAD), facing) * DEG };
}
