import earcut from 'earcut';
import { anticlockwise, centroid, type Point2, type Ring, signedArea } from '../geometry/ring';
import type { Ground, MassShape } from '../project/schema';
import { groundLevel } from './ground';
import { type Piece, PieceBuilder, triangleNormal } from './piece';

/** Levels of a mass in metres: where its walls begin, its lowest floor, its eaves and its highest point. */
export interface MassLevels {
  bottomM: number;
  floorM: number;
  eavesM: number;
  topM: number;
}

/**
 * Levels of a mass. On the ground, the lowest floor stands at the highest ground under its corners (plus the offset) and
 * the walls run down to the lowest; at a level, walls and floor begin there.
 */
export function massLevels(mass: MassShape, ground: Ground): MassLevels {
  const heights = mass.storeys.reduce((sum, storey) => sum + storey.heightM, 0);
  let floorM: number;
  let bottomM: number;
  if (mass.base.on === 'level') {
    floorM = bottomM = mass.base.levelM;
  } else {
    const levels = mass.footprint.outer.map((corner) => groundLevel(ground, corner));
    floorM = Math.max(...levels) + mass.base.offsetM;
    bottomM = Math.min(...levels, floorM);
  }
  const eavesM = floorM + heights;
  const above = mass.roof.kind === 'flat' ? mass.roof.parapetM : mass.roof.riseM;
  return { bottomM, floorM, eavesM, topM: eavesM + above };
}

/** Floor area of all storeys, footprint area and enclosed volume above the lowest floor, m² and m³. */
export function massFigures(mass: MassShape): { footprintM2: number; floorM2: number; volumeM3: number } {
  const outer = Math.abs(signedArea(mass.footprint.outer));
  const footprintM2 = mass.footprint.holes.reduce((sum, hole) => sum - Math.abs(signedArea(hole)), outer);
  const heights = mass.storeys.reduce((sum, storey) => sum + storey.heightM, 0);
  const { roof } = mass;
  const share = roof.kind === 'gable' ? 1 / 2 : roof.kind === 'pyramid' ? 1 / 3 : 0;
  const roofVolume = roof.kind === 'flat' ? 0 : footprintM2 * roof.riseM * share;
  return {
    footprintM2,
    floorM2: footprintM2 * mass.storeys.length,
    volumeM3: footprintM2 * heights + roofVolume,
  };
}

/** The closed solid of a mass: walls by storey, roof and underside. Courts are open shafts. */
export function massSolid(mass: MassShape, ground: Ground): Piece {
  const builder = new PieceBuilder();
  const levels = massLevels(mass, ground);
  const outer = anticlockwise(mass.footprint.outer);
  const holes = mass.footprint.holes.map((hole) => [...anticlockwise(hole)].reverse());

  for (const ring of [outer, ...holes]) {
    for (let i = 0; i < ring.length; i++) wall(builder, ring[i]!, ring[(i + 1) % ring.length]!, mass, levels);
  }
  if (mass.roof.kind === 'gable') gable(builder, outer, levels);
  else if (mass.roof.kind === 'pyramid') pyramid(builder, outer, levels);
  else {
    cap(builder, 'roof', outer, holes, levels.eavesM, true);
    if (mass.roof.parapetM > 0) parapet(builder, [outer, ...holes], levels);
  }
  cap(builder, 'floor', outer, holes, levels.bottomM, false);
  return builder.build();
}

function outward(p: Point2, q: Point2): [number, number, number] {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return [(q[1] - p[1]) / length, (p[0] - q[0]) / length, 0];
}

function wall(builder: PieceBuilder, p: Point2, q: Point2, mass: MassShape, levels: MassLevels): void {
  let low = levels.bottomM;
  let high = levels.floorM;
  mass.storeys.forEach((storey, i) => {
    high += storey.heightM;
    builder.surface('wall', outward(p, q), i);
    builder.quad([...p, low], [...q, low], [...q, high], [...p, high]);
    low = high;
  });
}

function cap(
  builder: PieceBuilder,
  kind: 'roof' | 'floor',
  outer: Ring,
  holes: readonly Ring[],
  z: number,
  up: boolean,
): void {
  const rings = [outer, ...holes];
  const flat = rings.flatMap((ring) => ring.flatMap(([x, y]) => [x, y]));
  const starts: number[] = [];
  let count = 0;
  for (const ring of rings) {
    if (count > 0) starts.push(count);
    count += ring.length;
  }
  builder.surface(kind, [0, 0, up ? 1 : -1]);
  const corner = (i: number): [number, number, number] => [flat[2 * i]!, flat[2 * i + 1]!, z];
  const indices = earcut(flat, starts);
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [corner(indices[i]!), corner(indices[i + 1]!), corner(indices[i + 2]!)];
    const facesUp = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]) > 0;
    if (facesUp === up) builder.triangle(a, b, c);
    else builder.triangle(a, c, b);
  }
}

/** A parapet is a wall without thickness, seen and blocking from both sides. */
function parapet(builder: PieceBuilder, rings: readonly Ring[], levels: MassLevels): void {
  for (const ring of rings) {
    for (let i = 0; i < ring.length; i++) {
      const p = ring[i]!;
      const q = ring[(i + 1) % ring.length]!;
      const n = outward(p, q);
      builder.surface('wall', n);
      builder.quad([...p, levels.eavesM], [...q, levels.eavesM], [...q, levels.topM], [...p, levels.topM]);
      builder.surface('wall', [-n[0], -n[1], 0]);
      builder.quad([...q, levels.eavesM], [...p, levels.eavesM], [...p, levels.topM], [...q, levels.topM]);
    }
  }
}

function gable(builder: PieceBuilder, outer: Ring, levels: MassLevels): void {
  const side = (i: number) =>
    Math.hypot(outer[(i + 1) % 4]![0] - outer[i]![0], outer[(i + 1) % 4]![1] - outer[i]![1]);
  const turn = side(0) + side(2) >= side(1) + side(3) ? 0 : 1;
  const [p0, p1, p2, p3] = [0, 1, 2, 3].map((i) => outer[(i + turn) % 4]!) as [
    Point2,
    Point2,
    Point2,
    Point2,
  ];
  const at = (p: Point2): [number, number, number] => [p[0], p[1], levels.eavesM];
  const ridge = (p: Point2, q: Point2): [number, number, number] => [
    (p[0] + q[0]) / 2,
    (p[1] + q[1]) / 2,
    levels.topM,
  ];
  const m12 = ridge(p1, p2);
  const m30 = ridge(p3, p0);
  builder.surface('roof', triangleNormal(at(p0), at(p1), m12));
  builder.quad(at(p0), at(p1), m12, m30);
  builder.surface('roof', triangleNormal(at(p2), at(p3), m30));
  builder.quad(at(p2), at(p3), m30, m12);
  builder.surface('wall', outward(p1, p2));
  builder.triangle(at(p1), at(p2), m12);
  builder.surface('wall', outward(p3, p0));
  builder.triangle(at(p3), at(p0), m30);
}

function pyramid(builder: PieceBuilder, outer: Ring, levels: MassLevels): void {
  const apex: [number, number, number] = [...centroid(outer), levels.topM];
  for (let i = 0; i < outer.length; i++) {
    const p = outer[i]!;
    const q = outer[(i + 1) % outer.length]!;
    const a: [number, number, number] = [p[0], p[1], levels.eavesM];
    const b: [number, number, number] = [q[0], q[1], levels.eavesM];
    builder.surface('roof', triangleNormal(a, b, apex));
    builder.triangle(a, b, apex);
  }
}
