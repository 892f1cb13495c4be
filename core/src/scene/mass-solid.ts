import { RAD } from '../civil';
import {
  type Face,
  massLevels,
  type MassLevels,
  openableFaces,
  type Plate,
  type RoofShape,
  roofShape,
  type RoomShape,
  roomsOf,
  tiers,
  topPlate,
} from '../form';
import { cross, type Point2, type Point3, type Ring, triangleNormal } from '../geometry';
import type { FittedOpening } from '../openings';
import type { Furniture, Glazing, Ground, MassShape } from '../project';
import { fill, openFace } from './open-face';
import { type Piece, PieceBuilder } from './piece';

/** Openings by the key of the face they stand in, and what their panes are made of. */
export interface SolidOpenings {
  byFace: ReadonlyMap<string, readonly FittedOpening[]>;
  glazings: readonly Glazing[];
}

const NONE: SolidOpenings = { byFace: new Map(), glazings: [] };

/**
 * The body of a mass: walls by storey, roof and underside, panes in their openings. With openings or partitions it is
 * hollow, with a floor at every storey. Courts are open shafts.
 */
export function massSolid(mass: MassShape, ground: Ground, withOpenings: SolidOpenings | null = null): Piece {
  const openings = withOpenings ?? NONE;
  const builder = new PieceBuilder();
  const levels = massLevels(mass, ground);
  const faces = openableFaces(mass, ground);
  const hollow = openings.byFace.size > 0 || mass.partitions.length > 0 || mass.furniture.length > 0;
  shell(builder, mass, levels, faces, openings);
  if (mass.roof.kind === 'flat' && mass.roof.parapetM > 0) parapet(builder, topPlate(mass), levels);
  if (hollow) {
    floors(builder, mass, levels);
    partitions(builder, mass, levels);
  }
  for (const piece of mass.furniture) furniture(builder, piece, floorOf(mass, levels, piece.storey));
  return builder.build();
}

function floorOf(mass: MassShape, levels: MassLevels, storey: number): number {
  return mass.storeys.slice(0, storey).reduce((z, { heightM }) => z + heightM, levels.floorM);
}

/** Walls, caps where the plate changes, underside and roof: one closed body for each run of equal storeys. */
function shell(
  builder: PieceBuilder,
  mass: MassShape,
  levels: MassLevels,
  faces: readonly Face[],
  openings: SolidOpenings,
): void {
  const put = (face: Face, kind: 'wall' | 'roof', storey: number | null) =>
    openFace(builder, face, kind, { storey }, openings.byFace.get(face.key) ?? [], openings.glazings);
  let z = levels.floorM;
  const steps = tiers(mass);
  const { gables } = roofShape(topPlate(mass), mass.roof);
  const isTop = (storey: number) => storey === mass.storeys.length - 1;
  steps.forEach(({ plate, from, to }, i) => {
    for (const face of faces) {
      const { host } = face;
      if (host.on !== 'wall' || host.storey < from || host.storey >= to) continue;
      put(isTop(host.storey) ? cutAtTop(face, gables, plate) : face, 'wall', host.storey);
    }
    cap(builder, 'floor', plate, i === 0 ? levels.bottomM : z, false);
    for (let s = from; s < to; s++) z += mass.storeys[s]!.heightM;
    if (i + 1 < steps.length) cap(builder, 'roof', plate, z, true, to - 1);
  });
  for (const face of faces) if (face.host.on === 'roof') put(face, 'roof', null);
  const rings = [topPlate(mass).outer, ...topPlate(mass).holes];
  for (const { ring, edge, points } of gables) {
    const p = rings[ring]![edge]!;
    const q = rings[ring]![(edge + 1) % rings[ring]!.length]!;
    builder.surface('wall', outward(p, q), { storey: mass.storeys.length - 1 });
    const [first, ...rest] = points.map(([x, y, h]): Point3 => [x, y, h + levels.eavesM]);
    for (let k = 1; k < rest.length; k++) builder.triangle(first!, rest[k - 1]!, rest[k]!);
  }
}

/** A wall of the top storey with a corner wherever two gables on it meet, as under a sawtooth, so that edges meet whole. */
function cutAtTop(face: Face, gables: RoofShape['gables'], plate: Plate): Face {
  const { host } = face;
  if (host.on !== 'wall') return face;
  const on = gables.filter(({ ring, edge }) => ring === host.ring && plate.edges[ring]![edge] === host.edge);
  if (on.length < 2) return face;
  const along = ([x, y]: Point3) => (x - face.origin[0]) * face.u[0] + (y - face.origin[1]) * face.u[1];
  const feet = on
    .flatMap(({ points }) => points.filter(([, , h]) => h === 0))
    .map((p) => ({ u: along(p), at: [p[0], p[1], face.corners[2]![2]] as Point3 }))
    .filter(({ u }) => u > 1e-6 && u < face.lengthM - 1e-6)
    .sort((a, b) => b.u - a.u)
    .filter(({ u }, i, all) => i === 0 || all[i - 1]!.u - u > 1e-6);
  const insert = <T>(list: readonly T[], items: T[]) => [...list.slice(0, 3), ...items, ...list.slice(3)];
  return {
    ...face,
    outline: insert(
      face.outline,
      feet.map(({ u }): Point2 => [u, face.heightM]),
    ),
    corners: insert(
      face.corners,
      feet.map(({ at }) => at),
    ),
  };
}

function outward(p: Point2, q: Point2): [number, number, number] {
  const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return [(q[1] - p[1]) / length, (p[0] - q[0]) / length, 0];
}

function level(ring: Ring, z: number): Point3[] {
  return ring.map(([x, y]) => [x, y, z]);
}

function cap(
  builder: PieceBuilder,
  kind: 'roof' | 'floor',
  plate: Plate,
  z: number,
  up: boolean,
  storey: number | null = null,
): void {
  const rings = [plate.outer, ...plate.holes];
  const normal: [number, number, number] = [0, 0, up ? 1 : -1];
  builder.surface(kind, normal, { storey });
  fill(
    builder,
    rings,
    rings.map((ring) => level(ring, z)),
    normal,
  );
}

/** A parapet is a wall without thickness, seen and blocking from both sides. */
function parapet(builder: PieceBuilder, plate: Plate, levels: MassLevels): void {
  for (const ring of [plate.outer, ...plate.holes])
    ring.forEach((p, i) =>
      sheet(builder, 'wall', p, ring[(i + 1) % ring.length]!, levels.eavesM, levels.topM),
    );
}

/** An upright sheet with two sides. */
function sheet(
  builder: PieceBuilder,
  kind: 'wall' | 'partition',
  p: Point2,
  q: Point2,
  low: number,
  high: number,
  storey: number | null = null,
): void {
  const n = outward(p, q);
  builder.surface(kind, n, { storey, isSheet: true });
  builder.quad([...p, low], [...q, low], [...q, high], [...p, high]);
  builder.surface(kind, [-n[0], -n[1], 0], { storey, isSheet: true });
  builder.quad([...q, low], [...p, low], [...p, high], [...q, high]);
}

/** Floors between storeys of one plate, and the lowest floor where the walls go deeper. Not over double-height rooms. */
function floors(builder: PieceBuilder, mass: MassShape, levels: MassLevels): void {
  const open = roomsOf(mass).filter((room) => room.doubleHeight);
  let z = levels.floorM;
  for (const { plate, from, to } of tiers(mass)) {
    for (let storey = from; storey < to; storey++) {
      const isFree = storey > from || (storey === 0 && levels.bottomM < levels.floorM - 1e-9);
      const below = open.filter((room) => room.storey === storey - 1);
      if (isFree) slab(builder, mass, plate, z, storey, below);
      z += mass.storeys[storey]!.heightM;
    }
  }
}

/** A floor with two sides, without the parts that are open to a room below. */
function slab(
  builder: PieceBuilder,
  mass: MassShape,
  plate: Plate,
  z: number,
  storey: number,
  openTo: readonly RoomShape[],
): void {
  const below = roomsOf(mass).filter((room) => room.storey === storey - 1);
  const parts: { outer: Ring; holes: readonly Ring[] }[] = openTo.length
    ? below.filter((room) => !openTo.includes(room))
    : [plate];
  for (const part of parts)
    for (const up of [true, false]) {
      const normal: [number, number, number] = [0, 0, up ? 1 : -1];
      const rings = [part.outer, ...part.holes];
      builder.surface('floor', normal, { storey, isSheet: true });
      fill(
        builder,
        rings,
        rings.map((ring) => level(ring, z)),
        normal,
      );
    }
}

function partitions(builder: PieceBuilder, mass: MassShape, levels: MassLevels): void {
  for (const { path, storey } of mass.partitions) {
    const height = mass.storeys[storey]?.heightM;
    if (height === undefined) continue;
    const low = floorOf(mass, levels, storey);
    for (let i = 1; i < path.length; i++)
      sheet(builder, 'partition', path[i - 1]!, path[i]!, low, low + height, storey);
  }
}

function furniture(builder: PieceBuilder, piece: Furniture, floorM: number): void {
  const turn = piece.turnDeg * RAD;
  const along: Point3 = [Math.cos(turn), Math.sin(turn), 0];
  const aside = cross([0, 0, 1], along);
  const corner = (u: number, v: number, z: number): Point3 => [
    piece.at[0] + along[0] * u * piece.widthM + aside[0] * v * piece.depthM,
    piece.at[1] + along[1] * u * piece.widthM + aside[1] * v * piece.depthM,
    z,
  ];
  box(builder, 'furniture', (u, v, top) => corner(u - 0.5, v - 0.5, floorM + (top ? piece.heightM : 0)), {
    storey: piece.storey,
  });
}

/** A closed box whose corners are given by u and v of 0 or 1, below and above. */
export function box(
  builder: PieceBuilder,
  kind: 'furniture' | 'wall' | 'trunk',
  corner: (u: number, v: number, top: boolean) => Point3,
  more: { storey?: number } = {},
): void {
  const foot = [corner(0, 0, false), corner(1, 0, false), corner(1, 1, false), corner(0, 1, false)];
  const head = [corner(0, 0, true), corner(1, 0, true), corner(1, 1, true), corner(0, 1, true)];
  foot.forEach((a, i) => {
    const b = foot[(i + 1) % 4]!;
    builder.surface(kind, triangleNormal(a, b, head[i]!), more);
    builder.quad(a, b, head[(i + 1) % 4]!, head[i]!);
  });
  builder.surface(kind, triangleNormal(head[0]!, head[1]!, head[2]!), more);
  builder.quad(head[0]!, head[1]!, head[2]!, head[3]!);
  builder.surface(kind, triangleNormal(foot[0]!, foot[3]!, foot[2]!), more);
  builder.quad(foot[0]!, foot[3]!, foot[2]!, foot[1]!);
}
