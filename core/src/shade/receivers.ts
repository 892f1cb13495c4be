import {
  bounds,
  dot,
  intersectPolygons,
  outlinesFrom,
  type Point2,
  type Point3,
  type Polygon,
  subtractPolygons,
  triangleNormal,
  unitePolygons,
} from '../geometry';
import { DEG, wrap360 } from '../civil';
import { standsOnGround } from '../form';
import { type Ground, type Project, standingBodies } from '../project';
import type { Scene, SurfaceKind } from '../scene';
import { groundNormal, groundPlane, terrainSurface } from '../site';
import type { FlatReceiver } from './cast';
import { castingFaces } from './faces';

/** What shade is drawn on. */
export type ShadeOn = 'areas' | 'ground' | 'roofs' | 'facades';

/** Something that receives shade: an area that matters, the ground, a roof or a facade of a body. */
export interface Receiver {
  id: string;
  name: string;
  /** Whose roof or facade it is, as an index into the scene; null of what lies on the ground. */
  owner: number | null;
  /** Flat parts; in plan (project x and y) but for facades: along and up the wall. */
  parts: FlatReceiver[];
}

/** What an option builds over, in plan: footprints of all that stands on the ground. */
export function builtOver(project: Project, optionId: string): Polygon[] {
  const { ground } = project.site;
  const footprints = standingBodies(project, optionId)
    .filter((body) => standsOnGround(body, ground))
    .map(({ footprint }) => footprint);
  return footprints.length ? unitePolygons(footprints) : [];
}

/** Ground receivers cover so many times the greatest height round what stands, so that long shadows are seen. */
const GROUND_REACH = 4;

/** What receives shade in an option, without what is built over. */
export function receiversOf(project: Project, optionId: string, scene: Scene, on: ShadeOn): Receiver[] {
  const { ground, boundary } = project.site;
  if (on === 'roofs' || on === 'facades') return faceReceivers(scene, on);
  const built = builtOver(project, optionId);
  const free = (outline: readonly Point2[]) => subtractPolygons([{ outer: outline, holes: [] }], built);
  if (on === 'areas')
    return project.areas.map(({ id, name, outline, on: where }) => ({
      id,
      name,
      owner: null,
      parts:
        where.kind === 'level'
          ? [levelPart(where.levelM, [{ outer: outline, holes: [] }])]
          : groundParts(ground, free(outline)),
    }));
  const corners: Point2[] = [...(boundary ?? [])];
  let height = 0;
  scene.pieces.forEach((piece, i) => {
    if (scene.owners[i]!.layer === 'ground') return;
    for (let k = 0; k < piece.positions.length; k += 3) {
      const [x, y, z] = piece.positions.subarray(k, k + 3) as unknown as Point3;
      corners.push([x, y]);
      height = Math.max(height, dot([x, y, z], scene.ground.normal) - scene.ground.offset);
    }
  });
  const { minX, minY, maxX, maxY } = corners.length
    ? bounds(corners)
    : { minX: -20, minY: -20, maxX: 20, maxY: 20 };
  const reach = height * GROUND_REACH;
  const outline: Point2[] = [
    [minX - reach, minY - reach],
    [maxX + reach, minY - reach],
    [maxX + reach, maxY + reach],
    [minX - reach, maxY + reach],
  ];
  return [{ id: 'ground', name: 'Ground', owner: null, parts: groundParts(ground, free(outline)) }];
}

const inPlan = ([x, y]: Point3): Point2 => [x, y];

/** From plan up, or down, to a plane that is not upright. */
const ontoPlane =
  ([nx, ny, nz]: Point3, offset: number) =>
  ([x, y]: Point2): Point3 => [x, y, (offset - nx * x - ny * y) / nz];

export function levelPart(levelM: number, regions: readonly Polygon[]): FlatReceiver {
  const normal: Point3 = [0, 0, 1];
  return { normal, offset: levelM, flat: inPlan, lift: ([x, y]) => [x, y, levelM], regions, stretch: 1 };
}

/** Regions of the ground in plan as flat parts: one of a plane, one for each triangle of a terrain. */
function groundParts(ground: Ground, regions: readonly Polygon[]): FlatReceiver[] {
  if (ground.kind !== 'terrain') {
    const { normal, offset } = groundPlane(ground);
    const lift = ontoPlane(normal, offset);
    return [{ normal, offset, flat: inPlan, lift, regions, stretch: 1 / groundNormal(ground)[2] }];
  }
  if (regions.length === 0) return [];
  const { vertices: v, triangles } = terrainSurface(ground);
  const box = bounds(regions.flatMap(({ outer }) => outer));
  const parts: FlatReceiver[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Point3 => {
      const i = triangles[t + k]! * 3;
      return [v[i]!, v[i + 1]!, v[i + 2]!];
    }) as [Point3, Point3, Point3];
    const own = bounds([a, b, c].map(inPlan));
    if (own.minX > box.maxX || own.maxX < box.minX || own.minY > box.maxY || own.maxY < box.minY) continue;
    const of = intersectPolygons(regions, [{ outer: [a, b, c].map(inPlan), holes: [] }]);
    if (of.length === 0) continue;
    const normal = triangleNormal(a, b, c);
    const offset = dot(a, normal);
    const lift = ontoPlane(normal, offset);
    parts.push({ normal, offset, flat: inPlan, lift, regions: of, stretch: 1 / normal[2] });
  }
  return parts;
}

const RECEIVING: Record<'roofs' | 'facades', ReadonlySet<SurfaceKind>> = {
  roofs: new Set(['roof']),
  facades: new Set(['wall', 'glazing', 'door', 'bar']),
};

/** Roofs of each body as one receiver in plan; facades as one for each body and bearing, along and up the wall. */
function faceReceivers(scene: Scene, on: 'roofs' | 'facades'): Receiver[] {
  const found = new Map<string, Receiver>();
  scene.pieces.forEach((piece, owner) => {
    const { id, name, layer } = scene.owners[owner]!;
    if (layer === 'ground') return;
    const { faces, passing } = castingFaces(piece);
    for (const { rings, normal, kind } of [...faces, ...passing]) {
      if (!RECEIVING[on].has(kind)) continue;
      const isWall = Math.abs(normal[2]) < 0.02;
      if (on === 'facades' ? !isWall : normal[2] < 0.02) continue;
      const bearing = Math.round(wrap360(Math.atan2(normal[0], normal[1]) * DEG)) % 360;
      const receiverId = on === 'roofs' ? id : `${id}/${bearing}`;
      // Bodies of different options may have the same id.
      const key = `${owner}/${receiverId}`;
      const offset = dot(rings[0]![0]!, normal);
      const wall = alongWall(normal, offset);
      const flat = on === 'roofs' ? inPlan : wall.flat;
      const regions = outlinesFrom(rings.map((ring) => ring.map(flat)));
      const part: FlatReceiver = {
        normal,
        offset,
        flat,
        lift: on === 'roofs' ? ontoPlane(normal, offset) : wall.lift,
        regions,
        stretch: on === 'roofs' ? 1 / normal[2] : 1,
      };
      const there = found.get(key);
      if (there) there.parts.push(part);
      else
        found.set(key, {
          id: receiverId,
          name: on === 'roofs' ? `${name}, roof` : `${name}, facing ${bearing}°`,
          owner,
          parts: [part],
        });
    }
  });
  return [...found.values()];
}

/** Coordinates of a wall, upright or nearly: along it, to the right seen from outside, and level; and back. */
export function alongWall(
  [nx, ny, nz]: Point3,
  offset: number,
): { flat: (p: Point3) => Point2; lift: (p: Point2) => Point3 } {
  const length = Math.hypot(nx, ny);
  const [ox, oy] = [nx / length, ny / length];
  return {
    flat: ([x, y, z]) => [y * ox - x * oy, z],
    lift([along, z]) {
      const out = (offset - nz * z) / length;
      return [ox * out - oy * along, oy * out + ox * along, z];
    },
  };
}
