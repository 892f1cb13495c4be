import { wrap180, wrap360 } from '../civil';
import {
  type Air,
  type EarthPlace,
  type GeocentricSun,
  geocentricSun,
  standardAir,
  type SunPosition,
  topocentricSun,
} from './sun-position';

const DAY = 86_400_000;

/** Geocentric suns at midnight UTC of each day asked for so far; small, and shared by all places. */
const nodes = new Map<number, GeocentricSun>();

function node(day: number): GeocentricSun {
  let sun = nodes.get(day);
  if (!sun) {
    if (nodes.size > 4000) nodes.clear();
    sun = geocentricSun(day * DAY);
    nodes.set(day, sun);
  }
  return sun;
}

/**
 * The geocentric sun by four-point Lagrange interpolation between days, for when thousands of instants are wanted.
 * Agrees with geocentricSun within 2e-6 degrees.
 */
export function interpolatedSun(atMs: number): GeocentricSun {
  const day = Math.floor(atMs / DAY);
  const t = atMs / DAY - day;
  const w0 = (-t * (t - 1) * (t - 2)) / 6;
  const w1 = ((t + 1) * (t - 1) * (t - 2)) / 2;
  const w2 = (-(t + 1) * t * (t - 2)) / 2;
  const w3 = ((t + 1) * t * (t - 1)) / 6;
  const a = node(day - 1);
  const b = node(day);
  const c = node(day + 1);
  const d = node(day + 2);
  const blend = (p: number, q: number, r: number, s: number) => w0 * p + w1 * q + w2 * r + w3 * s;
  const blendAngle = (p: number, q: number, r: number, s: number) =>
    wrap360(q + blend(wrap180(p - q), 0, wrap180(r - q), wrap180(s - q)));
  return {
    rightAscensionDeg: blendAngle(
      a.rightAscensionDeg,
      b.rightAscensionDeg,
      c.rightAscensionDeg,
      d.rightAscensionDeg,
    ),
    longitudeDeg: blendAngle(a.longitudeDeg, b.longitudeDeg, c.longitudeDeg, d.longitudeDeg),
    declinationDeg: blend(a.declinationDeg, b.declinationDeg, c.declinationDeg, d.declinationDeg),
    distanceAu: blend(a.distanceAu, b.distanceAu, c.distanceAu, d.distanceAu),
    equinoxCorrectionDeg: blend(
      a.equinoxCorrectionDeg,
      b.equinoxCorrectionDeg,
      c.equinoxCorrectionDeg,
      d.equinoxCorrectionDeg,
    ),
    equationOfTimeMinutes: blend(
      a.equationOfTimeMinutes,
      b.equationOfTimeMinutes,
      c.equationOfTimeMinutes,
      d.equationOfTimeMinutes,
    ),
  };
}

/** The sun over one place, quick enough for a year of minutes. */
export class SunTrack {
  private readonly air: Air;

  constructor(
    readonly place: EarthPlace,
    air?: Air,
  ) {
    this.air = air ?? standardAir(place.elevationM);
  }

  at(atMs: number): SunPosition {
    return topocentricSun(atMs, interpolatedSun(atMs), this.place, this.air);
  }
}
