import { wrap180, wrap360 } from '../civil';
import {
  type Air,
  type EarthPlace,
  type GeocentricSun,
  geocentricSun,
  standardAir,
  type Station,
  stationAt,
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

/** What four days give to the instants between the two in the middle: of angles the second, and the others against it. */
interface Stretch {
  day: number;
  rightAscension: Four;
  longitude: Four;
  declination: Four;
  distance: Four;
  equinoxCorrection: Four;
  equationOfTime: Four;
}

type Four = readonly [number, number, number, number];

/** That of the day asked for last: instants follow one another. */
let latest: Stretch | null = null;

function stretchOf(day: number): Stretch {
  if (latest?.day === day) return latest;
  const suns = [node(day - 1), node(day), node(day + 1), node(day + 2)] as const;
  const of = (key: keyof GeocentricSun): Four => [suns[0][key], suns[1][key], suns[2][key], suns[3][key]];
  const angle = (key: keyof GeocentricSun): Four => {
    const [p, q, r, s] = of(key);
    return [wrap180(p - q), q, wrap180(r - q), wrap180(s - q)];
  };
  latest = {
    day,
    rightAscension: angle('rightAscensionDeg'),
    longitude: angle('longitudeDeg'),
    declination: of('declinationDeg'),
    distance: of('distanceAu'),
    equinoxCorrection: of('equinoxCorrectionDeg'),
    equationOfTime: of('equationOfTimeMinutes'),
  };
  return latest;
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
  const stretch = stretchOf(day);
  const blend = (of: Four) => w0 * of[0] + w1 * of[1] + w2 * of[2] + w3 * of[3];
  const blendAngle = (of: Four) => wrap360(of[1] + (w0 * of[0] + w2 * of[2] + w3 * of[3]));
  return {
    rightAscensionDeg: blendAngle(stretch.rightAscension),
    longitudeDeg: blendAngle(stretch.longitude),
    declinationDeg: blend(stretch.declination),
    distanceAu: blend(stretch.distance),
    equinoxCorrectionDeg: blend(stretch.equinoxCorrection),
    equationOfTimeMinutes: blend(stretch.equationOfTime),
  };
}

/** The sun over one place, quick enough for a year of minutes. */
export class SunTrack {
  private readonly air: Air;
  private readonly station: Station;

  constructor(
    readonly place: EarthPlace,
    air?: Air,
  ) {
    this.air = air ?? standardAir(place.elevationM);
    this.station = stationAt(place);
  }

  at(atMs: number): SunPosition {
    return topocentricSun(atMs, interpolatedSun(atMs), this.station, this.air);
  }
}
