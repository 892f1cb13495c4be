import { instantOf } from '../civil';
import { SunTrack } from './ephemeris';
import { type EarthPlace, HORIZON_REFRACTION_DEG, SUN_RADIUS_DEG, type SunPosition } from './sun-position';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;

/** The sun's day on a civil date at a place. Instants in epoch ms. */
export interface SunDay {
  /** Upper limb on the horizon before transit, with standard refraction; null in polar day and night. */
  sunriseMs: number | null;
  /** Upper culmination, nearest to the middle of the civil day. */
  transitMs: number;
  transitAltitudeDeg: number;
  transitAzimuthDeg: number;
  /** Upper limb on the horizon after transit; null in polar day and night. */
  sunsetMs: number | null;
  sunriseAzimuthDeg: number | null;
  sunsetAzimuthDeg: number | null;
  dayLengthHours: number;
  /** `day` when the sun does not set, `night` when it does not rise. */
  polar: 'day' | 'night' | null;
}

/** Altitude of the sun's upper limb above the horizon with standard refraction (34′), degrees. */
export function limbAltitude(sun: SunPosition): number {
  return sun.altitudeDeg + SUN_RADIUS_DEG / sun.distanceAu + HORIZON_REFRACTION_DEG;
}

/**
 * Sunrise, transit and sunset of the sun's day whose transit falls on the civil date.
 * Sunrise is sought in the half day before transit and sunset in the half day after it, so that both belong to the
 * same passage even where the sun sets after midnight by the clock.
 */
export function sunDay(date: string, place: EarthPlace, zone: string): SunDay {
  const track = new SunTrack(place);
  const transitMs = transitNear(instantOf(date, 720, zone), track);
  const top = track.at(transitMs);
  const before = transitNear(transitMs - 24 * HOUR, track);
  const after = transitNear(transitMs + 24 * HOUR, track);
  const limb = (ms: number) => limbAltitude(track.at(ms));
  const sunriseMs = crossing(limb, transitMs, (before + transitMs) / 2);
  const sunsetMs = crossing(limb, transitMs, (after + transitMs) / 2);
  const polar = limb(transitMs) < 0 ? 'night' : sunriseMs === null && sunsetMs === null ? 'day' : null;
  const rise = sunriseMs ?? (before + transitMs) / 2;
  const set = sunsetMs ?? (after + transitMs) / 2;
  return {
    sunriseMs,
    transitMs,
    transitAltitudeDeg: top.altitudeDeg,
    transitAzimuthDeg: top.azimuthDeg,
    sunsetMs,
    sunriseAzimuthDeg: sunriseMs === null ? null : track.at(sunriseMs).azimuthDeg,
    sunsetAzimuthDeg: sunsetMs === null ? null : track.at(sunsetMs).azimuthDeg,
    dayLengthHours: polar === 'night' ? 0 : polar === 'day' ? 24 : (set - rise) / HOUR,
    polar,
  };
}

/** The transit (hour angle zero) nearest to an instant. */
function transitNear(nearMs: number, track: SunTrack): number {
  let at = nearMs;
  for (let i = 0; i < 6; i++) at -= (track.at(at).hourAngleDeg / 360) * 24 * HOUR;
  return at;
}

/**
 * The instant between `fromMs` (where f should be positive) and `toMs` at which f first becomes negative,
 * or null when it does not, or is negative from the start.
 */
function crossing(f: (ms: number) => number, fromMs: number, toMs: number): number | null {
  if (f(fromMs) < 0) return null;
  const steps = 72;
  let above = fromMs;
  for (let i = 1; i <= steps; i++) {
    let below = fromMs + ((toMs - fromMs) * i) / steps;
    if (f(below) < 0) {
      while (Math.abs(below - above) > 1) {
        const middle = (above + below) / 2;
        if (f(middle) < 0) below = middle;
        else above = middle;
      }
      return (above + below) / 2;
    }
    above = below;
  }
  return null;
}

/** Local apparent solar time in minutes since solar midnight, 720 at transit. */
export function solarMinutes(sun: SunPosition): number {
  return 720 + sun.hourAngleDeg * 4;
}
