import { type MeshStore, type Point3, polygonNormal, triangulate } from '../geometry';
import { type Project, requireOption, TODAY } from '../project';
import { assembleScene } from '../scene';
import { firstBlock, TriangleTree } from '../trace';

/** Rays begin so far off what they leave, metres. */
const OFF_M = 0.01;
/** Near to the corners and sides of a triangle, as a share of it. */
const NEAR = 0.004;
const WEIGHTS = [
  [1 / 3, 1 / 3, 1 / 3],
  ...[0, 1, 2].flatMap((k) => [
    [0, 1, 2].map((i) => (i === k ? 1 - 2 * NEAR : NEAR)),
    [0, 1, 2].map((i) => (i === k ? NEAR : (1 - NEAR) / 2)),
  ]),
];

/** A flat outline as triangles, nine numbers each. */
export function facets(corners: readonly Point3[]): number[] {
  const [nx, ny, nz] = polygonNormal([...corners]).map(Math.abs) as [number, number, number];
  const [a, b] = nz >= nx && nz >= ny ? [0, 1] : nx >= ny ? [1, 2] : [0, 2];
  return triangulate([corners.map((p) => [p[a]!, p[b]!])]).flatMap((i) => [...corners[i]!]);
}

/** Places on a flat outline: of each of its triangles the middle, and a little within its corners and sides. */
export function pointsOn(corners: readonly Point3[]): Point3[] {
  const flat = facets(corners);
  const found: Point3[] = [];
  for (let i = 0; i < flat.length; i += 9)
    for (const weights of WEIGHTS)
      found.push(
        [0, 1, 2].map((k) =>
          weights.reduce((sum, w, corner) => sum + w * flat[i + corner * 3 + k]!, 0),
        ) as unknown as Point3,
      );
  return found;
}

/** The shade of what stands and stays whatever is built. */
export class StandingShade {
  private readonly tree: TriangleTree;

  constructor(project: Project, meshes: MeshStore) {
    const today = requireOption(project, TODAY);
    const nothing = { ...today, id: 'nothing', masses: [], models: [], rules: [], schemes: [], scheme: null };
    const { owners, pieces } = assembleScene(
      { ...project, options: [...project.options, nothing] },
      nothing.id,
      meshes,
    );
    const blocking = pieces.filter((_, i) => owners[i]!.layer !== 'ground');
    this.tree = TriangleTree.build(Float64Array.from(blocking.flatMap(({ positions }) => [...positions])));
    this.isEmpty = blocking.length === 0;
  }

  private readonly isEmpty: boolean;

  /** Whether a sun reaches any of some places on an outline past what stands. */
  reaches(corners: readonly Point3[], [nx, ny, nz]: Point3): (towards: Point3) => boolean {
    if (this.isEmpty) return () => true;
    const points = pointsOn(corners).map(([x, y, z]): Point3 => [
      x + nx * OFF_M,
      y + ny * OFF_M,
      z + nz * OFF_M,
    ]);
    return ([dx, dy, dz]) => points.some(([x, y, z]) => firstBlock(this.tree, x, y, z, dx, dy, dz) < 0);
  }
}
