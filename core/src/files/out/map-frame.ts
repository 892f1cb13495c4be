import type { Point2, Point3 } from '../../geometry';
import type { Site } from '../../project';
import { isGeographic, localFrame, type MapSystem, mapSystem } from '../../site';

/** How what goes out stands on a map. */
export interface MapFrame {
  /** A point of the project, metres, in the coordinates of its survey, metres; as it is where there is none. */
  toMap: (p: Point3) => Point3;
  /** The map system of these coordinates, where it is known. */
  system: MapSystem | null;
  /** Whether they are those of a survey. */
  isSurvey: boolean;
}

/**
 * Coordinates that go out: those of the map system where the project knows it, through longitude and latitude, as files in
 * it come in; else those of its survey, which is moved only.
 * @param orUtm without a survey, the zone of UTM (WGS 84) that a confirmed place lies in, heights as they are
 */
export function mapFrame(site: Site, { orUtm = false } = {}): MapFrame {
  const survey = site.survey ?? (orUtm ? utmOf(site.place) : null);
  if (!survey) return { toMap: (p) => p, system: null, isSurvey: false };
  const known = survey.system === null ? null : mapSystem(survey.system);
  const system = known && !isGeographic(known) ? known : null;
  if (!system)
    return {
      toMap: ([x, y, z]) => [x + survey.x, y + survey.y, z + survey.z],
      system: null,
      isSurvey: true,
    };
  const frame = localFrame(site);
  const k = system.metres;
  return {
    toMap: ([x, y, z]) => {
      const [east, north] = system.fromGeographic(frame.toGeographic([x, y]));
      return [east * k, north * k, z + survey.z];
    },
    system,
    isSurvey: true,
  };
}

/** The zone of UTM of a place that was confirmed; none near the poles. */
function utmOf({ confirmed, latitudeDeg, longitudeDeg }: Site['place']): NonNullable<Site['survey']> | null {
  if (!confirmed || latitudeDeg < -80 || latitudeDeg > 84) return null;
  const zone = Math.min(60, Math.floor((longitudeDeg + 180) / 6) + 1);
  return { x: 0, y: 0, z: 0, system: `EPSG:${(latitudeDeg < 0 ? 32700 : 32600) + zone}` };
}

/** How axes in the project lie on the map: where its origin is, and where x points, with the scale of the map there. */
export function mapAxes({ toMap }: MapFrame): { origin: Point3; along: Point2; scale: number } {
  const origin = toMap([0, 0, 0]);
  const REACH_M = 100;
  const [x, y] = toMap([REACH_M, 0, 0]);
  const [dx, dy] = [x - origin[0], y - origin[1]];
  const length = Math.hypot(dx, dy);
  return { origin, along: [dx / length, dy / length], scale: length / REACH_M };
}
