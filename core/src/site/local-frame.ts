import { RAD } from '../civil';
import type { Point2 } from '../geometry';
import type { Site } from '../project';

/** World Geodetic System 1984: half the long axis, metres, and the square of the eccentricity. */
const A = 6_378_137;
const E2 = 0.006_694_379_990_141_3;

/**
 * The tangent frame of a site: longitude and latitude as metres from the project origin, which lies at the place, and
 * back. Radii of curvature of the WGS 84 ellipsoid at the mean latitude; within 1 cm over 2 km.
 */
export function localFrame({ place, north }: Pick<Site, 'place' | 'north'>) {
  const turn = north.trueNorthDeg * RAD;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const radii = (latitudeDeg: number) => {
    const sine = Math.sin(latitudeDeg * RAD);
    const w = Math.sqrt(1 - E2 * sine * sine);
    return { meridian: (A * (1 - E2)) / w ** 3, parallel: (A / w) * Math.cos(latitudeDeg * RAD) };
  };
  return {
    /** Project x and y of a longitude and latitude, degrees. */
    toProject([longitudeDeg, latitudeDeg]: Point2): [number, number] {
      const { meridian, parallel } = radii((latitudeDeg + place.latitudeDeg) / 2);
      const around = ((longitudeDeg - place.longitudeDeg + 540) % 360) - 180;
      const east = around * RAD * parallel;
      const northwards = (latitudeDeg - place.latitudeDeg) * RAD * meridian;
      return [east * c + northwards * s, northwards * c - east * s];
    },
    /** Longitude and latitude of project x and y, degrees. */
    toGeographic([x, y]: Point2): [number, number] {
      const east = x * c - y * s;
      const northwards = y * c + x * s;
      let latitudeDeg = place.latitudeDeg;
      for (let i = 0; i < 4; i++) {
        const { meridian } = radii((latitudeDeg + place.latitudeDeg) / 2);
        latitudeDeg = place.latitudeDeg + northwards / meridian / RAD;
      }
      const { parallel } = radii((latitudeDeg + place.latitudeDeg) / 2);
      return [place.longitudeDeg + east / parallel / RAD, latitudeDeg];
    },
  };
}
