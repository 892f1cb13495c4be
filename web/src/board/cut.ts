import { type Camera, type CutPlane, levelPlane, type Point3, RAD, uprightPlane } from '@dial-shade/core';

/** The plane that a view is cut at; what lies on the side of its normal is taken away for the eye. */
export function cutOf(camera: Camera): CutPlane | null {
  if (camera.kind === 'level') return levelPlane(camera.floorM + camera.aboveM);
  return camera.kind === 'upright' ? uprightPlane(camera.from, camera.to) : null;
}

/** How far a view from straight above leans, so that what is up on the screen is told: a share of the way down. */
const LEAN = 1e-4;

/**
 * What a parallel view looks at, and the unit vector from there towards its eye.
 * @param sun unit vector towards the sun, for a view from it; from above while it is down
 * @param trueNorthDeg from drawing north to true north, clockwise
 */
export function parallelFrame(
  camera: Exclude<Camera, { kind: 'orbit' | 'eye' }>,
  sun: readonly [number, number, number] | null,
  trueNorthDeg: number,
): { lookAt: Point3; way: Point3 } {
  const above = (upDeg: number): Point3 => [-LEAN * Math.sin(upDeg * RAD), -LEAN * Math.cos(upDeg * RAD), 1];
  switch (camera.kind) {
    case 'level':
      return {
        lookAt: [...camera.centre, camera.floorM + camera.aboveM],
        way: above(camera.northUp ? trueNorthDeg : 0),
      };
    case 'upright': {
      const { origin, u, n } = uprightPlane(camera.from, camera.to);
      const { alongM, levelM } = camera;
      return { lookAt: [origin[0] + u[0] * alongM, origin[1] + u[1] * alongM, levelM], way: n };
    }
    case 'elevation': {
      const b = camera.bearingDeg * RAD;
      return { lookAt: camera.centre, way: [Math.sin(b), Math.cos(b), 0] };
    }
    case 'sun':
      return { lookAt: camera.lookAt, way: sun ? [sun[0], sun[1], sun[2]] : above(0) };
  }
}
