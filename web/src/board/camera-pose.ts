import { type Camera, type Point3, RAD } from '@dial-shade/core';
import { OrthographicCamera, PerspectiveCamera } from 'three';
import { cutOf, parallelFrame } from './cut';

/** How far off the eye of a parallel view stands, metres. */
export const PARALLEL_DISTANCE_M = 1500;
/** Upright field of view of a view from outside, degrees. */
export const ORBIT_FOV_DEG = 38;
/** Nearest and farthest that parallel views see where nothing is cut, and the farthest of all, metres. */
export const BEFORE_M = -3000;
export const FAR_M = 9000;

/** Where an eye stands and what it sees. */
export interface Pose {
  eye: Point3;
  lookAt: Point3;
  /** Height of what a parallel view shows, metres; null for one in perspective. */
  heightM: number | null;
  /** Upright field of view of one in perspective, degrees. */
  fovDeg: number;
  /** Nearest that a parallel view sees: where it is cut. */
  nearM: number;
}

/**
 * The pose of a view.
 * @param sun unit vector towards the sun, for a view from it; null while it is down
 * @param trueNorthDeg from drawing north to true north, clockwise
 */
export function poseOf(
  camera: Camera,
  sun: readonly [number, number, number] | null,
  trueNorthDeg: number,
): Pose {
  const plain = { fovDeg: ORBIT_FOV_DEG, nearM: BEFORE_M };
  if (camera.kind === 'orbit') {
    const { eye, lookAt, projection, heightM } = camera;
    return { ...plain, eye, lookAt, heightM: projection === 'parallel' ? heightM : null };
  }
  if (camera.kind === 'eye') {
    const [b, h] = [camera.bearingDeg * RAD, camera.pitchDeg * RAD];
    const [x, y, z] = camera.at;
    const lookAt = [x + Math.sin(b) * Math.cos(h), y + Math.cos(b) * Math.cos(h), z + Math.sin(h)] as const;
    return { ...plain, eye: camera.at, lookAt: [...lookAt], heightM: null, fovDeg: camera.fovDeg };
  }
  const { lookAt, way } = parallelFrame(camera, sun, trueNorthDeg);
  const eye = [0, 1, 2].map((k) => lookAt[k]! + way[k]! * PARALLEL_DISTANCE_M) as [number, number, number];
  return {
    ...plain,
    eye,
    lookAt,
    heightM: camera.heightM,
    nearM: cutOf(camera) ? PARALLEL_DISTANCE_M : BEFORE_M,
  };
}

/** The nearest that a view in perspective sees, as far off as may be for the sake of depth, metres. */
export function nearestSeen(camera: Camera, distanceM: number): number {
  return camera.kind === 'eye' ? 0.08 : Math.max(0.15, Math.min(20, distanceM * 0.04));
}

/** The eye of a view that stays as it is, for a picture of an aspect (width / height). */
export function stillCamera(
  camera: Camera,
  aspect: number,
  sun: readonly [number, number, number] | null,
  trueNorthDeg: number,
): PerspectiveCamera | OrthographicCamera {
  const { eye, lookAt, heightM, fovDeg, nearM } = poseOf(camera, sun, trueNorthDeg);
  const distance = Math.hypot(eye[0] - lookAt[0], eye[1] - lookAt[1], eye[2] - lookAt[2]);
  const half = (heightM ?? 0) / 2;
  const made =
    heightM === null
      ? new PerspectiveCamera(fovDeg, aspect, nearestSeen(camera, distance), FAR_M)
      : new OrthographicCamera(-half * aspect, half * aspect, half, -half, nearM, FAR_M);
  made.up.set(0, 0, 1);
  made.position.set(...eye);
  made.lookAt(...lookAt);
  made.updateMatrixWorld();
  return made;
}
