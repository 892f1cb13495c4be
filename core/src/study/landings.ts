import type { Point3 } from '../geometry';

/** Where rays land. */
export const LANDINGS = [
  'floor',
  'ceiling',
  'window wall',
  'back wall',
  'side walls',
  'furniture',
  'reveals',
  'strip',
  'devices',
] as const;
export type Landing = (typeof LANDINGS)[number];

/** What lands on a surface, by how often it was reflected before, and what of it stays there. */
export interface LandingCount {
  surface: Landing;
  lands: number[];
  stays: number[];
}

/** A stretch of a ray, and how often it was reflected before. */
export interface RayStretch {
  from: Point3;
  to: Point3;
  bounce: number;
  /** Whether it comes from a surface that spreads light. */
  isSpread: boolean;
}
