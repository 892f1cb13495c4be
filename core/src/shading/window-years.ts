import type { DevicePlace } from '../devices';
import { openingTargetId, windowGains } from '../gains';
import type { MeshStore } from '../geometry';
import type { Project } from '../project';
import type { WeatherYear } from '../weather';
import { GlassReader, type WindowGain } from './glass-reading';
import { AT_REST, GlassYear } from './glass-year';
import { isHourly, monthsOfHours } from './hourly-months';

/** Points of a window that is read by itself among others. */
const EACH = { ...AT_REST, together: 16_384 };

/**
 * Solar gain through windows in a year, each by itself, with what stands and hangs in an option; by the same points and
 * directions as readings of devices, and hour by hour, as rooms are, where something moves or hangs inside. Throws InputError `weather`.
 * @returns by the id of its target (see `openingTargetId`)
 */
export function windowYears(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  places: readonly DevicePlace[],
  weather: WeatherYear | null = null,
): Map<string, WindowGain> {
  if (!isHourly({ project, optionId, meshes })) {
    const year = new GlassYear({ project, optionId, meshes, weather }, places, EACH);
    return new GlassReader(year, project, weather).gainsOf(year.bare);
  }
  return new Map(
    places.map((place) => {
      const { beam, sky, ground, error, yearError } = monthsOfHours(
        windowGains({ project, optionId, meshes, places: [place], optionOf: optionId, weather }),
      );
      const months = beam.map((one, m) => one + sky[m]! + ground[m]!);
      const kWh = months.reduce((sum, one) => sum + one, 0);
      const gain: WindowGain = { kWh, error: yearError, months, monthErrors: error };
      return [openingTargetId(place), gain];
    }),
  );
}
