import { dot, type Point3 } from '../geometry';
import type { HourSet, Project } from '../project';
import { sunVector } from '../sun';
import { hoursAtSite, hoursInSet, type WeatherYear } from '../weather';
import type { WeighedMoment } from './window-shade';

/** Moments that are taken of a set of hours, at the most: of more, every second, third … with so much more weight. */
export const MAX_MOMENTS = 360;

/**
 * The hours of a set in which beam falls on a surface that faces a way, with the beam on it (kWh/m²), by the project's
 * weather or another; at most 360 of them, evenly through the year. Throws InputError `weather` without any.
 */
export function beamOfSet(
  project: Project,
  set: Pick<HourSet, 'source'>,
  normal: Point3,
  given: WeatherYear | null = null,
  most = MAX_MOMENTS,
): WeighedMoment[] {
  const { site } = project;
  const { hours, weather } = hoursAtSite(project, given);
  const shares = hoursInSet(site, weather, hours, set);
  const all = hours.flatMap((hour, i): WeighedMoment[] => {
    if (!hour.sun || shares[i]! <= 0 || hour.beamNormal <= 0) return [];
    const { atMs, altitudeDeg, azimuthDeg } = hour.sun;
    const cosine = dot(sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg), normal);
    return cosine > 0 ? [{ atMs, weight: (hour.beamNormal * cosine * shares[i]!) / 1000 }] : [];
  });
  const step = Math.ceil(all.length / most);
  if (step <= 1) return all;
  const whole = all.reduce((sum, { weight }) => sum + weight, 0);
  const taken = all.filter((_, i) => i % step === Math.floor(step / 2));
  const factor = whole / taken.reduce((sum, { weight }) => sum + weight, 0);
  return taken.map(({ atMs, weight }) => ({ atMs, weight: weight * factor }));
}
