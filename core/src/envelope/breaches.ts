import type { MeshStore, Point2 } from '../geometry';
import type { Envelope, Project } from '../project';
import { EnvelopeSolver } from './envelope-field';
import { solidColumns } from './solid-columns';

/** Cells that columns are looked at in, metres, and how many there are at most. */
const CELL_M = 0.5;

/** A stretch of a column that stands over the envelope, or where nothing may be built. */
export interface BreachCell {
  at: Point2;
  fromM: number;
  toM: number;
  /** Index into `reasons`; −1: outside of what may be built on. */
  reason: number;
  /** Id of the body that it is of. */
  owner: string;
}

/** What of an option stands out of an envelope. */
export interface Breaches {
  cellM: number;
  cells: BreachCell[];
  reasons: string[];
  /** All of what the option proposes, m³. */
  builtM3: number;
  /** Over the envelope, and where nothing may be built, m³. */
  overM3: number;
  outsideM3: number;
  /** By what it takes sun from, or breaks: its volume, and where and when it goes furthest. */
  by: {
    name: string;
    reason: number;
    volumeM3: number;
    worst: { at: Point2; levelM: number; overM: number; atMs: number };
  }[];
  owners: { id: string; name: string; volumeM3: number }[];
}

/** Less than this over the envelope is not told, metres. */
export const MIN_OVER_M = 0.005;

/** Holds an option against an envelope, column by column. Throws InputError `envelope`. */
export function envelopeBreaches(
  project: Project,
  optionId: string,
  envelope: Envelope,
  meshes: MeshStore,
  cellM = CELL_M,
): Breaches {
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const columns = solidColumns(project, optionId, meshes, cellM);
  const cell = cellM * cellM;
  const found: Breaches = {
    ...{ cellM, cells: [], reasons: solver.reasons, builtM3: 0, overM3: 0, outsideM3: 0, by: [] },
    owners: columns.names.map((name) => ({ ...name, volumeM3: 0 })),
  };
  const by = new Map<number, Breaches['by'][number]>();
  for (const { at, stretches } of columns.lines) {
    const isOpen = solver.isOpen(at);
    const field = isOpen ? solver.at(at) : { levelM: -Infinity, decidedBy: -1, atMs: NaN };
    for (const { owner, fromM, toM } of stretches) {
      found.builtM3 += (toM - fromM) * cell;
      const from = Math.max(fromM, field.levelM);
      if (toM - from < MIN_OVER_M) continue;
      const volumeM3 = (toM - from) * cell;
      found.cells.push({
        ...{ at, fromM: from, toM, reason: field.decidedBy },
        owner: columns.names[owner]!.id,
      });
      found.owners[owner]!.volumeM3 += volumeM3;
      if (isOpen) found.overM3 += volumeM3;
      else found.outsideM3 += volumeM3;
      const one = by.get(field.decidedBy) ?? {
        name: isOpen ? solver.reasons[field.decidedBy]! : 'outside of what may be built on',
        reason: field.decidedBy,
        volumeM3: 0,
        worst: { at, levelM: toM, overM: 0, atMs: NaN },
      };
      one.volumeM3 += volumeM3;
      if (toM - from > one.worst.overM) one.worst = { at, levelM: toM, overM: toM - from, atMs: field.atMs };
      by.set(field.decidedBy, one);
    }
  }
  found.by = [...by.values()].sort((a, b) => b.volumeM3 - a.volumeM3);
  found.owners = found.owners.filter(({ volumeM3 }) => volumeM3 > 0);
  return found;
}
