import { massLevels, roofProblem } from '../../form';
import { type Mesh, type Point2, ringProblem, signedArea } from '../../geometry';
import {
  type Ground,
  type MassShape,
  type Neighbour,
  type Roof,
  type Thing,
  thingSchema,
} from '../../project';
import { cleanRing, idFor, type Importing, round } from './importing';
import type { ModelFootprint } from '../model-file';

/**
 * What stands in a project can say in a file what it is, so that it comes back as that and not as the shape of it: in
 * properties (GeoJSON), attributes (CityJSON) or extras (glTF) under this name. Bearings are those of true north there.
 */
export const THING_KEY = 'dialShade';

/** What a thing is apart from its name and its place; null for what is a mesh. */
export function thingOf(
  one: Neighbour | (MassShape & { kind: 'building' }),
  trueNorthDeg: number,
): Thing | null {
  switch (one.kind) {
    case 'tree': {
      const { kind, heightM, crownM, clearM, crown, leafOpenness, bareOpenness, leafFrom, leafUntil } = one;
      return { kind, heightM, crownM, clearM, crown, leafOpenness, bareOpenness, leafFrom, leafUntil };
    }
    case 'fence':
      return { kind: 'fence', heightM: one.heightM, openness: one.openness };
    case 'wall':
      return { kind: 'wall', heightM: one.heightM, thicknessM: one.thicknessM };
    case 'building':
      return {
        kind: 'building',
        storeys: one.storeys,
        roof: turnedRoof(one.roof, -trueNorthDeg),
        ...(one.base.on === 'ground' && { offsetM: one.base.offsetM }),
      };
    case 'mesh':
      return null;
  }
}

/** What a file says that a thing is; null where it says nothing that is understood. Some programs keep it as text. */
export function statedThing(raw: unknown): Thing | null {
  if (raw === undefined || raw === null) return null;
  let value = raw;
  if (typeof raw === 'string')
    try {
      value = JSON.parse(raw);
    } catch {
      return null;
    }
  const read = thingSchema.safeParse(value);
  return read.success ? read.data : null;
}

/** A roof whose bearings are told from another north. */
function turnedRoof(roof: Roof, byDeg: number): Roof {
  const turned = (bearing: number) => (((bearing + byDeg) % 360) + 360) % 360;
  if (roof.kind === 'mono') return { ...roof, fallsTowardsDeg: turned(roof.fallsTowardsDeg) };
  if (roof.kind === 'sawtooth') return { ...roof, facesDeg: turned(roof.facesDeg) };
  return roof;
}

/** A thing that is no building: a tree stands at a point, a wall or a fence along a line. */
type Line = Exclude<Thing, { kind: 'building' }>;

/** Adds a tree, a fence or a wall to the neighbours. False when its line is none, and it is to be taken by its shape. */
export function bringThing(into: Importing, name: string, thing: Line, points: readonly Point2[]): boolean {
  const path = points.map(([x, y]): [number, number] => [round(x), round(y)]);
  const same = { id: '', name, demolished: false };
  let one: Neighbour;
  if (thing.kind === 'tree') {
    if (!path[0]) return false;
    one = { ...thing, ...same, at: path[0] };
  } else {
    const line = cleanRing([...path, [Infinity, Infinity]]).slice(0, -1) as [number, number][];
    if (line.length < 2 || line.length > 500) return false;
    one = { ...thing, ...same, path: line };
  }
  one.id = idFor(into, name);
  into.ids.push(one.id);
  into.project = { ...into.project, neighbours: [...into.project.neighbours, one] };
  return true;
}

/** Where a thing stands by its outline in the file: a tree in the middle of its crown, others along their line. */
export function pointsOfOutline(thing: Line, outer: readonly Point2[]): Point2[] {
  return thing.kind === 'tree' ? [middleOf(outer)] : [...outer];
}

/** The middle of the area of a ring; of one without area, of its corners. */
function middleOf(ring: readonly Point2[]): Point2 {
  const [x0, y0] = ring[0]!;
  let [area, x, y] = [0, 0, 0];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    const twice = (p[0] - x0) * (q[1] - y0) - (q[0] - x0) * (p[1] - y0);
    area += twice;
    x += (p[0] + q[0] - 2 * x0) * twice;
    y += (p[1] + q[1] - 2 * y0) * twice;
  });
  if (Math.abs(area) > 1e-12) return [x0 + x / (3 * area), y0 + y / (3 * area)];
  const mean = (k: 0 | 1) => ring.reduce((sum, p) => sum + p[k], 0) / ring.length;
  return [mean(0), mean(1)];
}

/** Where a thing stands by its triangles, metres with z up; null where they are no line. */
export function pointsOfMesh(thing: Line, mesh: Mesh): Point2[] | null {
  if (thing.kind === 'tree') {
    const [low, high] = [
      [Infinity, Infinity],
      [-Infinity, -Infinity],
    ];
    for (let i = 0; i < mesh.positions.length; i++) {
      if (i % 3 === 2) continue;
      low[i % 3] = Math.min(low[i % 3]!, mesh.positions[i]!);
      high[i % 3] = Math.max(high[i % 3]!, mesh.positions[i]!);
    }
    return [[(low[0]! + high[0]!) / 2, (low[1]! + high[1]!) / 2]];
  }
  return thing.kind === 'fence' ? lineOfSheets(mesh) : null;
}

/** Points nearer than this are one, metres: what single precision leaves of a corner. */
const JOIN_M = 1e-3;

/** The line in plan along which upright sheets follow on one another. */
function lineOfSheets({ positions: p, triangles }: Mesh): Point2[] | null {
  const apart = (a: Point2, b: Point2) => Math.hypot(a[0] - b[0], a[1] - b[1]);
  let line: Point2[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((k): Point2 => {
      const i = triangles[t + k]! * 3;
      return [p[i]!, p[i + 1]!];
    });
    const [a, b, c] = corners as [Point2, Point2, Point2];
    const ends = [[a, b] as const, [b, c] as const, [c, a] as const].reduce((most, pair) =>
      apart(...pair) > apart(...most) ? pair : most,
    );
    if (apart(...ends) < JOIN_M || Math.abs(signedArea(corners)) > JOIN_M * apart(...ends)) return null;
    const isNear = (x: Point2, y: Point2 | undefined) => y !== undefined && apart(x, y) < JOIN_M;
    const [from, to] = ends;
    const last = line.at(-1);
    const before = line.at(-2);
    if ((isNear(from, last) && isNear(to, before)) || (isNear(to, last) && isNear(from, before))) continue;
    if (line.length === 0) line = [from, to];
    else if (isNear(from, last)) line.push(to);
    else if (isNear(to, last)) line.push(from);
    else if (line.length === 2 && (isNear(from, line[0]) || isNear(to, line[0])))
      line = [line[1]!, line[0]!, isNear(from, line[0]) ? to : from];
    else return null;
  }
  return line.length >= 2 ? line : null;
}

/** What a mass states of its storeys and its roof, if it still has the height that the file gives; else null. */
export function statedShape<T extends MassShape>(
  body: T,
  thing: ModelFootprint['thing'],
  heightM: number,
  { ground, trueNorthDeg }: { ground: Ground; trueNorthDeg: number },
): T | null {
  if (thing?.kind !== 'building') return null;
  const edges = body.footprint.outer.length;
  const shaped: T = {
    ...body,
    storeys: thing.storeys,
    roof: turnedRoof(thing.roof, trueNorthDeg),
    ...(thing.offsetM !== undefined && { base: { on: 'ground', offsetM: thing.offsetM } }),
  };
  if (thing.storeys.some(({ setbacksM }) => setbacksM && setbacksM.length !== edges)) return null;
  if (ringProblem(body.footprint.outer) || roofProblem(shaped)) return null;
  const { topM, floorM } = massLevels(shaped, ground);
  return Math.abs(topM - floorM - heightM) < 0.01 ? shaped : null;
}
