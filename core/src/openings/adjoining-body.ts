import {
  type Face,
  massLevels,
  modelVertices,
  normalFootprint,
  type PlacedModel,
  type Plate,
  storeyPlate,
} from '../form';
import {
  bounds,
  containsWithHoles,
  dot,
  type Mesh,
  type Point2,
  type Point3,
  type Ring,
  signedArea,
} from '../geometry';
import type { Ground, MassShape } from '../project';

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

type Box = readonly [number, number, number, number, number, number];

/** Something that may stand against walls of others. The same body gives the same object until it or the ground changes. */
export interface AdjoiningBody {
  /** Least x, y, z and largest x, y, z. */
  box: Box;
  /** The parts of a wall that it covers. */
  partsOn(face: Face): PartyPart[];
}

const bodies = new WeakMap<MassShape, { ground: Ground; adjoining: AdjoiningBody }>();

/** A mass or building as it may cover walls of others. */
export function adjoiningMass(body: MassShape, ground: Ground): AdjoiningBody {
  const known = bodies.get(body);
  if (known?.ground === ground) return known.adjoining;
  const levels = massLevels(body, ground);
  const rings = body.storeys.map((_, i) => (storeyPlate(body, i) ?? normalFootprint(body.footprint)).outer);
  const { minX, minY, maxX, maxY } = bounds(new Set(rings).size === 1 ? rings[0]! : rings.flat());
  let slabs: Slab[] | null = null;
  const adjoining: AdjoiningBody = {
    box: [minX, minY, levels.bottomM, maxX, maxY, levels.topM],
    partsOn(face) {
      slabs ??= storeySlabs(body, ground);
      return slabs.flatMap((slab) => coveredBy(face, slab, body.name));
    },
  };
  bodies.set(body, { ground, adjoining });
  return adjoining;
}

const models = new WeakMap<PlacedModel, { mesh: Mesh; adjoining: AdjoiningBody }>();

/** An imported mesh as it may cover walls of others. */
export function adjoiningModel(model: PlacedModel & { name: string }, mesh: Mesh): AdjoiningBody {
  const known = models.get(model);
  if (known?.mesh === mesh) return known.adjoining;
  const vertices = modelVertices(model, mesh);
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  vertices.forEach((value, i) => {
    if (value < low[i % 3]!) low[i % 3] = value;
    if (value > high[i % 3]!) high[i % 3] = value;
  });
  const adjoining: AdjoiningBody = {
    box: [low[0]!, low[1]!, low[2]!, high[0]!, high[1]!, high[2]!],
    partsOn: (face) => coveredByMesh(face, vertices, mesh.triangles, model.name),
  };
  models.set(model, { mesh, adjoining });
  return adjoining;
}

/** Side of the squares of the plan by which bodies are looked up, metres. */
const SQUARE_M = 24;

/** Bodies by where they stand, so that those near a wall are found without asking every other. */
export class SpatialIndex {
  private readonly squares = new Map<string, number[]>();
  private readonly wide: number[] = [];

  constructor(private readonly adjoining: readonly AdjoiningBody[]) {
    adjoining.forEach(({ box }, i) => {
      const squares = squaresOf(box);
      if (!squares) this.wide.push(i);
      else
        for (const key of squares) {
          const there = this.squares.get(key);
          if (there) there.push(i);
          else this.squares.set(key, [i]);
        }
    });
  }

  /** The others that come near enough to touch one of them, in the order in which they were given. */
  near(one: AdjoiningBody): AdjoiningBody[] {
    const squares = squaresOf(one.box);
    const candidates = squares
      ? [...new Set([...this.wide, ...squares.flatMap((key) => this.squares.get(key) ?? [])])].sort(
          (a, b) => a - b,
        )
      : this.adjoining.keys();
    const found: AdjoiningBody[] = [];
    for (const i of candidates) {
      const other = this.adjoining[i]!;
      if (other !== one && boxesTouch(one.box, other.box)) found.push(other);
    }
    return found;
  }
}

/** The squares that a box and the gap round it lie over; null when they are too many to list. */
function squaresOf(box: Box): string[] | null {
  const at = (value: number) => Math.floor(value / SQUARE_M);
  const [x0, y0] = [at(box[0] - PARTY_GAP_M), at(box[1] - PARTY_GAP_M)];
  const [x1, y1] = [at(box[3] + PARTY_GAP_M), at(box[4] + PARTY_GAP_M)];
  if (!((x1 - x0 + 1) * (y1 - y0 + 1) <= 64)) return null;
  const keys: string[] = [];
  for (let x = x0; x <= x1; x++) for (let y = y0; y <= y1; y++) keys.push(`${x},${y}`);
  return keys;
}

function boxesTouch(a: Box, b: Box): boolean {
  for (let axis = 0; axis < 3; axis++)
    if (a[axis]! > b[axis + 3]! + PARTY_GAP_M || b[axis]! > a[axis + 3]! + PARTY_GAP_M) return false;
  return true;
}

interface Slab {
  plate: Plate;
  low: number;
  high: number;
}

function storeySlabs(body: MassShape, ground: Ground): Slab[] {
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

function coveredBy(face: Face, slab: Slab, by: string): PartyPart[] {
  const v0 = Math.max(lowest(face), slab.low - face.origin[2]);
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

/** Width of the strips in which the cover of a mesh is told, metres. */
const STRIP_M = 0.1;

/** The parts of a wall that triangles of a mesh lie against, strip by strip, equal strips joined. */
function coveredByMesh(face: Face, p: Float64Array, triangles: Uint32Array, by: string): PartyPart[] {
  const against = trianglesAgainst(face, p, triangles);
  if (against.length === 0) return [];
  const stops = new Set([0, face.lengthM]);
  for (const triangle of against)
    for (const [u] of triangle) stops.add(Math.min(face.lengthM, Math.max(0, u)));
  const sorted = [...stops].sort((a, b) => a - b);
  const parts: PartyPart[] = [];
  for (let i = 1; i < sorted.length; i++) {
    const [from, to] = [sorted[i - 1]!, sorted[i]!];
    if (to - from < 1e-4) continue;
    const strips = Math.ceil((to - from) / STRIP_M);
    for (let k = 0; k < strips; k++) {
      const u0 = from + ((to - from) * k) / strips;
      const u1 = from + ((to - from) * (k + 1)) / strips;
      for (const [v0, v1] of spansAt((u0 + u1) / 2, against)) {
        const low = Math.max(v0, lowest(face));
        const high = Math.min(v1, face.heightM);
        if (high - low < 1e-3) continue;
        const last = parts.find(
          (part) =>
            Math.abs(part.u1 - u0) < 1e-6 &&
            Math.abs(part.v0 - low) < 1e-3 &&
            Math.abs(part.v1 - high) < 1e-3,
        );
        if (last) last.u1 = u1;
        else parts.push({ u0, u1, v0: low, v1: high, by });
      }
    }
  }
  return parts;
}

/** Triangles that lie in the plane of a face, in its u and v. */
function trianglesAgainst(face: Face, p: Float64Array, triangles: Uint32Array): Point2[][] {
  const { origin: o, normal: n, u, v } = face;
  const found: Point2[][] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const flat: Point2[] = [];
    for (let k = 0; k < 3; k++) {
      const i = triangles[t + k]! * 3;
      const d: Point3 = [p[i]! - o[0], p[i + 1]! - o[1], p[i + 2]! - o[2]];
      if (Math.abs(dot(d, n)) > PARTY_GAP_M) break;
      flat.push([dot(d, u), dot(d, v)]);
    }
    if (flat.length === 3 && Math.abs(signedArea(flat)) > 1e-6) found.push(flat);
  }
  return found;
}

/** Where an upright line of a face runs within triangles, as pairs of v that do not overlap. */
function spansAt(u: number, triangles: readonly Point2[][]): [number, number][] {
  const spans: [number, number][] = [];
  for (const triangle of triangles) {
    const hits: number[] = [];
    triangle.forEach((a, i) => {
      const b = triangle[(i + 1) % 3]!;
      if (a[0] > u === b[0] > u) return;
      hits.push(a[1] + ((b[1] - a[1]) * (u - a[0])) / (b[0] - a[0]));
    });
    if (hits.length === 2) spans.push([Math.min(...hits), Math.max(...hits)]);
  }
  spans.sort((a, b) => a[0] - b[0]);
  const joined: [number, number][] = [];
  for (const [low, high] of spans) {
    const last = joined.at(-1);
    if (last && low <= last[1] + 1e-3) last[1] = Math.max(last[1], high);
    else joined.push([low, high]);
  }
  return joined;
}

/** Where a face begins in v: on the ground where a wall goes below the floor of its storey. */
function lowest({ outline }: Face): number {
  return outline.reduce((low, [, v]) => Math.min(low, v), Infinity);
}
