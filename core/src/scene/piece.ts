export type SurfaceKind = 'ground' | 'wall' | 'roof' | 'floor' | 'mesh';

/** A flat part of an owner: what can be picked, measured or given openings. */
export interface Surface {
  kind: SurfaceKind;
  /** Outward unit normal in the project frame; of a mesh, of its first triangle. */
  normal: [number, number, number];
  /** Storey counted from 0 at the bottom, or null where there is none. */
  storey: number | null;
}

type Point3 = readonly [number, number, number];

/** The triangles of one owner, with the surface that each belongs to (an index into `surfaces`). */
export interface Piece {
  /** Nine numbers a triangle, metres, corners anticlockwise seen from outside. */
  positions: Float64Array;
  surfaceOf: Uint32Array;
  surfaces: Surface[];
}

/** Collects surfaces and triangles of one owner. */
export class PieceBuilder {
  private readonly positions: number[] = [];
  private readonly surfaceOf: number[] = [];
  private readonly surfaces: Surface[] = [];

  surface(kind: SurfaceKind, normal: [number, number, number], storey: number | null = null): void {
    this.surfaces.push({ kind, normal, storey });
  }

  /** A triangle of the surface begun last. */
  triangle(a: Point3, b: Point3, c: Point3): void {
    this.positions.push(...a, ...b, ...c);
    this.surfaceOf.push(this.surfaces.length - 1);
  }

  quad(a: Point3, b: Point3, c: Point3, d: Point3): void {
    this.triangle(a, b, c);
    this.triangle(a, c, d);
  }

  build(): Piece {
    return {
      positions: Float64Array.from(this.positions),
      surfaceOf: Uint32Array.from(this.surfaceOf),
      surfaces: this.surfaces,
    };
  }
}

/** Unit normal of the triangle a, b, c; zero when it has no area. */
export function triangleNormal(a: Point3, b: Point3, c: Point3): [number, number, number] {
  const ux = b[0] - a[0];
  const uy = b[1] - a[1];
  const uz = b[2] - a[2];
  const vx = c[0] - a[0];
  const vy = c[1] - a[1];
  const vz = c[2] - a[2];
  const n: [number, number, number] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.hypot(...n);
  return length > 0 ? [n[0] / length, n[1] / length, n[2] / length] : [0, 0, 0];
}
