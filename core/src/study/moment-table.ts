import { clockAt, csvText, formatClock, RAD } from '../civil';
import type { Site } from '../project';
import { shadowAngles, type SetMoment, solarMinutes, sunPosition, sunVector } from '../sun';
import { dayNumber } from '../scene';
import { firstObstruction, type Obstacles } from '../trace';
import type { Owners } from './point-year';

/** What is read at a moment. Angles in degrees; null where there is none. */
export interface MomentReading {
  date: string;
  /** Clock on site, and solar time, as HH:MM. */
  clock: string;
  solar: string;
  /** ISO 8601, UTC. */
  utc: string;
  altitudeDeg: number;
  azimuthDeg: number;
  /** Horizontal and vertical shadow angle to the facade asked for; VSA null while the sun is behind it or down. */
  hsaDeg: number | null;
  vsaDeg: number | null;
  /** Length of the shadow of a stick on level ground; null while the sun is down. */
  shadowM: number | null;
  /** Share of the sun that reaches the point asked for: 1 in sun, 0 in shade or at night; null without a point. */
  sun: number | null;
  /** Owner of the first thing that takes it; null where nothing does, and at night. */
  owner: number | null;
  note: string | null;
}

/** A point whose sun is read, and what may stand in its way. */
export interface ReadPoint {
  at: readonly [number, number, number];
  /** The side that it looks to; null where it sees all round. */
  normal: readonly [number, number, number] | null;
  obstacles: Obstacles;
  owners: Owners;
}

/**
 * Readings at moments: sun, shadow angles, and the length h / tan altitude of the shadow of a stick of a height.
 * @param facadeAzimuthDeg outward, clockwise from true north; null for none
 */
export function readMomentsTable(
  site: Site,
  moments: readonly SetMoment[],
  { facadeAzimuthDeg = null as number | null, stickM = 1, point = null as ReadPoint | null } = {},
): MomentReading[] {
  const { place, north } = site;
  return moments.map(({ atMs, note }) => {
    const sun = sunPosition(atMs, place);
    const { date, minutes } = clockAt(atMs, place.zone);
    const isUp = sun.altitudeDeg > 0;
    const angles =
      facadeAzimuthDeg === null ? null : shadowAngles(sun.altitudeDeg, sun.azimuthDeg, facadeAzimuthDeg);
    const reached = point && (isUp ? reachOf(point, sun, north.trueNorthDeg, date) : { sun: 0, owner: null });
    return {
      date,
      clock: formatClock(minutes),
      solar: formatClock(((solarMinutes(sun) % 1440) + 1440) % 1440),
      utc: new Date(Math.round(atMs)).toISOString(),
      altitudeDeg: sun.altitudeDeg,
      azimuthDeg: sun.azimuthDeg,
      hsaDeg: angles ? angles.hsaDeg : null,
      vsaDeg: angles && isUp ? angles.vsaDeg : null,
      shadowM: isUp ? stickM / Math.tan(sun.altitudeDeg * RAD) : null,
      sun: reached ? reached.sun : null,
      owner: reached ? reached.owner : null,
      note: note ?? (isUp ? null : 'The sun is below the horizon.'),
    };
  });
}

function reachOf(
  { at, normal, obstacles, owners }: ReadPoint,
  sun: { altitudeDeg: number; azimuthDeg: number },
  trueNorthDeg: number,
  date: string,
): { sun: number; owner: number | null } {
  const [x, y, z] = sunVector(sun.altitudeDeg, sun.azimuthDeg, trueNorthDeg);
  if (normal && x * normal[0] + y * normal[1] + z * normal[2] <= 0) return { sun: 0, owner: null };
  const triangle = firstObstruction(obstacles, ...at, x, y, z);
  if (triangle >= 0) return { sun: 0, owner: owners.ownerOf[owners.surfaceOf[triangle]!]! };
  const { transmission } = obstacles;
  const share = transmission ? transmission.share(...at, x, y, z, dayNumber(date)) : 1;
  const takes = share < 1 && transmission!.obstruction >= 0;
  return { sun: share, owner: takes ? owners.ownerOf[transmission!.obstruction]! : null };
}

/** The readings as CSV, headings in the first line, numbers as they are computed. */
export function momentsCsv(readings: readonly MomentReading[], ownerName: (owner: number) => string): string {
  const has = (key: keyof MomentReading) => readings.some((reading) => reading[key] !== null);
  const columns: { name: string; of: (r: MomentReading) => string | number | null }[] = [
    { name: 'date', of: (r) => r.date },
    { name: 'clock', of: (r) => r.clock },
    { name: 'solar', of: (r) => r.solar },
    { name: 'utc', of: (r) => r.utc },
    { name: 'altitude_deg', of: (r) => r.altitudeDeg.toFixed(4) },
    { name: 'azimuth_deg', of: (r) => r.azimuthDeg.toFixed(4) },
    ...(has('hsaDeg')
      ? [
          { name: 'hsa_deg', of: (r: MomentReading) => r.hsaDeg?.toFixed(4) ?? null },
          { name: 'vsa_deg', of: (r: MomentReading) => r.vsaDeg?.toFixed(4) ?? null },
        ]
      : []),
    { name: 'shadow_m', of: (r) => r.shadowM?.toFixed(4) ?? null },
    ...(has('sun')
      ? [
          { name: 'sun', of: (r: MomentReading) => r.sun },
          { name: 'shaded_by', of: (r: MomentReading) => (r.owner === null ? null : ownerName(r.owner)) },
        ]
      : []),
  ];
  return csvText([
    columns.map(({ name }) => name),
    ...readings.map((reading) => columns.map(({ of }) => of(reading))),
  ]);
}
