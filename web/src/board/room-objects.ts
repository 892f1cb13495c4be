import { formatLength, type Camera, type Point3, RAD, type RayStretch, type Units } from '@dial-shade/core';
import type { Object3D } from 'three';
import { SCENE } from '../theme/palette';
import type { RoomFound } from '../workers/room-work';
import { cutOf } from './cut';
import type { Label } from './label-layer';
import { polyline, segments } from './overlay-lines';

/** A ray that limits how far the sun reaches into a room. */
export interface DrawnRay {
  at: Point3;
  through: Point3;
  vsaDeg: number;
  depthM: number;
  /** Azimuth of the facade from drawing north, degrees. */
  facadeBearingDeg: number;
}

/** How much of a ray is drawn before it comes in, metres. */
const BEFORE_M = 2.2;
const ARC_M = 0.9;
/** How far lines are held behind the plane of a cut: farther than lines are lifted towards the eye, metres. */
const OFF_M = 0.12;

/** The sun in rooms as it is drawn: sunlit outlines, the limiting ray of one room, and those of other moments. */
export interface RoomsShown {
  lit: RoomFound['lit'];
  ray: DrawnRay | null;
  fan: readonly { label: string; ray: DrawnRay }[];
}

/** Everything that is drawn of the sun in rooms. */
export function roomObjects(
  { lit, ray, fan }: RoomsShown,
  camera: Camera | null,
  units: Units,
  theme: 'light' | 'dark',
): { lines: Object3D[]; labels: Label[] } {
  const many = fanObjects(fan, camera, theme);
  const one = ray ? rayObjects(ray, camera, units, theme) : { lines: [], labels: [] };
  return {
    lines: [...litOutlines(lit, camera, theme), ...many.lines, ...one.lines],
    labels: [...one.labels, ...many.labels],
  };
}

/** Outlines of sunlit polygons; only a cut opens the view to what lies behind walls. */
function litOutlines(lit: RoomsShown['lit'], camera: Camera | null, theme: 'light' | 'dark'): Object3D[] {
  const isCut = camera !== null && cutOf(camera) !== null;
  const points = lit.flatMap(({ outer, holes }) => [outer, ...holes].flatMap((ring) => polyline(ring, true)));
  return points.length ? [segments(points, SCENE[theme].sun, 1, 13, isCut)] : [];
}

/** Moves points onto the cut of a section, or of a plan too, so that nothing of them is cut away; elsewhere they stay. */
function ontoCut(camera: Camera | null, plansToo = false): (p: Point3) => Point3 {
  const plane = camera && (camera.kind === 'upright' || plansToo) ? cutOf(camera) : null;
  if (!plane) return (p) => p;
  const { origin, n } = plane;
  return (p) => {
    const off = (p[0] - origin[0]) * n[0] + (p[1] - origin[1]) * n[1] + (p[2] - origin[2]) * n[2] + OFF_M;
    return [p[0] - n[0] * off, p[1] - n[1] * off, p[2] - n[2] * off];
  };
}

/** The limiting ray with its angle at the head and its depth on the floor. */
function rayObjects(
  ray: DrawnRay,
  camera: Camera | null,
  units: Units,
  theme: 'light' | 'dark',
): { lines: Object3D[]; labels: Label[] } {
  const { at, through, vsaDeg, depthM } = ray;
  const put = ontoCut(camera);
  const out = outwards(ray.facadeBearingDeg);
  const length = Math.hypot(...([0, 1, 2].map((k) => through[k]! - at[k]!) as [number, number, number])) || 1;
  const beyond = along(through, at, -BEFORE_M / length);
  // Square from the facade: the foot lies straight inward of where the floor's farthest sunlit place is.
  const foot: Point3 = [at[0] + out[0] * depthM, at[1] + out[1] * depthM, at[2]];
  const across: Point3 = [-out[1] * 0.18, out[0] * 0.18, 0];
  const tick = (p: Point3): Point3[] => [
    [p[0] + across[0], p[1] + across[1], p[2] - 0.12],
    [p[0] - across[0], p[1] - across[1], p[2] + 0.12],
  ];
  const arc = Array.from({ length: 13 }, (_, i): Point3 => {
    const a = (vsaDeg * RAD * i) / 12;
    return [
      through[0] - out[0] * ARC_M * Math.cos(a),
      through[1] - out[1] * ARC_M * Math.cos(a),
      through[2] - ARC_M * Math.sin(a),
    ];
  });
  const level: Point3 = [through[0] - out[0] * ARC_M * 1.5, through[1] - out[1] * ARC_M * 1.5, through[2]];
  const lines = [
    segments(polyline([beyond, at].map(put)), SCENE[theme].sun, 1, 14, true),
    segments(
      [
        ...polyline(arc.map(put)),
        ...polyline([through, level].map(put)),
        ...polyline([foot, at].map(put)),
        ...polyline(tick(foot).map(put)),
        ...polyline(tick(at).map(put)),
      ],
      SCENE[theme].accent,
      1,
      14,
      true,
    ),
  ];
  const middle = along(foot, at, 0.5);
  const beside = arc[7]!;
  return {
    lines,
    labels: [
      {
        text: formatLength(depthM, units, 2),
        at: [...put([middle[0], middle[1], middle[2] + 0.02])],
        className: 'dimension ray',
      },
      {
        text: `VSA ${vsaDeg.toFixed(1)}°`,
        at: [...put([beside[0] - out[0] * 0.9, beside[1] - out[1] * 0.9, beside[2]])],
        className: 'dimension ray',
      },
    ],
  };
}

/** The rays of several moments into one room, thin, each with its clock at the floor. */
function fanObjects(
  fan: readonly { label: string; ray: DrawnRay }[],
  camera: Camera | null,
  theme: 'light' | 'dark',
): { lines: Object3D[]; labels: Label[] } {
  const put = ontoCut(camera);
  const points = fan.flatMap(({ ray: { at, through } }) => {
    const length =
      Math.hypot(...([0, 1, 2].map((k) => through[k]! - at[k]!) as [number, number, number])) || 1;
    return polyline([along(through, at, -BEFORE_M / length), at].map(put));
  });
  return {
    lines: points.length ? [segments(points, SCENE[theme].sun, 0.55, 13, true)] : [],
    labels: fan.map(({ label, ray }, i) => {
      const [x, y, z] = put(ray.at);
      return {
        text: label,
        at: [x, y, z - 0.25 - 0.22 * (i % 3)] as [number, number, number],
        className: 'fan',
      };
    }),
  };
}

const along = (a: Point3, b: Point3, t: number): Point3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

function outwards(bearingDeg: number): Point3 {
  return [Math.sin(bearingDeg * RAD), Math.cos(bearingDeg * RAD), 0];
}

/** Rays into a room: from the sun in its colour, mirrored ones strong, spread ones faint beneath. */
export function rayStretches(
  stretches: readonly RayStretch[],
  camera: Camera | null,
  theme: 'light' | 'dark',
): Object3D[] {
  const put = ontoCut(camera, true);
  const isCut = camera !== null && cutOf(camera) !== null;
  const { sun, accent } = SCENE[theme];
  return (
    [
      [({ bounce, isSpread }: RayStretch) => bounce > 0 && isSpread, accent, 0.13, 12.4],
      [({ bounce, isSpread }: RayStretch) => bounce > 0 && !isSpread, accent, 0.85, 12.6],
      [({ bounce }: RayStretch) => bounce === 0, sun, 0.8, 12.8],
    ] as const
  ).flatMap(([isOf, colour, strength, order]) => {
    const points = stretches.filter(isOf).flatMap(({ from, to }) => [...put(from), ...put(to)]);
    return points.length ? [segments(points, colour, strength, order, isCut)] : [];
  });
}

/** A strip as a line, or what has been drawn of it. */
export function stripLines(
  { from, to }: { from: Point3; to: Point3 },
  camera: Camera | null,
  theme: 'light' | 'dark',
): Object3D[] {
  const put = ontoCut(camera);
  const [a, b] = [put(from), put(to)];
  const aside = (p: Point3, dz: number): Point3 => [p[0], p[1], p[2] + dz];
  const lines = [0, 0.02, 0.04].flatMap((dz) => [...aside(a, dz), ...aside(b, dz)]);
  return [segments(lines, SCENE[theme].ink, 1, 15, true)];
}
