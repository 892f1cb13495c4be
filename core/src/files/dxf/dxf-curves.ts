import type { Point2, Point3 } from '../../geometry';

/** Straight pieces for a full circle. */
export const CIRCLE = 32;
/** Pieces of one curve at the most. */
const MAX_PIECES = 512;

/** Places along an arc of an ellipse, from one parameter to another, both among them; radians. */
export function ellipsePoints(
  centre: Point3,
  major: Point3,
  minor: Point3,
  from: number,
  to: number,
): Point3[] {
  const turn = to - from;
  const pieces = Math.min(MAX_PIECES, Math.max(2, Math.ceil((Math.abs(turn) / (2 * Math.PI)) * CIRCLE)));
  return Array.from({ length: pieces + 1 }, (_, i): Point3 => {
    const [c, s] = [Math.cos(from + (turn * i) / pieces), Math.sin(from + (turn * i) / pieces)];
    return [0, 1, 2].map((k) => centre[k]! + major[k]! * c + minor[k]! * s) as unknown as Point3;
  });
}

/** Places along a circle, degrees anticlockwise. */
export function arcPoints([x, y]: Point2, radius: number, fromDeg: number, toDeg: number): Point2[] {
  const to = toDeg > fromDeg ? toDeg : toDeg + 360;
  const rad = Math.PI / 180;
  return ellipsePoints([x, y, 0], [radius, 0, 0], [0, radius, 0], fromDeg * rad, to * rad).map(
    ([px, py]): Point2 => [px, py],
  );
}

/** The start of a stretch and, where it bulges, places along it. The bulge is the tangent of a quarter of its angle. */
export function bulgePoints(from: Point2, to: Point2, bulge: number): Point2[] {
  if (!bulge || !Number.isFinite(bulge) || Math.abs(bulge) > 1e3) return [from];
  const angle = 4 * Math.atan(bulge);
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const pieces = Math.min(64, Math.max(2, Math.ceil((Math.abs(angle) / (2 * Math.PI)) * CIRCLE)));
  // The centre lies on the middle line of the chord, (1 − b²) / 4b of its length to the left of the way there.
  const k = (1 - bulge * bulge) / (4 * bulge);
  const centre: Point2 = [(from[0] + to[0]) / 2 - dy * k, (from[1] + to[1]) / 2 + dx * k];
  const [rx, ry] = [from[0] - centre[0], from[1] - centre[1]];
  return Array.from({ length: pieces }, (_, i): Point2 => {
    const [c, s] = [Math.cos((angle * i) / pieces), Math.sin((angle * i) / pieces)];
    return i === 0 ? from : [centre[0] + rx * c - ry * s, centre[1] + rx * s + ry * c];
  });
}

/** A curve of B-splines. */
export interface Spline {
  degree: number;
  knots: readonly number[];
  control: readonly Point3[];
  weights: readonly number[];
}

/** Places along a spline (de Boor); null where its knots and corners do not go together. */
export function splinePoints({ degree, knots, control, weights }: Spline): Point3[] | null {
  const n = control.length;
  if (degree < 1 || degree > 11 || n <= degree || knots.length !== n + degree + 1) return null;
  if (!knots.every((k, i) => Number.isFinite(k) && (i === 0 || k >= knots[i - 1]!))) return null;
  const [from, to] = [knots[degree]!, knots[n]!];
  if (!(to > from)) return null;
  const pieces = Math.min(MAX_PIECES, (n - degree) * 16);
  const homogeneous = control.map((p, i) => {
    const w = weights[i] ?? 1;
    return [p[0] * w, p[1] * w, p[2] * w, w];
  });
  return Array.from({ length: pieces + 1 }, (_, i): Point3 => {
    const t = i === pieces ? to : from + ((to - from) * i) / pieces;
    let span = degree;
    while (span < n - 1 && t >= knots[span + 1]!) span++;
    const d = Array.from({ length: degree + 1 }, (__, j) => [...homogeneous[span - degree + j]!]);
    for (let r = 1; r <= degree; r++)
      for (let j = degree; j >= r; j--) {
        const low = knots[span - degree + j]!;
        const width = knots[span + 1 + j - r]! - low;
        const share = width > 0 ? (t - low) / width : 0;
        for (let k = 0; k < 4; k++) d[j]![k] = d[j - 1]![k]! * (1 - share) + d[j]![k]! * share;
      }
    const [x, y, z, w] = d[degree]!;
    return [x! / w!, y! / w!, z! / w!];
  });
}
