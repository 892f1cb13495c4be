import { RAD } from '../civil';
import { dot, type Point3 } from '../geometry';
import type { DeviceMake, LoweredWhen } from '../project';
import type { DevicePlace } from './device-place';

/** What a device that moves goes by: a moment at the site. */
export interface MovedBy {
  /** Unit vector towards the sun, project frame; null while it is down. */
  sun: Point3 | null;
  /** Beam on a plane that faces the sun, W/m²; null where there is no weather. */
  beamWm2: number | null;
  /** Clock time on site, minutes since midnight, and month, 1 to 12. */
  minutes: number;
  month: number;
}

/** How a wall lies: what of a face the position of a device goes by. */
export type FaceAxes = Pick<DevicePlace['face'], 'u' | 'v' | 'normal'>;

/**
 * How a device that moves stands: of louvres the tilt, degrees; of a blind or an awning 1 when it is down or out, 0 when it
 * is up or in.
 */
export type DevicePosition = number;

/** Slats turn in steps of so many degrees. */
const STEP_DEG = 5;

type Louvres = Extract<DeviceMake, { kind: 'louvres' }>;

/** Whether a device moves by a rule. */
export function canMove(make: DeviceMake): boolean {
  return make.kind === 'blind' || make.kind === 'awning' || (make.kind === 'louvres' && !!make.turning);
}

/** How a device stands where no sun is asked about: louvres as they are tilted at rest, blinds up, awnings in. */
export function atRest(make: DeviceMake): DevicePosition {
  return make.kind === 'louvres' ? make.tiltDeg : 0;
}

/** The device as it stands in a position; null where nothing of it stands before the opening. */
export function inPosition(make: DeviceMake, position: DevicePosition): DeviceMake | null {
  if (make.kind === 'louvres') return make.turning ? { ...make, tiltDeg: position } : make;
  if (make.kind === 'blind' || make.kind === 'awning') return position > 0 ? make : null;
  return make;
}

/** How many positions a device has. */
export function positionCount(make: DeviceMake): number {
  if (make.kind === 'blind' || make.kind === 'awning') return 2;
  return make.kind === 'louvres' && make.turning ? tiltsOf(make).length : 1;
}

/** How a device on a wall stands at a moment, by its rule. */
export function positionAt(make: DeviceMake, axes: FaceAxes, by: MovedBy): DevicePosition {
  if (make.kind === 'louvres') return make.turning ? tiltAt(make, axes, by.sun) : make.tiltDeg;
  if (make.kind === 'blind' || make.kind === 'awning') return Number(isLowered(make.lowered, axes, by));
  return 0;
}

/** All tilts that slats take, that at rest first, then those nearer to it before those farther. */
function tiltsOf({ tiltDeg, turning }: Louvres): number[] {
  const { fromDeg, toDeg } = turning!;
  const tilts = [tiltDeg];
  for (let step = STEP_DEG; step < 180; step += STEP_DEG)
    for (const tilt of [tiltDeg + step, tiltDeg - step])
      if (tilt > fromDeg - STEP_DEG && tilt < toDeg + STEP_DEG)
        tilts.push(Math.min(toDeg, Math.max(fromDeg, tilt)));
  return [...new Set(tilts)];
}

/**
 * The tilt nearest the one at rest at which no beam passes between two slats that run on without end; where none does it,
 * the one that leaves the narrowest gap; while the sun is not before the wall, the one at rest.
 */
function tiltAt(make: Louvres, { u, v, normal }: FaceAxes, sun: Point3 | null): number {
  const before = sun ? dot(sun, normal) : 0;
  if (!sun || before <= 1e-9) return make.tiltDeg;
  const slope = dot(sun, make.lie === 'level' ? v : u) / before;
  let [best, most] = [make.tiltDeg, -Infinity];
  for (const tilt of tiltsOf(make)) {
    const covered = coveredBySlat({ ...make, tiltDeg: tilt }, slope);
    if (covered >= make.spacingM - 1e-9) return tilt;
    if (covered > most + 1e-9) [best, most] = [tilt, covered];
  }
  return best;
}

/**
 * How much of the way from slat to slat one of them covers along the rays of the sun, metres: d |sin β + m cos β| + t of
 * level slats, d |sin β − m cos β| + t of upright ones, m the rise of the sun along the facade for a metre towards it.
 */
export function coveredBySlat(
  { lie, slatM, tiltDeg, thicknessM }: Pick<Louvres, 'lie' | 'slatM' | 'tiltDeg' | 'thicknessM'>,
  slope: number,
): number {
  const along = (lie === 'level' ? slope : -slope) * Math.cos(tiltDeg * RAD);
  return slatM * Math.abs(Math.sin(tiltDeg * RAD) + along) + thicknessM;
}

/** Whether a value lies from one up to another on a round of values; from one to itself lie all. */
const isWithin = (value: number, from: number, until: number): boolean =>
  from < until ? value >= from && value < until : value >= from || value < until;

/**
 * Whether a blind is down. Where it goes by the beam and there is no weather, whatever sun stands before the glass counts
 * as strong enough.
 */
function isLowered(
  { overWm2, fromMinutes, untilMinutes, fromMonth, untilMonth }: LoweredWhen,
  { normal }: FaceAxes,
  { sun, beamWm2, minutes, month }: MovedBy,
): boolean {
  if (!isWithin(month, fromMonth, (untilMonth % 12) + 1)) return false;
  if (!isWithin(minutes, fromMinutes, untilMinutes)) return false;
  if (overWm2 === null) return true;
  const before = sun ? dot(sun, normal) : 0;
  if (before <= 1e-9) return false;
  return beamWm2 === null || beamWm2 * before > overWm2;
}
