import { addDays, clockAt, daysInYear, instantOf } from '../civil';
import type { Site } from '../project';
import { SunTrack, sunVector } from '../sun';
import { dayNumber, type Scene } from '../scene';
import { firstObstruction, type Obstacles } from '../trace';

/** In a point's year: the sun is below the horizon, or behind the surface the point lies on. */
export const NIGHT = -2;
export const BEHIND = -3;
/** In a point's year: in sun. */
export const IN_SUN = -1;

/** The year of one point: for each day and step of the clock, in sun, in shade and whose, or night. */
export interface PointYear {
  days: number;
  steps: number;
  /** days × steps: IN_SUN, NIGHT, BEHIND, or the owner of the first thing along the ray. */
  state: Int16Array;
  sunHours: number;
  /** Hours that each owner takes, as the first block along the ray or by what it lets pass, by owner index. */
  lostHours: Float64Array;
}

/** What tells the owner of a triangle. */
export interface Owners {
  surfaceOf: Uint32Array;
  ownerOf: Uint32Array;
  count: number;
}

/** What tells the owners of a scene's triangles. */
export function ownersOf({ surfaceOf, ownerOf, owners }: Scene): Owners {
  return { surfaceOf, ownerOf, count: owners.length };
}

/** Traces one point to the sun through a calendar year on site, one ray a step, nearest block first. */
export function pointYear(
  site: Site,
  at: readonly [number, number, number],
  normal: readonly [number, number, number],
  obstacles: Obstacles,
  owners: Owners,
  steps = 96,
): PointYear {
  const { transmission } = obstacles;
  const days = daysInYear(site.year);
  const state = new Int16Array(days * steps).fill(NIGHT);
  const lostHours = new Float64Array(owners.count);
  const track = new SunTrack(site.place);
  const cell = 1440 / steps;
  let sunHours = 0;
  for (let day = 0; day < days; day++) {
    const date = addDays(`${site.year}-01-01`, day);
    const start = instantOf(date, 0, site.place.zone);
    const end = instantOf(addDays(date, 1), 0, site.place.zone);
    const even = end - start === 86_400_000;
    for (let atMs = start + cell * 30_000; atMs < end; atMs += cell * 60_000) {
      const sun = track.at(atMs);
      if (sun.altitudeDeg <= 0) continue;
      const minutes = even ? (atMs - start) / 60_000 : clockAt(atMs, site.place.zone).minutes;
      const index = day * steps + Math.min(steps - 1, Math.floor(minutes / cell));
      const [x, y, z] = sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg);
      if (x * normal[0] + y * normal[1] + z * normal[2] <= 0) {
        state[index] = BEHIND;
        continue;
      }
      const triangle = firstObstruction(obstacles, at[0], at[1], at[2], x, y, z);
      if (triangle < 0) {
        const share = transmission ? transmission.share(at[0], at[1], at[2], x, y, z, dayNumber(date)) : 1;
        const obstruction =
          share < 1 && transmission!.obstruction >= 0 ? owners.ownerOf[transmission!.obstruction]! : null;
        state[index] = share < 0.5 && obstruction !== null ? obstruction : IN_SUN;
        sunHours += (cell / 60) * share;
        if (obstruction !== null) lostHours[obstruction]! += (cell / 60) * (1 - share);
      } else {
        const owner = owners.ownerOf[owners.surfaceOf[triangle]!]!;
        state[index] = owner;
        lostHours[owner]! += cell / 60;
      }
    }
  }
  return { days, steps, state, sunHours, lostHours };
}

/** Obstructions of a point's sky: for each cell of azimuth and altitude the owner of the first block, or IN_SUN. */
export interface PointSky {
  azimuths: number;
  altitudes: number;
  /** azimuths × altitudes, azimuth clockwise from true north, altitude upwards from the horizon. */
  state: Int16Array;
}

/** Traces one point to its sky dome in cells of equal angle, for drawing its sun dial. */
export function pointSky(
  site: Site,
  at: readonly [number, number, number],
  obstacles: Obstacles,
  owners: Owners,
  azimuths = 180,
  altitudes = 45,
): PointSky {
  const state = new Int16Array(azimuths * altitudes).fill(IN_SUN);
  for (let a = 0; a < azimuths; a++) {
    for (let h = 0; h < altitudes; h++) {
      const [x, y, z] = sunVector(
        ((h + 0.5) * 90) / altitudes,
        ((a + 0.5) * 360) / azimuths,
        site.north.trueNorthDeg,
      );
      const triangle = firstObstruction(obstacles, at[0], at[1], at[2], x, y, z);
      if (triangle >= 0) state[a * altitudes + h] = owners.ownerOf[owners.surfaceOf[triangle]!]!;
    }
  }
  return { azimuths, altitudes, state };
}
