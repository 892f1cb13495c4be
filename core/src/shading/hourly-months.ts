import { windowGains, type HourlyPrecision } from '../gains';
import { partsError, POINT_PARTS, type SolarHours } from '../study';
import { type DevicePlace, isInsideSheet, standingScheme } from '../devices';
import type { MonthlyRadiation } from './glass-reading';
import type { GlassAsked, GlassPrecision } from './glass-year';
import { assembleScene } from '../scene';

const MONTHS = 12;

/** Whether something in an option moves or hangs inside, so that its windows are summed hour by hour. */
export function isHourly({
  project,
  optionId,
  meshes,
}: Pick<GlassAsked, 'project' | 'optionId' | 'meshes'>): boolean {
  return (
    assembleScene(project, optionId, meshes).moving.length > 0 ||
    (standingScheme(project, optionId)?.devices.some(({ make }) => isInsideSheet(make)) ?? false)
  );
}

/**
 * The months of some windows together, hour by hour with everything as it hangs then. Throws InputError `weather`.
 * @param asked with all that stands and hangs
 */
export function hourlyMonths(
  { project, optionId, meshes, weather = null }: GlassAsked,
  places: readonly DevicePlace[],
  { together, least, most, parts, rays }: GlassPrecision,
): Record<'glass' | 'inside', MonthlyRadiation> {
  const precision: HourlyPrecision = { points: { together, least, most }, parts, rays };
  const of = (reaches: 'glass' | 'inside') =>
    monthsOfHours(
      windowGains({ project, optionId, meshes, places, optionOf: optionId, weather, reaches, precision }),
    );
  return { glass: of('glass'), inside: of('inside') };
}

/** Hours by month, kWh, with what the months and the year may be off by. */
export function monthsOfHours({ stamps, beamW, skyW, groundW, partsW }: SolarHours): MonthlyRadiation {
  const make = () => new Array<number>(MONTHS).fill(0);
  const found = { beam: make(), sky: make(), ground: make() };
  const parts = found.beam.map(() => new Float64Array(POINT_PARTS));
  stamps.forEach((stamp, k) => {
    const m = Math.floor(stamp / 10_000) - 1;
    found.beam[m]! += beamW[k]! / 1000;
    found.sky[m]! += skyW[k]! / 1000;
    found.ground[m]! += groundW[k]! / 1000;
    for (let b = 0; b < POINT_PARTS; b++) parts[m]![b]! += partsW[b]![k]! / POINT_PARTS / 1000;
  });
  const all = Float64Array.from({ length: POINT_PARTS }, (_, b) =>
    parts.reduce((sum, month) => sum + month[b]!, 0),
  );
  return { ...found, error: parts.map((month) => partsError(month)), yearError: partsError(all) };
}
