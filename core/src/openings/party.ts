import { type Face, wallFaces } from '../form/faces';
import { massLevels } from '../form/levels';
import { normalFootprint, type Plate, storeyPlate } from '../form/plates';
import { bounds, containsWithHoles, type Point2, type Ring } from '../geometry/ring';
import type { Ground, MassShape } from '../project/schema';

/** How near another body must come to a wall to make it a party wall, metres. */
export const PARTY_GAP_M = 0.05;

/** A part of a wall that another body covers, in the frame of the wall. */
export interface PartyPart {
  u0: number;
  u1: number;
  v0: number;
  v1: number;
  /** Name of the body that covers it. */
  by: string;
}

/** A body that may cover walls of others. */
export type Body = MassShape;

const reaches = new WeakMap<
  object,
  { ground: Ground; box: [number, number, number, number, number, number] }
>();

function reach(body: Body, ground: Ground) {
  const known = reaches.get(body);
  if (known && known.ground === ground) return known.box;
  const levels = massLevels(body, ground);
  const rings = body.storeys.map((_, i) => (storeyPlate(body, i) ?? normalFootprint(body.footprint)).outer);
  const { minX, minY, maxX, maxY } = bounds(new Set(rings).size === 1 ? rings[0]! : rings.flat());
  const box: [number, number, number, number, number, number] = [
    minX,
    minY,
    levels.bottomM,
    maxX,
    maxY,
    levels.topM,
  ];
  reaches.set(body, { ground, box });
  return box;
}

/** The bodies that come near enough to touch this one. */
export function touching(body: Body, others: readonly Body[], ground: Ground): Body[] {
  const a = reach(body, ground);
  return others.filter((other) => {
    if (other === body) return false;
    const b = reach(other, ground);
    for (let axis = 0; axis < 3; axis++)
      if (a[axis]! > b[axis + 3]! + PARTY_GAP_M || b[axis]! > a[axis + 3]! + PARTY_GAP_M) return false;
    return true;
  });
}

/** Parts of the walls of a body that others cover, by the key of the face. Faces without any are left out. */
export function partyParts(
  body: Body,
  others: readonly Body[],
  ground: Ground,
  faces: readonly Face[] = wallFaces(body, ground),
): Map<string, PartyPart[]> {
  const found = new Map<string, PartyPart[]>();
  for (const other of touching(body, others, ground)) {
    const slabs = storeySlabs(other, ground);
    for (const face of faces) {
      if (face.host.on !== 'wall') continue;
      const parts = slabs.flatMap((slab) => coveredBy(face, slab, other.name));
      if (parts.length) found.set(face.key, merge([...(found.get(face.key) ?? []), ...parts]));
    }
  }
  return found;
}

function storeySlabs(body: Body, ground: Ground): { plate: Plate; low: number; high: number }[] {
  const { bottomM, floorM } = massLevels(body, ground);
  let low = bottomM;
  let high = floorM;
  return body.storeys.map(({ heightM }, i) => {
    high += heightM;
    const slab = { plate: storeyPlate(body, i) ?? normalFootprint(body.footprint), low, high };
    low = high;
    return slab;
  });
}

function coveredBy(face: Face, slab: { plate: Plate; low: number; high: number }, by: string): PartyPart[] {
  const v0 = Math.max(face.outline[0]![1], slab.low - face.origin[2]);
  const v1 = Math.min(face.heightM, slab.high - face.origin[2]);
  if (v1 - v0 < 1e-6) return [];
  // The wall's line moved outwards by the gap: where it runs within the other body, the wall is covered.
  const at = (u: number): Point2 => [
    face.origin[0] + face.u[0] * u + face.normal[0] * PARTY_GAP_M,
    face.origin[1] + face.u[1] * u + face.normal[1] * PARTY_GAP_M,
  ];
  const stops = [0, face.lengthM];
  for (const ring of [slab.plate.outer, ...slab.plate.holes]) stops.push(...crossings(face, at(0), ring));
  stops.sort((a, b) => a - b);
  const parts: PartyPart[] = [];
  for (let i = 1; i < stops.length; i++) {
    const [u0, u1] = [stops[i - 1]!, stops[i]!];
    if (u1 - u0 < 1e-4 || !containsWithHoles(slab.plate, at((u0 + u1) / 2))) continue;
    const last = parts.at(-1);
    if (last && Math.abs(last.u1 - u0) < 1e-6) last.u1 = u1;
    else parts.push({ u0, u1, v0, v1, by });
  }
  return parts;
}

/** Where the line of a wall crosses a ring, as lengths along the wall. */
function crossings(face: Face, from: Point2, ring: Ring): number[] {
  const found: number[] = [];
  const [dx, dy] = [face.u[0], face.u[1]];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    const side = (x: Point2) => dx * (x[1] - from[1]) - dy * (x[0] - from[0]);
    const [a, b] = [side(p), side(q)];
    if (a > 0 === b > 0) return;
    const t = a / (a - b);
    const u = (p[0] + (q[0] - p[0]) * t - from[0]) * dx + (p[1] + (q[1] - p[1]) * t - from[1]) * dy;
    if (u > 0 && u < face.lengthM) found.push(u);
  });
  return found;
}

/** Parts over the same stretch of the wall that follow one another upwards become one. */
function merge(parts: PartyPart[]): PartyPart[] {
  const sorted = [...parts].sort((a, b) => a.u0 - b.u0 || a.v0 - b.v0);
  const out: PartyPart[] = [];
  for (const part of sorted) {
    const below = out.find(
      (o) =>
        o.by === part.by &&
        Math.abs(o.u0 - part.u0) < 1e-6 &&
        Math.abs(o.u1 - part.u1) < 1e-6 &&
        part.v0 <= o.v1 + 1e-6,
    );
    if (below) below.v1 = Math.max(below.v1, part.v1);
    else out.push({ ...part });
  }
  return out;
}

/** Stretches of a wall that nothing covers anywhere between two heights, as pairs of u. */
export function freeSpans(
  lengthM: number,
  parts: readonly PartyPart[],
  v0: number,
  v1: number,
): [number, number][] {
  const blocked = parts.filter((p) => p.v1 > v0 + 1e-6 && p.v0 < v1 - 1e-6).sort((a, b) => a.u0 - b.u0);
  const spans: [number, number][] = [];
  let from = 0;
  for (const part of blocked) {
    if (part.u0 - from > 1e-3) spans.push([from, part.u0]);
    from = Math.max(from, part.u1);
  }
  if (lengthM - from > 1e-3) spans.push([from, lengthM]);
  return spans;
}
