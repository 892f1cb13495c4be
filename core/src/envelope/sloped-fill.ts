import { InputError } from '../errors';
import { areaWithHoles, type Mesh, type Point2, type Polygon } from '../geometry';
import type { Envelope, Project } from '../project';
import { groundAlong } from '../site';
import type { EnvelopeSolver } from './envelope-field';
import { type EnvelopeLattice, openAbove } from './envelope-lattice';
import { envelopeBody, envelopeShell, wallsBelow } from './envelope-shell';

/** The space under an envelope as one body with a sloping top. */
export interface SlopedFill {
  mesh: Mesh;
  /** Of whole storeys within it. */
  floorAreaM2: number;
  storeys: number;
  /** How far its top lies under the field at the most: where that is steep, so that nothing stands over it between nodes. */
  loweredM: number;
}

/** So much under what was found to be enough. */
const SPARE_M = 0.02;
const MAX_STOREYS = 60;
/** Storeys of less are none, m². */
const MIN_M2 = 1;

/**
 * Fills an envelope up to its surface, wherever at least one storey goes under it. The top lies as far under the field, place
 * by place, as it must for nothing of its triangles to stand over it. Throws InputError `envelope` where not one storey goes under it.
 */
export function fillSloped(
  { site: { ground } }: Project,
  envelope: Pick<Envelope, 'name'>,
  solver: EnvelopeSolver,
  lattice: EnvelopeLattice,
  storeyM: number,
): SlopedFill {
  const floorM = Math.max(...lattice.open.map(({ outer }) => groundAlong(ground, outer).highM));
  const areas: number[] = [];
  let first: Polygon[] = [];
  while (areas.length < MAX_STOREYS) {
    const regions = openAbove(lattice, floorM + (areas.length + 1) * storeyM);
    const area = regions.reduce((sum, one) => sum + areaWithHoles(one), 0);
    if (area < MIN_M2) break;
    if (areas.length === 0) first = regions;
    areas.push(area);
  }
  const count = areas.length;
  if (count === 0)
    throw new InputError(
      'envelope',
      `Not one storey of ${storeyM} m goes under “${envelope.name}”; make them lower.`,
    );
  const shell = envelopeShell(solver, { ...lattice, open: first });
  const { top, mostM } = under(solver, shell.top);
  return {
    mesh: envelopeBody(solver, { ...shell, top, ...wallsBelow(solver, top) }),
    floorAreaM2: areas.reduce((sum, area) => sum + area, 0),
    storeys: count,
    loweredM: mostM,
  };
}

/** Triangles lowered, each corner by as much as any triangle at it stands over the field: then none does. */
function under(solver: EnvelopeSolver, top: Mesh): { top: Mesh; mostM: number } {
  const { positions: p, triangles } = top;
  const lower = new Float64Array(p.length / 3).fill(SPARE_M);
  for (let i = 0; i < triangles.length; i += 3) {
    const corners = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!] as const;
    const over = overField(solver, p, corners) + SPARE_M;
    for (const corner of corners) lower[corner] = Math.max(lower[corner]!, over);
  }
  return {
    top: { ...top, positions: p.map((v, i) => (i % 3 < 2 ? v : v - lower[Math.floor(i / 3)]!)) },
    mostM: lower.reduce((most, one) => Math.max(most, one), 0),
  };
}

/** How far any place of a triangle stands over the field, by its corners, its sides and its middle. */
function overField(
  solver: EnvelopeSolver,
  p: Float64Array,
  corners: readonly [number, number, number],
): number {
  let most = 0;
  for (const weights of PARTS) {
    const at = (k: number) => weights.reduce((sum, w, corner) => sum + w * p[corners[corner]! * 3 + k]!, 0);
    const place: Point2 = [at(0), at(1)];
    most = Math.max(most, at(2) - solver.at(place).levelM);
  }
  return most;
}

const PARTS = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [0.5, 0.5, 0],
  [0, 0.5, 0.5],
  [0.5, 0, 0.5],
  [1 / 3, 1 / 3, 1 / 3],
] as const;
