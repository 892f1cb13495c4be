import {
  bounds,
  clipBox,
  dot,
  intersectPolygons,
  type Point2,
  type Point3,
  type Polygon,
  signedArea,
  unitePolygons,
} from '../geometry';
import { passedShare, type Piece } from '../scene';
import { type CastingFace, castingFaces } from './faces';

/** A flat surface that receives shade, in two coordinates of its own. */
export interface FlatReceiver {
  /** Unit normal of the side that receives, and its plane: normal · p = offset. */
  normal: Point3;
  offset: number;
  /** A place of the plane in the receiver's coordinates, and back. */
  flat(p: Point3): Point2;
  lift(p: Point2): Point3;
  /** What of the plane receives. */
  regions: readonly Polygon[];
  /** Area of the surface for each unit of area in these coordinates. */
  stretch: number;
}

/** A face as the sun sees it: its box across the sun's rays, and how near to the sun its nearest corner is, metres. */
interface Caster extends Seen {
  rings: readonly (readonly Point3[])[];
}

interface Seen {
  minA: number;
  maxA: number;
  minB: number;
  maxB: number;
  /** Along the way to the sun. */
  least: number;
  most: number;
}

/** What throws shade in the light of one sun. */
export interface Casters {
  /** Unit vector towards the sun. */
  sun: Point3;
  faces: readonly Caster[];
  seen(rings: readonly (readonly Point3[])[]): Seen;
}

/** The faces of pieces that throw shade in the light of a sun: those turned to it; of what is no closed solid, all. */
export function castersOf(pieces: readonly Piece[], sun: Point3): Casters {
  return prepared(
    sun,
    pieces.flatMap((piece) => {
      const { faces, isClosed } = castingFaces(piece);
      return faces.filter(({ normal }) => {
        const turned = dot(normal, sun);
        return isClosed ? turned > 1e-9 : Math.abs(turned) > 1e-9;
      });
    }),
  );
}

/** Something that lets a share of the sun pass, and what throws its paler shade. */
export interface PassingCasters {
  /** Index of the piece. */
  owner: number;
  transmittance: number;
  casters: Casters;
}

/**
 * What lets light pass in the light of a sun, piece by piece and share by share: crowns, fences, open meshes. Panes in
 * openings are left out: what they light lies in rooms.
 * @param day month × 100 + day
 */
export function passingCastersOf(pieces: readonly Piece[], sun: Point3, day: number): PassingCasters[] {
  return pieces.flatMap((piece, owner) => {
    const byShare = new Map<number, CastingFace[]>();
    for (const face of castingFaces(piece).passing) {
      const cosine = Math.abs(dot(face.normal, sun));
      if (face.isPane || cosine <= 1e-9) continue;
      const share = Math.round(passedShare(face.passing!, cosine, day) * 1000) / 1000;
      const there = byShare.get(share);
      if (there) there.push(face);
      else byShare.set(share, [face]);
    }
    return [...byShare].map(([transmittance, faces]) => ({
      owner,
      transmittance,
      casters: prepared(sun, faces),
    }));
  });
}

/** Faces with their boxes across the rays of the sun. */
function prepared(sun: Point3, faces: readonly CastingFace[]): Casters {
  const [sx, sy, sz] = sun;
  const across = Math.hypot(sx, sy);
  const a: Point3 = across > 1e-9 ? [-sy / across, sx / across, 0] : [1, 0, 0];
  const b: Point3 = [sy * a[2] - sz * a[1], sz * a[0] - sx * a[2], sx * a[1] - sy * a[0]];
  const [ax, ay, az] = a;
  const [bx, by, bz] = b;
  const [cx, cy, cz] = sun;
  const seen = (rings: readonly (readonly Point3[])[]): Seen => {
    let [minA, maxA, minB, maxB, least, most] = [
      Infinity,
      -Infinity,
      Infinity,
      -Infinity,
      Infinity,
      -Infinity,
    ];
    for (const ring of rings)
      for (const p of ring) {
        const [x, y, z] = p;
        const pa = x * ax + y * ay + z * az;
        const pb = x * bx + y * by + z * bz;
        const ps = x * cx + y * cy + z * cz;
        if (pa < minA) minA = pa;
        if (pa > maxA) maxA = pa;
        if (pb < minB) minB = pb;
        if (pb > maxB) maxB = pb;
        if (ps < least) least = ps;
        if (ps > most) most = ps;
      }
    return { minA, maxA, minB, maxB, least, most };
  };
  const casters: Caster[] = new Array<Caster>(faces.length);
  for (let i = 0; i < faces.length; i++) {
    const { rings } = faces[i]!;
    const { minA, maxA, minB, maxB, least, most } = seen(rings);
    casters[i] = { rings, minA, maxA, minB, maxB, least, most };
  }
  return { sun, faces: casters, seen };
}

/** What throws shade of two sets, in the light of one sun. */
export function castersTogether(one: Casters, other: Casters): Casters {
  return { ...one, faces: [...one.faces, ...other.faces] };
}

/** Nearer to a receiver's plane than this, nothing stands on the sun's side of it, metres. */
const ON_M = 1e-5;

/**
 * The shade that falls on a flat receiver, exact: faces that throw shade are cut at the receiver's plane, so that only what
 * stands on the sun's side counts, carried along the sun onto it, united, and cut to the receiver. A receiver that is
 * turned away from the sun lies in shade altogether.
 * @see docs/methods.md, exact shade
 */
export function castShade(receiver: FlatReceiver, { sun, faces, seen }: Casters): Polygon[] {
  const { normal, regions, lift } = receiver;
  if (regions.length === 0) return [];
  const facing = dot(normal, sun);
  if (facing <= 1e-9) return [...regions];
  const outlines = regions.flatMap(({ outer }) => outer);
  const box = bounds(outlines);
  const own = seen([outlines.map(lift)]);
  const cast: Polygon[] = [];
  for (const face of faces) {
    if (
      face.most < own.least ||
      face.minA > own.maxA ||
      face.maxA < own.minA ||
      face.minB > own.maxB ||
      face.maxB < own.minB
    )
      continue;
    const shade = face.rings
      .map((ring) => carried(ring, receiver, sun, facing, box))
      .filter((r) => r.length > 2);
    // Outlines run one way and holes the other, whichever way the face is seen; together outlines enclose more.
    const areas = shade.map(signedArea);
    const way = Math.sign(areas.reduce((sum, area) => sum + area, 0));
    const holes = shade.filter((_, i) => areas[i]! * way < 0);
    const outer = shade.filter((_, i) => areas[i]! * way > 0);
    outer.forEach((ring, i) => cast.push({ outer: ring, holes: i === 0 ? holes : [] }));
  }
  return cast.length ? intersectPolygons(unitePolygons(cast), regions) : [];
}

type Box = ReturnType<typeof bounds>;

/** A ring cut at the receiver's plane, carried along the sun onto it, and cut to the receiver's box. */
function carried(
  ring: readonly Point3[],
  { normal, offset, flat }: FlatReceiver,
  sun: Point3,
  facing: number,
  box: Box,
): Point2[] {
  const heights = ring.map((p) => dot(p, normal) - offset);
  if (heights.every((height) => height <= ON_M)) return [];
  const shade: Point2[] = [];
  const put = (p: Point3, height: number) => {
    const way = height / facing;
    shade.push(flat([p[0] - sun[0] * way, p[1] - sun[1] * way, p[2] - sun[2] * way]));
  };
  ring.forEach((p, i) => {
    const k = (i + 1) % ring.length;
    const q = ring[k]!;
    const [a, b] = [heights[i]!, heights[k]!];
    if (a >= 0) put(p, a);
    if (a >= 0 !== b >= 0) {
      const s = a / (a - b);
      put([p[0] + (q[0] - p[0]) * s, p[1] + (q[1] - p[1]) * s, p[2] + (q[2] - p[2]) * s], 0);
    }
  });
  // A little larger than the receiver: what runs along the sides encloses nothing.
  const { minX, minY, maxX, maxY } = box;
  const room = 0.01 * (maxX - minX + maxY - minY) + 0.01;
  return clipBox(shade, minX - room, minY - room, maxX + room, maxY + room);
}
