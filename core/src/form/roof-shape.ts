import { RAD } from '../civil';
import {
  centroid,
  clipHalfPlane,
  isConvex,
  type Point2,
  type Point3,
  type Ring,
  straightSkeleton,
} from '../geometry';
import type { Roof } from '../project';
import { normalFootprint, type Plate, storeyPlate } from './plates';

/** A flat part of a roof, corners anticlockwise seen from outside, z above the eaves. */
export interface RoofFace {
  points: Point3[];
  holes: Point3[][];
  /** Stands upright, as the glazed side of a sawtooth does. */
  upright: boolean;
}

/** A roof over a plate, z in metres above the eaves. */
export interface RoofShape {
  faces: RoofFace[];
  /** Upright wall between the eaves and the roof, with the edge of the outer ring it stands on (of a court: ring > 0). */
  gables: { ring: number; edge: number; points: Point3[] }[];
  topM: number;
}

interface Roofed {
  footprint: { outer: Ring; holes: readonly Ring[] };
  storeys: readonly { setbacksM?: readonly number[] | undefined }[];
  roof: Roof;
}

/** What keeps this roof from standing on this mass, as a sentence, or null. */
export function roofProblem(mass: Roofed): string | null {
  const { roof } = mass;
  const plate = storeyPlate(mass, mass.storeys.length - 1) ?? normalFootprint(mass.footprint);
  const { outer, holes } = plate;
  if (roof.kind === 'gable' && (outer.length !== 4 || holes.length > 0))
    return 'A gable roof needs a footprint of four corners without courts.';
  if ((roof.kind === 'pyramid' || roof.kind === 'hip' || roof.kind === 'sawtooth') && holes.length > 0)
    return `A ${roof.kind} roof cannot stand over a footprint with courts.`;
  if (roof.kind === 'sawtooth' && !isConvex(outer))
    return 'A sawtooth roof needs a footprint without inward corners; split the mass in two.';
  if (roof.kind === 'hip' && outer.length > MAX_HIP_CORNERS)
    return `A hip roof can stand over at most ${MAX_HIP_CORNERS} corners, not ${outer.length}; take corners out, or split the mass.`;
  if (roof.kind === 'hip' && !straightSkeleton(outer))
    return 'A hip roof cannot be formed over this footprint; take corners out, or split the mass in two.';
  return null;
}

/** Corners that a hip roof may have: its ridges are found in cubic time. */
const MAX_HIP_CORNERS = 120;

const shapes = new WeakMap<Plate, { roof: Roof; shape: RoofShape }>();

/** The roof over a plate. The roof must be one that `roofProblem` lets stand. */
export function roofShape(plate: Plate, roof: Roof): RoofShape {
  const known = shapes.get(plate);
  if (known && known.roof === roof) return known.shape;
  const shape = makeShape(plate, roof);
  shapes.set(plate, { roof, shape });
  return shape;
}

function makeShape(plate: Plate, roof: Roof): RoofShape {
  switch (roof.kind) {
    case 'flat':
      return {
        faces: [
          { points: raised(plate.outer), holes: plate.holes.map((hole) => raised(hole)), upright: false },
        ],
        gables: [],
        topM: roof.parapetM,
      };
    case 'gable':
      return gable(plate.outer, roof.riseM);
    case 'pyramid':
      return pyramid(plate.outer, roof.riseM);
    case 'mono':
      return mono(plate, roof.riseM, roof.fallsTowardsDeg);
    case 'hip':
      return hip(plate.outer, Math.tan(roof.pitchDeg * RAD));
    case 'sawtooth':
      return sawtooth(plate.outer, roof);
  }
}

function raised(ring: Ring, height: (p: Point2) => number = () => 0): Point3[] {
  return ring.map((p) => [p[0], p[1], height(p)]);
}

function face(points: Point3[]): RoofFace {
  return { points, holes: [], upright: false };
}

function gable(outer: Ring, riseM: number): RoofShape {
  const side = (i: number) =>
    Math.hypot(outer[(i + 1) % 4]![0] - outer[i]![0], outer[(i + 1) % 4]![1] - outer[i]![1]);
  const turn = side(0) + side(2) >= side(1) + side(3) ? 0 : 1;
  const corner = (i: number) => outer[(i + turn) % 4]!;
  const at = (i: number): Point3 => [...corner(i), 0];
  const ridge = (i: number, j: number): Point3 => [
    (corner(i)[0] + corner(j)[0]) / 2,
    (corner(i)[1] + corner(j)[1]) / 2,
    riseM,
  ];
  const m12 = ridge(1, 2);
  const m30 = ridge(3, 0);
  return {
    faces: [face([at(0), at(1), m12, m30]), face([at(2), at(3), m30, m12])],
    gables: [
      { ring: 0, edge: (1 + turn) % 4, points: [at(1), at(2), m12] },
      { ring: 0, edge: (3 + turn) % 4, points: [at(3), at(0), m30] },
    ],
    topM: riseM,
  };
}

function pyramid(outer: Ring, riseM: number): RoofShape {
  const apex: Point3 = [...centroid(outer), riseM];
  return {
    faces: outer.map((p, i) => face([[...p, 0], [...outer[(i + 1) % outer.length]!, 0], apex])),
    gables: [],
    topM: riseM,
  };
}

function direction(bearingDeg: number): Point2 {
  return [Math.sin(bearingDeg * RAD), Math.cos(bearingDeg * RAD)];
}

function mono(plate: Plate, riseM: number, fallsTowardsDeg: number): RoofShape {
  const fall = direction(fallsTowardsDeg);
  const along = (p: Point2) => p[0] * fall[0] + p[1] * fall[1];
  const all = plate.outer.map(along);
  const low = Math.max(...all);
  const span = low - Math.min(...all);
  const height = (p: Point2) => {
    const z = ((low - along(p)) / span) * riseM;
    return z < 1e-9 ? 0 : z;
  };
  return {
    faces: [
      {
        points: raised(plate.outer, height),
        holes: plate.holes.map((hole) => raised(hole, height)),
        upright: false,
      },
    ],
    gables: [plate.outer, ...plate.holes].flatMap((ring, r) => sideWalls(ring, r, height)),
    topM: riseM,
  };
}

/** Walls between the eaves and a roof whose height over each corner is known. */
function sideWalls(ring: Ring, r: number, height: (p: Point2) => number): RoofShape['gables'] {
  return ring.flatMap((p, edge) => {
    const q = ring[(edge + 1) % ring.length]!;
    const points: Point3[] = [
      [...p, 0],
      [...q, 0],
    ];
    if (height(q) > 0) points.push([...q, height(q)]);
    if (height(p) > 0) points.push([...p, height(p)]);
    return points.length > 2 ? [{ ring: r, edge, points }] : [];
  });
}

function hip(outer: Ring, slope: number): RoofShape {
  const faces = straightSkeleton(outer);
  if (!faces) return { faces: [face(raised(outer))], gables: [], topM: 0 };
  return {
    faces: faces.map((points) => face(points.map(([x, y, d]): Point3 => [x, y, d * slope]))),
    gables: [],
    topM: Math.max(...faces.flat().map(([, , d]) => d * slope)),
  };
}

function sawtooth(
  outer: Ring,
  { riseM, teeth, facesDeg }: { riseM: number; teeth: number; facesDeg: number },
): RoofShape {
  const towards = direction(facesDeg);
  const along = (p: Point2) => p[0] * towards[0] + p[1] * towards[1];
  const all = outer.map(along);
  const start = Math.min(...all);
  const width = (Math.max(...all) - start) / teeth;
  const shape: RoofShape = { faces: [], gables: [], topM: riseM };
  for (let tooth = 0; tooth < teeth; tooth++) {
    const from = start + tooth * width;
    const to = from + width;
    // The outer ends are those of the footprint itself: cutting there would split its edges by rounding.
    const above = tooth === 0 ? outer : clipHalfPlane(outer, -towards[0], -towards[1], -from);
    const strip = tooth === teeth - 1 ? [...above] : clipHalfPlane(above, towards[0], towards[1], to);
    const height = (p: Point2) => {
      const t = (along(p) - from) / width;
      return t < 1e-9 ? 0 : t > 1 - 1e-9 ? riseM : t * riseM;
    };
    shape.faces.push(face(raised(strip, height)));
    strip.forEach((p, i) => {
      const q = strip[(i + 1) % strip.length]!;
      const points: Point3[] = [
        [...p, 0],
        [...q, 0],
      ];
      if (height(q) > 0) points.push([...q, height(q)]);
      if (height(p) > 0) points.push([...p, height(p)]);
      if (points.length < 3) return;
      const isUpright = height(p) === riseM && height(q) === riseM;
      const edge = edgeUnder(outer, p, q);
      if (isUpright) shape.faces.push({ points, holes: [], upright: true });
      else if (edge >= 0) shape.gables.push({ ring: 0, edge, points });
    });
  }
  return shape;
}

/** The edge of the ring on which both points lie, or −1. */
function edgeUnder(ring: Ring, p: Point2, q: Point2): number {
  const off = (point: Point2, a: Point2, b: Point2) =>
    Math.abs((b[0] - a[0]) * (point[1] - a[1]) - (b[1] - a[1]) * (point[0] - a[0])) /
    Math.hypot(b[0] - a[0], b[1] - a[1]);
  return ring.findIndex((a, i) => {
    const b = ring[(i + 1) % ring.length]!;
    return off(p, a, b) < 1e-6 && off(q, a, b) < 1e-6;
  });
}
