import type { Point3 } from '../geometry';

export type SurfaceKind =
  | 'ground'
  | 'wall'
  | 'roof'
  | 'floor'
  | 'glazing'
  | 'door'
  | 'bar'
  | 'reveal'
  | 'partition'
  | 'furniture'
  | 'crown'
  | 'trunk'
  | 'fence'
  | 'device'
  | 'mesh';

/** How light passes a surface. What has none of it blocks the light. */
export type Passing =
  /** A pane; the share at normal incidence. */
  | { through: 'glass'; share: number }
  | { through: 'fence'; share: number }
  /** Holes so many times as deep as wide; the share at right angles. */
  | { through: 'screen'; share: number; holeDepth: number }
  /** A closed crown; the share for the whole way through it, in leaf and bare. */
  | { through: 'leaves'; leaf: number; bare: number; from: string; until: string };

/** A flat part of an owner: what can be picked, measured or given openings. */
export interface Surface {
  kind: SurfaceKind;
  /** Outward unit normal in the project frame; of a mesh, of its first triangle. */
  normal: readonly [number, number, number];
  /** Storey counted from 0 at the bottom, or null where there is none. */
  storey: number | null;
  /** Key of the face, for walls and roofs of masses. */
  face: string | null;
  /** Id of the opening that a pane, bar or reveal belongs to. */
  opening: string | null;
  /** Null: it blocks. */
  passing: Passing | null;
  /** Of a sheet without thickness that is seen from both sides: a parapet, a partition, a floor between storeys. */
  isSheet?: boolean;
}

/** The triangles of one owner, with the surface that each belongs to (an index into `surfaces`). */
export interface Piece {
  /** Nine numbers a triangle, metres, corners anticlockwise seen from outside. */
  positions: Float64Array;
  surfaceOf: Uint32Array;
  surfaces: Surface[];
  /** So many triangles, the first ones, block the light; the others let some of it pass. */
  opaque: number;
  /** Largest coordinate along x or y, whatever its sign. */
  reachM: number;
}

type SurfaceMore = Partial<Pick<Surface, 'storey' | 'face' | 'opening' | 'passing' | 'isSheet'>>;

/** Collects surfaces and triangles of one owner. */
export class PieceBuilder {
  private readonly blocking = { positions: [] as number[], surfaceOf: [] as number[] };
  private readonly passing = { positions: [] as number[], surfaceOf: [] as number[] };
  private readonly surfaces: Surface[] = [];
  private into = this.blocking;

  surface(kind: SurfaceKind, normal: readonly [number, number, number], more: SurfaceMore = {}): void {
    this.surfaces.push({ kind, normal, storey: null, face: null, opening: null, passing: null, ...more });
    this.into = more.passing ? this.passing : this.blocking;
  }

  /** A triangle of the surface begun last. */
  triangle(a: Point3, b: Point3, c: Point3): void {
    this.into.positions.push(a[0], a[1], a[2], b[0], b[1], b[2], c[0], c[1], c[2]);
    this.into.surfaceOf.push(this.surfaces.length - 1);
  }

  quad(a: Point3, b: Point3, c: Point3, d: Point3): void {
    this.triangle(a, b, c);
    this.triangle(a, c, d);
  }

  build(): Piece {
    const { blocking, passing } = this;
    const positions = new Float64Array(blocking.positions.length + passing.positions.length);
    positions.set(blocking.positions);
    positions.set(passing.positions, blocking.positions.length);
    const surfaceOf = new Uint32Array(blocking.surfaceOf.length + passing.surfaceOf.length);
    surfaceOf.set(blocking.surfaceOf);
    surfaceOf.set(passing.surfaceOf, blocking.surfaceOf.length);
    return pieceOf(positions, surfaceOf, this.surfaces, blocking.surfaceOf.length);
  }
}

/** A piece of ready arrays, blocking triangles first. */
export function pieceOf(
  positions: Float64Array,
  surfaceOf: Uint32Array,
  surfaces: Surface[],
  opaque: number,
): Piece {
  let reachM = 0;
  for (let i = 0; i < positions.length; i += 3)
    reachM = Math.max(reachM, Math.abs(positions[i]!), Math.abs(positions[i + 1]!));
  return { positions, surfaceOf, surfaces, opaque, reachM };
}
