import { RAD } from '../civil';
import { InputError } from '../errors';
import type { Point2 } from '../geometry';
import type { Underlay } from '../project';

type Placed = Pick<Underlay, 'at' | 'metresPerPixel' | 'turnDeg' | 'widthPx' | 'heightPx'>;

/** Points of a picture that are nearer to each other than this tell no scale, metres. */
const MIN_APART_M = 1e-6;

/** Where a point of a picture, pixels from its upper left corner to the right and down, lies on the ground. */
export function underlayPoint(
  { at, metresPerPixel: m, turnDeg, widthPx, heightPx }: Placed,
  p: Point2,
): Point2 {
  const [c, s] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  const [x, y] = [(p[0] - widthPx / 2) * m, (heightPx / 2 - p[1]) * m];
  return [at[0] + x * c - y * s, at[1] + x * s + y * c];
}

/** The point of a picture that lies at a place of the ground, pixels from its upper left corner; outside of it too. */
export function underlayPixel(
  { at, metresPerPixel: m, turnDeg, widthPx, heightPx }: Placed,
  p: Point2,
): Point2 {
  const [c, s] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  const [x, y] = [p[0] - at[0], p[1] - at[1]];
  return [widthPx / 2 + (x * c + y * s) / m, heightPx / 2 - (y * c - x * s) / m];
}

/** Corners of a picture on the ground: upper left, upper right, lower right, lower left as it is seen upright. */
export function underlayCorners(underlay: Placed): [Point2, Point2, Point2, Point2] {
  const { widthPx: w, heightPx: h } = underlay;
  return [
    underlayPoint(underlay, [0, 0]),
    underlayPoint(underlay, [w, 0]),
    underlayPoint(underlay, [w, h]),
    underlayPoint(underlay, [0, h]),
  ];
}

/**
 * A picture scaled so that two of its points are `lengthM` apart; the first stays where it lies on the ground.
 * @param from a point of it, as it lies on the ground now
 * @param to another one
 * Throws InputError `scale` where the points are one, or the length is none.
 */
export function scaledUnderlay<T extends Placed>(underlay: T, from: Point2, to: Point2, lengthM: number): T {
  const apart = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (!(apart > MIN_APART_M))
    throw new InputError('scale', 'The two points are one; choose two that lie far apart.');
  if (!(lengthM > 0))
    throw new InputError('scale', 'The distance between the points must be more than nothing.');
  const by = lengthM / apart;
  const at = underlay.at.map((v, k) => from[k]! + (v - from[k]!) * by) as [number, number];
  return { ...underlay, at, metresPerPixel: underlay.metresPerPixel * by, scaled: true };
}

/** A picture moved so that what lies at one place of the ground comes to lie at another. */
export function movedUnderlay<T extends Placed>(underlay: T, from: Point2, to: Point2): T {
  return { ...underlay, at: [underlay.at[0] + to[0] - from[0], underlay.at[1] + to[1] - from[1]] };
}

/**
 * A picture turned about a place of the ground so that what lies at `from` comes to lie in the direction of `to`.
 * Throws InputError `turn` where one of them is the place itself.
 */
export function turnedUnderlay<T extends Placed>(underlay: T, about: Point2, from: Point2, to: Point2): T {
  const [a, b] = [from, to].map((p): Point2 => [p[0] - about[0], p[1] - about[1]]) as [Point2, Point2];
  if (Math.min(Math.hypot(...a), Math.hypot(...b)) < MIN_APART_M)
    throw new InputError('turn', 'A turn needs a point beside the one that it turns about.');
  const turn = Math.atan2(a[0] * b[1] - a[1] * b[0], a[0] * b[0] + a[1] * b[1]);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const [x, y] = [underlay.at[0] - about[0], underlay.at[1] - about[1]];
  const turnDeg = underlay.turnDeg + turn / RAD;
  return {
    ...underlay,
    at: [about[0] + x * c - y * s, about[1] + x * s + y * c],
    // Between −180 and 180 degrees.
    turnDeg: turnDeg - 360 * Math.round(turnDeg / 360),
  };
}
