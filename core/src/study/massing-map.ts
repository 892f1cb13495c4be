import type { MeshStore, Point3 } from '../geometry';
import type { Project, RuledTarget } from '../project';
import type { Scene } from '../scene';
import { type FlatTarget, partsOfTarget } from './flat-target';
import { cellAt, layGrid, type SensorGrid } from './sensor-grid';
import { targetSurface, type TargetSurface } from './target-surface';

/** Cells of the massing, metres: a metre of edge by a metre of height. */
const CELL_M = 1;

/** Where on its faces the massing of an option takes light. */
export interface MassingMap {
  targets: FlatTarget[];
  grid: SensorGrid;
  /** Of each cell: share of all that the massing takes alone, % per m² of its face. */
  values: Float32Array;
}

/** Collects what is taken, cell by cell. */
export interface MassingGrid {
  targets: FlatTarget[];
  grid: SensorGrid;
  taken: Float64Array;
  total: number;
  take(triangle: number, at: Point3, w: number): void;
}

/** The faces of an option's own massing in cells; null where it has none. */
export function massingGrid(
  project: Project,
  optionId: string,
  scene: Scene,
  meshes: MeshStore,
): MassingGrid | null {
  const rule: RuledTarget = {
    id: 'massing',
    name: 'Massing',
    kind: 'facades',
    among: 'option',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
    roofs: true,
    spacingM: CELL_M,
    offsetM: 0.01,
  };
  const targets = scene.owners.some(({ layer }) => layer === 'option')
    ? partsOfTarget(project, optionId, rule, meshes)
    : [];
  if (targets.length === 0) return null;
  const grid = layGrid(targets, project.site.ground, []);
  const index = new Map<string, number>();
  for (let i = 0; i < grid.count; i++)
    index.set(`${grid.target[i]}:${grid.cells[i * 2]}:${grid.cells[i * 2 + 1]}`, i);
  const byId = new Map(targets.map(({ id }, t) => [id, t]));
  const surfaces: TargetSurface[] = targets.map((target) => targetSurface(target, project.site.ground));
  const made: MassingGrid = {
    targets,
    grid,
    taken: new Float64Array(grid.count),
    total: 0,
    take(triangle, at, w) {
      made.total += w;
      const surface = scene.surfaceOf[triangle]!;
      const { face } = scene.surfaces[surface]!;
      const owner = scene.owners[scene.ownerOf[surface]!]!;
      const t = face === null ? undefined : byId.get(`massing.${owner.id}.${face.replaceAll('/', '-')}`);
      if (t === undefined) return;
      const { column, row } = cellAt(targets[t]!, surfaces[t]!.under(at).p);
      const cell = index.get(`${t}:${column}:${row}`);
      if (cell !== undefined) made.taken[cell]! += w;
    },
  };
  return made;
}

export function mapOfMassing({ targets, grid, taken, total }: MassingGrid): MassingMap {
  const values = Float32Array.from(taken, (w, i) => (total > 0 ? (100 * w) / total / grid.areas[i]! : 0));
  return { targets, grid, values };
}
