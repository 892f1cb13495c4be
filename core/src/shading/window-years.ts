import type { DevicePlace } from '../devices';
import { openingTargetId, windowGains } from '../gains';
import type { MeshStore } from '../geometry';
import type { Project } from '../project';
import { assembleScene } from '../scene';
import { partsError, POINT_PARTS } from '../study';
import type { WeatherYear } from '../weather';
import { GlassReader, type WindowGain } from './glass-reading';
import { AT_REST, GlassYear } from './glass-year';

/** Points of a window that is read by itself among others. */
const EACH = { ...AT_REST, together: 16_384 };

/**
 * Solar gain through windows in a year, each by itself, with what stands and hangs in an option; by the same points and
 * directions as readings of devices, and hour by hour, as rooms are, where something moves. Throws InputError `weather`.
 * @returns by the id of its target (see `openingTargetId`)
 */
export function windowYears(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  places: readonly DevicePlace[],
  weather: WeatherYear | null = null,
): Map<string, WindowGain> {
  if (assembleScene(project, optionId, meshes).moving.length === 0) {
    const year = new GlassYear({ project, optionId, meshes, weather }, places, EACH);
    return new GlassReader(year, project, weather).gainsOf(year.bare);
  }
  return new Map(
    places.map((place) => {
      const { stamps, beamW, skyW, groundW, partsW } = windowGains(
        project,
        optionId,
        meshes,
        [place],
        optionId,
        weather,
      );
      const months = new Array<number>(12).fill(0);
      const parts = months.map(() => new Float64Array(POINT_PARTS));
      stamps.forEach((stamp, k) => {
        const m = Math.floor(stamp / 10_000) - 1;
        months[m]! += (beamW[k]! + skyW[k]! + groundW[k]!) / 1000;
        for (let b = 0; b < POINT_PARTS; b++) parts[m]![b]! += partsW[b]![k]! / POINT_PARTS / 1000;
      });
      const all = Float64Array.from({ length: POINT_PARTS }, (_, b) =>
        parts.reduce((sum, month) => sum + month[b]!, 0),
      );
      const gain: WindowGain = {
        kWh: months.reduce((sum, one) => sum + one, 0),
        error: partsError(all),
        months,
        monthErrors: parts.map((month) => partsError(month)),
      };
      return [openingTargetId(place), gain];
    }),
  );
}
