import { RAD } from '../civil';
import type { Point2, Point3 } from '../geometry';
import type { Site } from '../project';

/** World Geodetic System 1984: half the long axis, metres, and the square of the eccentricity. */
const A = 6_378_137;
const E2 = 0.006_694_379_990_141_3;
/** Steps of the way back; each makes the error some thousand times smaller within the bounds of a project. */
const STEPS = 5;

/** A place on the ellipsoid in earth-centred coordinates, metres. */
function earthCentred([longitudeDeg, latitudeDeg]: Point2): Point3 {
  const [sine, cosine] = [Math.sin(latitudeDeg * RAD), Math.cos(latitudeDeg * RAD)];
  const n = A / Math.sqrt(1 - E2 * sine * sine);
  const [s, c] = [Math.sin(longitudeDeg * RAD), Math.cos(longitudeDeg * RAD)];
  return [n * cosine * c, n * cosine * s, n * (1 - E2) * sine];
}

/**
 * The tangent frame of a site: longitude and latitude as metres from the project origin, which lies at the place, and
 * back. East and north of the plane that touches the WGS 84 ellipsoid there; within 1 mm over 2 km of distances along
 * the ellipsoid.
 */
export function localFrame({ place, north }: Pick<Site, 'place' | 'north'>) {
  const turn = north.trueNorthDeg * RAD;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const at: Point2 = [place.longitudeDeg, place.latitudeDeg];
  const [x0, y0, z0] = earthCentred(at);
  const [sl, cl] = [Math.sin(at[0] * RAD), Math.cos(at[0] * RAD)];
  const [sp, cp] = [Math.sin(at[1] * RAD), Math.cos(at[1] * RAD)];
  const w = Math.sqrt(1 - E2 * sp * sp);
  const meridian = (A * (1 - E2)) / w ** 3;
  const parallel = Math.max(1e-3, (A / w) * cp);
  const tangent = (lonLat: Point2): [number, number] => {
    const [x, y, z] = earthCentred(lonLat);
    const [dx, dy, dz] = [x - x0, y - y0, z - z0];
    return [-sl * dx + cl * dy, -sp * cl * dx - sp * sl * dy + cp * dz];
  };
  return {
    /** Project x and y of a longitude and latitude, degrees. */
    toProject(lonLat: Point2): [number, number] {
      const [east, northwards] = tangent(lonLat);
      return [east * c + northwards * s, northwards * c - east * s];
    },
    /** Longitude and latitude of project x and y, degrees. */
    toGeographic([x, y]: Point2): [number, number] {
      const east = x * c - y * s;
      const northwards = y * c + x * s;
      let [longitudeDeg, latitudeDeg] = at;
      for (let i = 0; i < STEPS; i++) {
        const [e, n] = tangent([longitudeDeg, latitudeDeg]);
        latitudeDeg += (northwards - n) / meridian / RAD;
        longitudeDeg += (east - e) / parallel / RAD;
      }
      return [((longitudeDeg + 540) % 360) - 180, latitudeDeg];
    },
  };
}
