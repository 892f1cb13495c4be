import { cross, type Point2, type Point3 } from '../../../geometry';
import { arcPoints, bulgePoints, ellipsePoints, splinePoints, splineThrough } from './dxf-curves';
import { type DxfRecord, field, numberOf, numbersOf, pointOf, pointsOf } from './dxf-entities';

/**
 * What a record of a drawing comes to: a line that is closed or open, with the way upwards that it is drawn thick, or a flat
 * piece of a surface, or a point.
 */
export type DxfShape =
  | { kind: 'path'; points: Point3[]; isClosed: boolean; thickness: number }
  | { kind: 'face'; points: Point3[] }
  | { kind: 'spot'; points: Point3[] };

/** The axes of the plane that a flat record lies in, by its extrusion (the arbitrary axis of the format). */
export function planeAxes(record: DxfRecord): (p: Point3) => Point3 {
  const [nx, ny, nz] = pointOf(record, 210) ?? [0, 0, 1];
  const length = Math.hypot(nx, ny, nz);
  if (length === 0 || (nx === 0 && ny === 0 && nz > 0)) return (p) => p;
  const n: Point3 = [nx / length, ny / length, nz / length];
  const isUpright = Math.abs(n[0]) < 1 / 64 && Math.abs(n[1]) < 1 / 64;
  const across = cross(isUpright ? [0, 1, 0] : [0, 0, 1], n);
  const size = Math.hypot(...across);
  const u: Point3 = [across[0] / size, across[1] / size, across[2] / size];
  const v = cross(n, u);
  return ([x, y, z]) => [0, 1, 2].map((k) => u[k]! * x + v[k]! * y + n[k]! * z) as unknown as Point3;
}

/** The shapes of a record in the coordinates of its drawing or block; null for kinds that have none that can be read. */
export function shapesOf(record: DxfRecord): DxfShape[] | null {
  const toWorld = planeAxes(record);
  // Thickness goes along the extrusion, which may point downwards.
  const thickness = toWorld([0, 0, numberOf(record, 39)])[2];
  const flat = (points: readonly Point2[], z: number, isClosed: boolean): DxfShape[] => [
    { kind: 'path', points: points.map(([x, y]) => toWorld([x, y, z])), isClosed, thickness },
  ];
  const open = (points: Point3[] | null): DxfShape[] =>
    points && points.length >= 2 ? [{ kind: 'path', points, isClosed: false, thickness: 0 }] : [];
  switch (record.type) {
    case 'LWPOLYLINE': {
      const corners = bulged(record);
      return flat(ringOf(corners, isClosedFlag(record)), numberOf(record, 38), isClosedFlag(record));
    }
    case 'POLYLINE':
      return polyline(record, flat);
    case 'POINT': {
      const at = pointOf(record, 10);
      return at ? [{ kind: 'spot', points: [at] }] : [];
    }
    case 'LINE': {
      const [a, b] = [pointOf(record, 10), pointOf(record, 11)];
      return a && b ? open([a, b]) : [];
    }
    case 'CIRCLE': {
      const at = pointOf(record, 10);
      const radius = numberOf(record, 40);
      if (!at || !(radius > 0)) return [];
      return flat(arcPoints([at[0], at[1]], radius, 0, 360).slice(0, -1), at[2], true);
    }
    case 'ARC': {
      const at = pointOf(record, 10);
      const radius = numberOf(record, 40);
      if (!at || !(radius > 0)) return [];
      return flat(
        arcPoints([at[0], at[1]], radius, numberOf(record, 50), numberOf(record, 51)),
        at[2],
        false,
      );
    }
    case 'ELLIPSE':
      return ellipse(record);
    case 'SPLINE':
      return spline(record, open);
    case 'HATCH':
      return hatch(record).map((ring) => flat(ring, numberOf(record, 30), true)[0]!);
    case '3DFACE':
    case 'SOLID':
    case 'TRACE':
      return fourCorners(record, toWorld, thickness);
    case 'MESH':
      return subdivisionMesh(record);
    default:
      return null;
  }
}

const isClosedFlag = (record: DxfRecord) => (numberOf(record, 70) & 1) === 1;

/** Corners of a flat polyline with the bulge of the stretch that begins at each. */
function bulged(record: DxfRecord): { at: Point2; bulge: number }[] {
  const corners: { at: [number, number]; bulge: number }[] = [];
  for (const [code, value] of record.fields) {
    if (code === 10) corners.push({ at: [Number(value), NaN], bulge: 0 });
    const last = corners.at(-1);
    if (!last) continue;
    if (code === 20) last.at[1] = Number(value);
    else if (code === 42) last.bulge = Number(value);
  }
  return corners;
}

function ringOf(all: readonly { at: Point2; bulge: number }[], isClosed: boolean): Point2[] {
  const corners = all.filter(({ at }) => Number.isFinite(at[0]) && Number.isFinite(at[1]));
  return corners.flatMap(({ at, bulge }, i) => {
    const next = corners[i + 1] ?? (isClosed ? corners[0] : null);
    return next ? bulgePoints(at, next.at, bulge) : [at];
  });
}

const FLAGS = { closed: 1, curveFit: 2, splineFit: 4, threeD: 8, mesh: 16, meshClosed: 32, polyface: 64 };

function polyline(
  record: DxfRecord,
  flat: (points: readonly Point2[], z: number, isClosed: boolean) => DxfShape[],
): DxfShape[] {
  const flags = numberOf(record, 70);
  const corners = record.parts.filter((part) => part.type === 'VERTEX');
  const at = (part: DxfRecord) => pointOf(part, 10) ?? ([0, 0, 0] as Point3);
  if (flags & FLAGS.polyface) {
    // Points first, then faces that name them; a negative number is an edge that is not seen.
    const points = corners.filter((part) => (numberOf(part, 70) & 64) !== 0).map(at);
    return corners
      .filter((part) => (numberOf(part, 70) & 128) !== 0 && (numberOf(part, 70) & 64) === 0)
      .map((part): DxfShape => {
        const named = [71, 72, 73, 74].map((code) => Math.abs(numberOf(part, code)));
        return {
          kind: 'face',
          points: named.flatMap((i) => (i > 0 && points[i - 1] ? [points[i - 1]!] : [])),
        };
      })
      .filter(({ points: face }) => face.length >= 3);
  }
  if (flags & FLAGS.mesh) {
    const [m, n] = [numberOf(record, 71), numberOf(record, 72)];
    // Of smoothed meshes, the corners that control them are left out.
    const points = corners.filter((part) => (numberOf(part, 70) & 16) === 0).map(at);
    if (m < 2 || n < 2 || points.length < m * n) return [];
    const [across, along] = [flags & FLAGS.closed ? m : m - 1, flags & FLAGS.meshClosed ? n : n - 1];
    return Array.from({ length: across * along }, (_, k): DxfShape => {
      const [i, j] = [Math.floor(k / along), k % along];
      const [i1, j1] = [(i + 1) % m, (j + 1) % n];
      return {
        kind: 'face',
        points: [points[i * n + j]!, points[i1 * n + j]!, points[i1 * n + j1]!, points[i * n + j1]!],
      };
    });
  }
  // Corners that only control a fitted curve lie beside it.
  const drawn = corners.filter((part) => (numberOf(part, 70) & 16) === 0);
  const isClosed = (flags & FLAGS.closed) !== 0;
  if (flags & FLAGS.threeD) return [{ kind: 'path', points: drawn.map(at), isClosed, thickness: 0 }];
  const stretches = drawn.map((part) => {
    const [x, y] = at(part);
    return { at: [x, y] as Point2, bulge: numberOf(part, 42) };
  });
  const level = pointOf(record, 10)?.[2] ?? 0;
  return flat(ringOf(stretches, isClosed), level, isClosed);
}

function ellipse(record: DxfRecord): DxfShape[] {
  const [centre, major] = [pointOf(record, 10), pointOf(record, 11)];
  const ratio = numberOf(record, 40);
  if (!centre || !major || !(ratio > 0)) return [];
  const normal = pointOf(record, 210) ?? [0, 0, 1];
  const minor = cross(normal, major).map((v) => v * ratio) as unknown as Point3;
  const [from, end] = [numberOf(record, 41), numberOf(record, 42, 2 * Math.PI)];
  const to = end > from ? end : end + 2 * Math.PI;
  const isClosed = to - from > 2 * Math.PI - 1e-6;
  const points = ellipsePoints(centre, major, minor, from, to);
  return [{ kind: 'path', points: isClosed ? points.slice(0, -1) : points, isClosed, thickness: 0 }];
}

/** Places that a curve goes through, at the most. */
const MAX_THROUGH = 500;

function spline(record: DxfRecord, open: (points: Point3[] | null) => DxfShape[]): DxfShape[] {
  const points = splinePoints({
    degree: numberOf(record, 71, 3),
    knots: numbersOf(record, 40),
    control: pointsOf(record, 10),
    weights: numbersOf(record, 41),
  });
  if (!points) {
    // Without its knots the places that it goes through are known, and how it leaves and reaches its ends.
    const through = pointsOf(record, 11).slice(0, MAX_THROUGH);
    if (through.length < 2) return [];
    const curve = splineThrough(through, isClosedFlag(record), [pointOf(record, 12), pointOf(record, 13)]);
    return isClosedFlag(record) && curve.length >= 3
      ? [{ kind: 'path', points: curve, isClosed: true, thickness: 0 }]
      : open(curve);
  }
  const [first, last] = [points[0]!, points.at(-1)!];
  const isClosed = isClosedFlag(record) || first.every((v, k) => Math.abs(v - last[k]!) < 1e-9);
  return [{ kind: 'path', points: isClosed ? points.slice(0, -1) : points, isClosed, thickness: 0 }];
}

function fourCorners(record: DxfRecord, toWorld: (p: Point3) => Point3, thickness: number): DxfShape[] {
  const corners = [10, 11, 12, 13].flatMap((code) => {
    const at = pointOf(record, code);
    return at ? [at] : [];
  });
  const isFace = record.type === '3DFACE';
  // The corners of a filled patch go crosswise.
  const ordered =
    !isFace && corners.length === 4 ? [corners[0]!, corners[1]!, corners[3]!, corners[2]!] : corners;
  const points = ordered.filter((p, i) => i === 0 || p.some((v, k) => v !== ordered[i - 1]![k]));
  if (points.length < 3) return [];
  if (isFace) return [{ kind: 'face', points }];
  return [{ kind: 'path', points: points.map(toWorld), isClosed: true, thickness }];
}

/** A mesh of faces with any number of corners, as it was before it was smoothed. */
function subdivisionMesh(record: DxfRecord): DxfShape[] {
  const points = pointsOf(record, 10);
  const shapes: DxfShape[] = [];
  const start = record.fields.findIndex(([code]) => code === 93);
  if (start < 0) return [];
  const list: number[] = [];
  for (let i = start + 1; i < record.fields.length && record.fields[i]![0] === 90; i++)
    list.push(Number(record.fields[i]![1]));
  for (let i = 0; i < list.length;) {
    const count = list[i]!;
    if (!(count >= 3) || i + count >= list.length) break;
    const face = list.slice(i + 1, i + 1 + count).flatMap((k) => (points[k] ? [points[k]!] : []));
    if (face.length >= 3) shapes.push({ kind: 'face', points: face });
    i += count + 1;
  }
  return shapes;
}

/** The rings of the boundary of a hatch. */
function hatch({ fields }: DxfRecord): Point2[][] {
  let at = fields.findIndex(([code]) => code === 91);
  if (at < 0) return [];
  const next = (code: number): number => {
    while (at < fields.length && fields[at]![0] !== code) at++;
    return at < fields.length ? Number(fields[at++]![1]) : NaN;
  };
  const here = () => fields[at]?.[0];
  const count = next(91);
  const rings: Point2[][] = [];
  for (let path = 0; path < Math.min(count, 10_000); path++) {
    const flags = next(92);
    if (Number.isNaN(flags)) break;
    const ring: Point2[] = [];
    if (flags & 2) {
      const hasBulge = next(72) === 1;
      const isClosed = next(73) !== 0;
      const corners = Array.from({ length: Math.min(next(93), 100_000) || 0 }, () => {
        const p: Point2 = [next(10), next(20)];
        return { at: p, bulge: hasBulge && here() === 42 ? next(42) : 0 };
      });
      ring.push(...ringOf(corners, isClosed));
    } else {
      const edges = Math.min(next(93), 100_000) || 0;
      for (let k = 0; k < edges; k++) ring.push(...hatchEdge(next(72), next, here));
    }
    if (ring.length >= 3) rings.push(ring);
  }
  return rings;
}

/** The places along one edge of the boundary of a hatch, without its last. */
function hatchEdge(kind: number, next: (code: number) => number, here: () => number | undefined): Point2[] {
  const flat = (points: readonly Point3[]) => points.slice(0, -1).map(([x, y]): Point2 => [x, y]);
  const rad = Math.PI / 180;
  if (kind === 1) {
    const from: Point2 = [next(10), next(20)];
    next(11);
    next(21);
    return [from];
  }
  if (kind === 2 || kind === 3) {
    const centre: Point3 = [next(10), next(20), 0];
    const major: Point3 = kind === 2 ? [next(40), 0, 0] : [next(11), next(21), 0];
    const ratio = kind === 2 ? 1 : next(40);
    const [from, end] = [next(50) * rad, next(51) * rad];
    const isForward = next(73) !== 0;
    // A clockwise edge has its angles told the other way round.
    const side = isForward ? 1 : -1;
    const minor: Point3 = [-major[1] * ratio * side, major[0] * ratio * side, 0];
    return flat(ellipsePoints(centre, major, minor, from, end > from ? end : end + 2 * Math.PI));
  }
  if (kind !== 4) return [];
  const degree = next(94);
  const isRational = next(73) === 1;
  next(74);
  const [knotCount, controlCount] = [next(95), next(96)];
  const knots = Array.from({ length: Math.min(knotCount, 10_000) || 0 }, () => next(40));
  const weights: number[] = [];
  const control = Array.from({ length: Math.min(controlCount, 10_000) || 0 }, (): Point3 => {
    const p: Point3 = [next(10), next(20), 0];
    if (isRational && here() === 42) weights.push(next(42));
    return p;
  });
  return flat(splinePoints({ degree, knots, control, weights }) ?? []);
}

/** Name of the block that a record places; null for other records. */
export const placedBlock = (record: DxfRecord): string | null =>
  record.type === 'INSERT' ? (field(record, 2) ?? '') : null;
