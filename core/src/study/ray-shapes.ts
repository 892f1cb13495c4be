import { InputError } from '../errors';
import type { Face } from '../form';
import { contains, cross, dot, minus, plus, type Point2, type Point3 } from '../geometry';

/** How a surface reflects: its share of what falls on it, and of that share how much as a mirror; the rest is spread. */
export interface Reflecting {
  reflectance: number;
  mirror: number;
}

/** A strip that is tried before it is modelled: a line in a section, running along the facade to both sides of it. */
export interface Strip extends Reflecting {
  from: Point3;
  to: Point3;
  widthM: number;
}

/** How far from a surface a ray goes on, metres. */
export const OFF_M = 1e-4;
/** Points of a grid after which it is not laid any further: it is refused then. */
export const MAX_POINTS = 20_000;

export const mirrored = (d: Point3, n: Point3): Point3 => plus(d, n, -2 * dot(d, n));

/** A strip as a rectangle. */
export interface StripPlane {
  strip: Strip;
  origin: Point3;
  along: Point3;
  across: Point3;
  normal: Point3;
  lengthM: number;
}

export function stripPlane(strip: Strip, face: Face): StripPlane {
  const way = minus(strip.to, strip.from);
  const lengthM = Math.hypot(...way);
  const along = way.map((v) => v / lengthM) as unknown as Point3;
  const across = face.u;
  const n = cross(along, across);
  const size = Math.hypot(...n);
  if (size < 1e-3)
    throw new InputError('rays', 'The strip must not run along the facade; draw it in a section.');
  const normal = n.map((v) => v / size) as unknown as Point3;
  return { strip, origin: strip.from, along, across, normal, lengthM };
}

/** How far along a way a strip is met, or null. */
export function meetStrip(
  { strip, origin, along, across, normal, lengthM }: StripPlane,
  from: Point3,
  way: Point3,
): number | null {
  const falls = dot(way, normal);
  if (Math.abs(falls) < 1e-12) return null;
  const reach = dot(minus(origin, from), normal) / falls;
  if (reach <= OFF_M / 2) return null;
  const at = minus(plus(from, way, reach), origin);
  // Along and across need not be square to one another.
  const skew = dot(along, across);
  const [a, c] = [dot(at, along), dot(at, across)];
  const s = (a - c * skew) / (1 - skew * skew);
  const t = (c - a * skew) / (1 - skew * skew);
  return s >= 0 && s <= lengthM && Math.abs(t) <= strip.widthM / 2 ? reach : null;
}

export function gridOnStrip({ strip, origin, along, across, lengthM }: StripPlane, spacingM: number) {
  const sine = Math.hypot(...cross(along, across));
  const [n, m] = [lengthM, strip.widthM].map((length) => Math.max(1, Math.round(length / spacingM))) as [
    number,
    number,
  ];
  const areaM2 = (lengthM / n) * (strip.widthM / m) * sine;
  return Array.from({ length: n * m }, (_, i) => ({
    at: plus(
      plus(origin, along, ((i % n) + 0.5) * (lengthM / n)),
      across,
      (Math.floor(i / n) + 0.5) * (strip.widthM / m) - strip.widthM / 2,
    ),
    areaM2,
  }));
}

/** Middles of the cells of a regular grid that lie in an outline, with the area of a cell. */
export function gridIn(outline: readonly Point2[], spacingM: number): { at: Point2; areaM2: number }[] {
  const xs = outline.map(([x]) => x);
  const ys = outline.map(([, y]) => y);
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
  const [w, h] = [Math.max(...xs) - x0, Math.max(...ys) - y0];
  const [n, m] = [w, h].map((length) => Math.max(1, Math.round(length / spacingM))) as [number, number];
  const found: { at: Point2; areaM2: number }[] = [];
  for (let i = 0; i < n * m && found.length <= MAX_POINTS; i++) {
    const at: Point2 = [x0 + ((i % n) + 0.5) * (w / n), y0 + (Math.floor(i / n) + 0.5) * (h / m)];
    if (contains(outline, at)) found.push({ at, areaM2: (w / n) * (h / m) });
  }
  return found;
}

const fans = new Map<string, Point3[]>();

/** Directions about a normal that each carry the same of a surface's spread light: equal areas of the disc below them. */
export function cosineFan(normal: Point3, n: number): Point3[] {
  const key = `${n}:${normal.map((v) => Math.round(v * 1e9)).join()}`;
  let fan = fans.get(key);
  if (!fan) {
    if (fans.size > 500) fans.clear();
    fan = makeFan(normal, n);
    fans.set(key, fan);
  }
  return fan;
}

function makeFan(normal: Point3, n: number): Point3[] {
  const u: Point3 = Math.abs(normal[2]) > 0.9 ? [1, 0, 0] : [-normal[1], normal[0], 0];
  const size = Math.hypot(...u);
  const a = u.map((v) => v / size) as unknown as Point3;
  const b = cross(normal, a);
  return Array.from({ length: n }, (_, i) => {
    const r = Math.sqrt((i + 0.5) / n);
    const turn = i * Math.PI * (3 - Math.sqrt(5));
    const up = Math.sqrt(1 - r * r);
    return [0, 1, 2].map(
      (k) => a[k]! * r * Math.cos(turn) + b[k]! * r * Math.sin(turn) + normal[k]! * up,
    ) as unknown as Point3;
  });
}
