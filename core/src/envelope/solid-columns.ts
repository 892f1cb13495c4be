import type { MeshStore, Point2 } from '../geometry';
import { type Project, TODAY } from '../project';
import { assembleScene } from '../scene';

/** A stretch of an upright line that lies within a body. */
export interface Stretch {
  /** Index into `names`. */
  owner: number;
  fromM: number;
  toM: number;
}

/** The bodies of an option over a grid of upright lines. */
export interface SolidColumns {
  names: { id: string; name: string }[];
  cellM: number;
  /** By line: where it stands, and what of it lies within bodies. */
  lines: { at: Point2; stretches: Stretch[] }[];
}

/** Upright lines stand so far off the middle of their cell, lest they run along an edge. */
const ASIDE = [1.37e-5, 2.11e-5] as const;

/** What an option proposes (of Today: what stands of it), as stretches of upright lines a cell apart. */
export function solidColumns(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  cellM: number,
): SolidColumns {
  const { owners, pieces } = assembleScene(project, optionId, meshes);
  const layers = optionId === TODAY ? ['today'] : ['option', 'devices'];
  const names: SolidColumns['names'] = [];
  const met = new Map<string, { at: Point2; by: Map<number, { z: number; isUp: boolean }[]> }>();
  owners.forEach((owner, o) => {
    if (!layers.includes(owner.layer)) return;
    const index = names.push({ id: owner.id, name: owner.name }) - 1;
    const { positions } = pieces[o]!;
    for (let i = 0; i < positions.length; i += 9)
      crossings(positions, i, cellM, (column, row, at, z, isUp) => {
        const key = `${column}:${row}`;
        const line = met.get(key) ?? { at, by: new Map<number, { z: number; isUp: boolean }[]>() };
        met.set(key, line);
        const list = line.by.get(index);
        if (list) list.push({ z, isUp });
        else line.by.set(index, [{ z, isUp }]);
      });
  });
  const lines = [...met.values()].map(({ at, by }) => ({
    at,
    stretches: [...by].flatMap(([owner, list]) => within(list).map((one) => ({ owner, ...one }))),
  }));
  return { names, cellM, lines };
}

/** Where the upright lines of a grid pass a triangle, and whether it faces up there. */
function crossings(
  p: Float64Array,
  i: number,
  cellM: number,
  met: (column: number, row: number, at: Point2, z: number, isUp: boolean) => void,
): void {
  const [ax, ay, az, bx, by, bz, cx, cy, cz] = p.subarray(i, i + 9) as unknown as number[];
  const area = (bx! - ax!) * (cy! - ay!) - (by! - ay!) * (cx! - ax!);
  if (Math.abs(area) < 1e-9) return;
  const first = (least: number) => Math.ceil(least / cellM - 0.5);
  const last = (most: number) => Math.floor(most / cellM - 0.5);
  for (let row = first(Math.min(ay!, by!, cy!)) - 1; row <= last(Math.max(ay!, by!, cy!)); row++)
    for (let column = first(Math.min(ax!, bx!, cx!)) - 1; column <= last(Math.max(ax!, bx!, cx!)); column++) {
      const [x, y] = [(column + 0.5) * cellM + ASIDE[0], (row + 0.5) * cellM + ASIDE[1]];
      const s = ((x - ax!) * (cy! - ay!) - (y - ay!) * (cx! - ax!)) / area;
      const t = ((bx! - ax!) * (y - ay!) - (by! - ay!) * (x - ax!)) / area;
      if (s < 0 || t < 0 || s + t > 1) continue;
      met(column, row, [x, y], az! + s * (bz! - az!) + t * (cz! - az!), area > 0);
    }
}

/** From where a line goes in to where it comes out again; what has no other side is left out. */
function within(list: { z: number; isUp: boolean }[]): { fromM: number; toM: number }[] {
  const found: { fromM: number; toM: number }[] = [];
  let [depth, from] = [0, 0];
  for (const { z, isUp } of [...list].sort((a, b) => a.z - b.z || Number(a.isUp) - Number(b.isUp))) {
    if (!isUp && depth++ === 0) from = z;
    else if (isUp && depth > 0 && --depth === 0 && z > from) found.push({ fromM: from, toM: z });
  }
  return found;
}
