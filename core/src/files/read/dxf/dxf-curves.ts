import type { Point2, Point3 } from '../../../geometry';

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

/** Places on a curve for each stretch between two that it goes through. */
const PER_STRETCH = 16;

/**
 * Places along the cubic spline through points, by the lengths of its chords: closed all round, else with the directions
 * given at its ends, and without curvature there where none is.
 */
export function splineThrough(
  points: readonly Point3[],
  isClosed: boolean,
  [first, last]: readonly [Point3 | null, Point3 | null] = [null, null],
): Point3[] {
  const through = points.filter((p, i) => i === 0 || chord(points[i - 1]!, p) > 0);
  if (isClosed && through.length > 1 && chord(through[0]!, through.at(-1)!) === 0) through.pop();
  const n = through.length;
  if (n < 3) return through;
  const stretches = isClosed ? n : n - 1;
  const steps = Array.from({ length: stretches }, (_, i) => chord(through[i]!, through[(i + 1) % n]!));
  // Curvatures at the points solve a system of one row each, which is diagonal but for neighbours.
  const rows = Array.from({ length: n }, () => new Float64Array(n));
  const right = Array.from({ length: n }, (): [number, number, number] => [0, 0, 0]);
  const slope = (i: number, k: number) => (through[(i + 1) % n]![k]! - through[i]![k]!) / steps[i]!;
  for (let i = 0; i < n; i++) {
    const row = rows[i]!;
    const isEnd = !isClosed && (i === 0 || i === n - 1);
    const direction = i === 0 ? first : last;
    const length = direction ? Math.hypot(...direction) : 0;
    if (isEnd && length === 0) {
      row[i] = 1;
      continue;
    }
    if (isEnd) {
      const step = steps[i === 0 ? 0 : n - 2]!;
      row[i] = step / 3;
      row[i === 0 ? 1 : n - 2] = step / 6;
      for (const k of [0, 1, 2] as const) {
        const along = direction![k] / length;
        right[i]![k] = i === 0 ? slope(0, k) - along : along - slope(n - 2, k);
      }
      continue;
    }
    const before = (i + n - 1) % n;
    const [a, b] = [steps[before]!, steps[i]!];
    row[before]! += a / 6;
    row[i]! += (a + b) / 3;
    row[(i + 1) % n]! += b / 6;
    for (const k of [0, 1, 2] as const) right[i]![k] = slope(i, k) - slope(before, k);
  }
  const bend = solve(rows, right);
  const drawn: Point3[] = [];
  const per = Math.max(2, Math.min(PER_STRETCH, Math.floor(MAX_PIECES / stretches)));
  for (let i = 0; i < stretches; i++) {
    const [p, q, m, o, h] = [through[i]!, through[(i + 1) % n]!, bend[i]!, bend[(i + 1) % n]!, steps[i]!];
    for (let s = 0; s < per; s++) {
      const b = s / per;
      const a = 1 - b;
      drawn.push(
        [0, 1, 2].map(
          (k) => a * p[k]! + b * q[k]! + (((a ** 3 - a) * m[k]! + (b ** 3 - b) * o[k]!) * h * h) / 6,
        ) as unknown as Point3,
      );
    }
  }
  return isClosed ? drawn : [...drawn, through.at(-1)!];
}

const chord = (a: Point3, b: Point3) => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);

/** Solves a system of equations with three right sides, by elimination; its rows are strong on the diagonal. */
function solve(rows: Float64Array[], right: [number, number, number][]): [number, number, number][] {
  const n = rows.length;
  for (let i = 0; i < n; i++)
    for (let j = i + 1; j < n; j++) {
      const factor = rows[j]![i]! / rows[i]![i]!;
      if (factor === 0) continue;
      for (let k = i; k < n; k++) rows[j]![k]! -= factor * rows[i]![k]!;
      for (const k of [0, 1, 2] as const) right[j]![k] -= factor * right[i]![k];
    }
  for (let i = n - 1; i >= 0; i--)
    for (const k of [0, 1, 2] as const) {
      let sum = right[i]![k];
      for (let j = i + 1; j < n; j++) sum -= rows[i]![j]! * right[j]![k];
      right[i]![k] = sum / rows[i]![i]!;
    }
  return right;
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
