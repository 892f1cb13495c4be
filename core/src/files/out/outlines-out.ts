import { polygonHull } from 'd3-polygon';
import { massLevels, normalFootprint } from '../../form';
import { type MeshStore, type Point2, type Polygon, signedArea, unitePolygons } from '../../geometry';
import {
  type MassShape,
  type Project,
  requireOption,
  standingMasses,
  standingNeighbours,
  TODAY,
} from '../../project';
import { assembleScene } from '../../scene';
import { groundLevel, localFrame } from '../../site';
import { round } from '../bring/importing';
import { THING_KEY, thingOf } from '../bring/things';

/**
 * An option as GeoJSON, longitude and latitude: footprints of buildings, crowns of trees, lines of fences, and what else
 * stands by its outline in plan, each with `name`, `layer`, `kind`, `height`, `base` and what it is (`dialShade`).
 * @returns null when nothing stands in it
 */
export function writeOutlines(project: Project, optionId: string, meshes: MeshStore): Uint8Array | null {
  const features = [...buildings(project, optionId), ...others(project, optionId, meshes)];
  if (features.length === 0) return null;
  return new TextEncoder().encode(JSON.stringify({ type: 'FeatureCollection', features }));
}

type Place = readonly [number, number];

/** Rings as the standard has them, closed. */
const ringsOf = (project: Project) => {
  const { toGeographic } = localFrame(project.site);
  return (points: readonly Place[]) => [...points, points[0]!].map((p) => toGeographic(p));
};

function buildings(project: Project, optionId: string): object[] {
  const { ground, north } = project.site;
  const ring = ringsOf(project);
  const bodies: { body: MassShape; layer: string }[] = [
    ...standingNeighbours(project, optionId).flatMap((n) =>
      n.kind === 'building' ? [{ body: n, layer: 'neighbour' }] : [],
    ),
    ...standingMasses(project, optionId).map((body) => ({ body, layer: 'today' })),
    ...(optionId === TODAY
      ? []
      : requireOption(project, optionId).masses.map((body) => ({ body, layer: 'option' }))),
  ];
  return bodies.map(({ body, layer }) => {
    const { outer, holes } = normalFootprint(body.footprint);
    const levels = massLevels(body, ground);
    return {
      type: 'Feature',
      properties: {
        name: body.name,
        layer,
        kind: 'building',
        height: round(levels.topM - levels.floorM),
        eaves: round(levels.eavesM - levels.floorM),
        base: round(levels.floorM - groundLevel(ground, outer[0]!)),
        storeys: body.storeys.length,
        [THING_KEY]: thingOf({ ...body, kind: 'building' }, north.trueNorthDeg),
      },
      geometry: { type: 'Polygon', coordinates: [ring(outer), ...holes.map(ring)] },
    };
  });
}

/** All that has no footprint of its own: meshes, trees, walls, fences, devices. */
function others(project: Project, optionId: string, meshes: MeshStore): object[] {
  const { ground, north } = project.site;
  const { toGeographic } = localFrame(project.site);
  const ring = ringsOf(project);
  const bodies = new Set(
    [...standingMasses(project, optionId), ...requireOption(project, optionId).masses].map(({ id }) => id),
  );
  const known = new Map(standingNeighbours(project, optionId).map((one) => [one.id, one]));
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  return owners.flatMap((owner, i): object[] => {
    const { positions: p } = pieces[i]!;
    const isDevice = owner.layer === 'devices';
    const one = isDevice ? undefined : known.get(owner.id);
    if (owner.layer === 'ground' || p.length === 0 || one?.kind === 'building') return [];
    if (!isDevice && bodies.has(owner.id)) return [];
    const found =
      one?.kind === 'fence'
        ? {
            at: one.path[0]!,
            geometry: { type: 'LineString', coordinates: one.path.map((q) => toGeographic(q)) },
          }
        : (areaInPlan(p, ring) ?? linesInPlan(p, toGeographic));
    if (!found) return [];
    const { at, geometry } = found;
    const thing = one && thingOf(one, north.trueNorthDeg);
    const [lowM, highM] = levelsOf(p);
    return [
      {
        type: 'Feature',
        properties: {
          name: owner.name,
          layer: owner.layer === 'neighbours' ? 'neighbour' : owner.layer,
          kind: isDevice ? 'device' : (one?.kind ?? 'mesh'),
          height: round(highM - lowM),
          base: round(lowM - groundLevel(ground, at)),
          ...(thing && { [THING_KEY]: thing }),
          ...(one?.kind === 'wall' && { [LINE_KEY]: one.path.map((q) => toGeographic(q)) }),
        },
        geometry,
      },
    ];
  });
}

/** Under which the line of a wall goes out, whose geometry is its outline. */
export const LINE_KEY = 'line';

function levelsOf(p: Float64Array): [low: number, high: number] {
  let [lowM, highM] = [Infinity, -Infinity];
  for (let k = 2; k < p.length; k += 3) {
    lowM = Math.min(lowM, p[k]!);
    highM = Math.max(highM, p[k]!);
  }
  return [lowM, highM];
}

/** What a body covers in plan; null where that has no area. */
function areaInPlan(p: Float64Array, ring: (points: readonly Place[]) => [number, number][]) {
  const polygons = outlineInPlan(p);
  const at = polygons[0]?.outer[0];
  if (!at) return null;
  const coordinates = polygons.map(({ outer, holes }) => [ring(outer), ...holes.map(ring)]);
  return { at, geometry: { type: 'MultiPolygon', coordinates } };
}

/** What is upright and thin covers no area; null where it has no length either. */
function linesInPlan(p: Float64Array, toGeographic: (p: Point2) => [number, number]) {
  const lines = lineInPlan(p);
  const at = lines[0]?.[0];
  if (!at) return null;
  const coordinates = lines.map((ends) => ends.map((q) => toGeographic(q)));
  return { at, geometry: { type: 'MultiLineString', coordinates } };
}

/** The stretches in plan of upright triangles, each once. */
function lineInPlan(p: Float64Array): [Point2, Point2][] {
  const stretches = new Map<string, [Point2, Point2]>();
  for (let t = 0; t < p.length; t += 9) {
    const corners: Point2[] = [0, 3, 6].map((k) => [p[t + k]!, p[t + k + 1]!]);
    const pairs = [
      [0, 1],
      [1, 2],
      [2, 0],
    ].map(([i, j]): [Point2, Point2] => [corners[i!]!, corners[j!]!]);
    const length = ([a, b]: [Point2, Point2]) => Math.hypot(a[0] - b[0], a[1] - b[1]);
    const longest = pairs.reduce((best, pair) => (length(pair) > length(best) ? pair : best));
    if (length(longest) < 1e-6) continue;
    const ends = longest.map(([x, y]) => `${round(x)},${round(y)}`).sort();
    stretches.set(ends.join('|'), longest);
  }
  return [...stretches.values()];
}

/** Triangles of a body up to which its outline is that of all of them; of more it is the hull around them. */
const MAX_UNITED = 20_000;

/** What triangles cover in plan. */
function outlineInPlan(p: Float64Array): Polygon[] {
  const flat: Polygon[] = [];
  for (let t = 0; t < p.length; t += 9) {
    const ring: Point2[] = [0, 3, 6].map((k) => [p[t + k]!, p[t + k + 1]!]);
    const area = signedArea(ring);
    if (Math.abs(area) > 1e-8) flat.push({ outer: area > 0 ? ring : ring.reverse(), holes: [] });
  }
  if (flat.length <= MAX_UNITED) return unitePolygons(flat);
  const hull = polygonHull(flat.flatMap(({ outer }) => outer.map(([x, y]): [number, number] => [x, y])));
  return hull ? [{ outer: hull, holes: [] }] : [];
}
