import { RAD } from '../civil';

/** Ways of drawing the sky flat. */
export type SkyProjection = 'stereographic' | 'equidistant' | 'orthographic' | 'azimuth-altitude';

export const SKY_PROJECTIONS: { projection: SkyProjection; name: string }[] = [
  { projection: 'stereographic', name: 'Stereographic' },
  { projection: 'equidistant', name: 'Equidistant' },
  { projection: 'orthographic', name: 'Orthographic' },
  { projection: 'azimuth-altitude', name: 'Altitude over azimuth' },
];

/**
 * Place of a direction of the sky on a flat chart. The round ones have the zenith in the middle (0, 0), the horizon at
 * radius 1, north up (y 1) and east to the right; with ζ the angle from the zenith the radius is
 * tan(ζ/2) (stereographic, angles are kept), ζ/90° (equidistant), sin ζ (orthographic). Altitude over azimuth: x from −1
 * (`middleDeg` − 180°) to 1, y from 0 at the horizon to 1 at the zenith.
 * @param azimuthDeg clockwise from true north @param middleDeg azimuth in the middle of a chart of altitude over azimuth
 */
export function onSkyChart(
  projection: SkyProjection,
  altitudeDeg: number,
  azimuthDeg: number,
  middleDeg = 180,
): [number, number] {
  if (projection === 'azimuth-altitude') {
    const around = (((azimuthDeg - middleDeg + 180) % 360) + 360) % 360;
    return [around / 180 - 1, altitudeDeg / 90];
  }
  const zenith = 90 - altitudeDeg;
  const radius =
    projection === 'stereographic'
      ? Math.tan((zenith * RAD) / 2)
      : projection === 'equidistant'
        ? zenith / 90
        : Math.sin(Math.min(zenith, 90) * RAD);
  return [radius * Math.sin(azimuthDeg * RAD), radius * Math.cos(azimuthDeg * RAD)];
}
