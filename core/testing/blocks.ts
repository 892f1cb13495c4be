import { type Face, wallFaces } from '../src/form';
import { adjoiningMass, fitOpenings, openableBody, partyParts, SpatialIndex } from '../src/openings';
import {
  defaultMass,
  type Ground,
  type Mass,
  type Opening,
  type OpeningOutline,
  type OpeningRule,
  type Project,
  type RuleMake,
} from '../src/project';
import type { Piece } from '../src/scene';

export const LEVEL: Ground = { kind: 'level', levelM: 0 };

export function block(id: string, x: number, y: number, w: number, d: number, storeys = 2): Mass {
  return defaultMass(
    id,
    id.toUpperCase(),
    [
      [x, y],
      [x + w, y],
      [x + w, y + d],
      [x, y + d],
    ],
    storeys,
    3,
  );
}

export const south = (mass: Mass, storey = 0): Face =>
  wallFaces(mass, LEVEL).find((f) => f.key === `wall/0/0/${storey}`)!;

export const rect = (u: number, v: number, widthM: number, heightM: number): OpeningOutline => ({
  kind: 'rectangle',
  u,
  v,
  widthM,
  heightM,
});

export function opening(id: string, outline: OpeningOutline, more: Partial<Opening> = {}): Opening {
  return {
    id,
    name: id,
    host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
    outline,
    kind: 'window',
    glazing: 'double',
    revealM: 0.1,
    openable: false,
    grid: null,
    ...more,
  };
}

export function rule(make: RuleMake, scope: Partial<OpeningRule['scope']> = {}): OpeningRule {
  return {
    id: 'r',
    name: 'Rule',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [], ...scope },
    make,
    glazing: 'double',
    revealM: 0.1,
    openable: true,
  };
}

/** Area of the triangles of a piece whose surfaces are wanted. */
export function area(piece: Piece, wanted: (kind: string, face: string | null) => boolean): number {
  let sum = 0;
  for (let t = 0; t < piece.surfaceOf.length; t++) {
    const { kind, face } = piece.surfaces[piece.surfaceOf[t]!]!;
    if (!wanted(kind, face)) continue;
    const p = piece.positions.subarray(t * 9, t * 9 + 9);
    const [ux, uy, uz] = [p[3]! - p[0]!, p[4]! - p[1]!, p[5]! - p[2]!];
    const [vx, vy, vz] = [p[6]! - p[0]!, p[7]! - p[1]!, p[8]! - p[2]!];
    sum += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
  }
  return sum;
}

/** What stands near a body among others. */
export function nearTo(body: Mass, others: Mass[]) {
  return new SpatialIndex(others.map((other) => adjoiningMass(other, LEVEL))).near(
    adjoiningMass(body, LEVEL),
  );
}

export function partyOf(body: Mass, others: Mass[]) {
  return partyParts(wallFaces(body, LEVEL), nearTo(body, others));
}

export function fit(body: Mass, rules: OpeningRule[] = [], others: Mass[] = []) {
  return fitOpenings(openableBody(body, LEVEL), { trueNorthDeg: 0, rules, near: nearTo(body, others) });
}

/** A project in which open ground throws light back, with nothing in its way: as tables have it. */
export const onOpenGround = <P extends Pick<Project, 'site'>>(project: P): P => ({
  ...project,
  site: { ...project.site, thrownBack: 'open' },
});
