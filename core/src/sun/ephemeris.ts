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
  const blend = (of: (sun: GeocentricSun) => number) => w0 * of(a) + w1 * of(b) + w2 * of(c) + w3 * of(d);
  const blendAngle = (of: (sun: GeocentricSun) => number) => {
    const origin = of(b);
    return wrap360(origin + blend((sun) => wrap180(of(sun) - origin)));
  };
  return {
    rightAscensionDeg: blendAngle((sun) => sun.rightAscensionDeg),
    longitudeDeg: blendAngle((sun) => sun.longitudeDeg),
    declinationDeg: blend((sun) => sun.declinationDeg),
    distanceAu: blend((sun) => sun.distanceAu),
    equinoxCorrectionDeg: blend((sun) => sun.equinoxCorrectionDeg),
    equationOfTimeMinutes: blend((sun) => sun.equationOfTimeMinutes),
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
