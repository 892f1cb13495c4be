import { addDays, clockAt, daysBetween, instantOf } from '../civil';
import { bounds, type MeshStore, type Point3, polygonNormal } from '../geometry';
import type { Envelope, Project } from '../project';
import { SunTrack, sunVector } from '../sun';
import { firstBlock, TriangleTree } from '../trace';
import { EnvelopeSolver } from './envelope-field';
import { keptFaces } from './kept-face';
import { facets, pointsOn, StandingShade } from './standing-shade';

/** What tracing says of an envelope. */
export interface EnvelopeProof {
  /** Rays from what keeps its sun to its suns, past the space filled up to the field, and how many were blocked. */
  rays: number;
  blocked: number;
  /** Places at which the field is limited by sun, and at how many 0.2 m more takes some. */
  raised: number;
  shading: number;
}

/** Blocks are so wide, and stand so far under the lowest of the field about them, metres. */
const BLOCK_M = 1;
const UNDER_M = 0.01;
const ABOUT_M = 0.125;
/** Where the field about a block differs by more, it is divided, down to blocks of this. */
const ROUGH_M = 3;
const MIN_BLOCK_M = 0.125;
/** Places that are limited by a sun under one degree are not raised: its shade grazes the ground. */
const LOW = Math.sin(Math.PI / 180);
/** What has no limit is filled up to so much over the ground. */
const MAX_M = 60;
/** Rays and raised places at most; suns and places are taken further apart. */
const MAX_RAYS = 2_000_000;
const MAX_RAISED = 400;
const RAISE_M = 0.2;
/** Parts of the raised line whose shade is looked at: over a corner that of its tip may lie beyond. */
const OVER = [1, 0.5, 0.25, 0.1, 0.04, 0.015, 0.005];
/** Suns about the one that decides: over a sharp corner the shade of a line lies for seconds only. */
const TRIED = [
  { apartMs: 10_000, upToMs: 40 * 60_000 },
  { apartMs: 1000, upToMs: 3 * 60_000 },
];

/**
 * Proves an envelope by tracing: filled with blocks up to the field, nothing of what is kept loses a sun of its windows; a
 * line that ends 0.2 m over it takes some, wherever sun limits it. Nothing else stands in the way.
 */
export function proveEnvelope(
  project: Project,
  envelope: Envelope,
  meshes: MeshStore,
  progress?: (share: number) => boolean,
): EnvelopeProof | null {
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const { minX, minY, maxX, maxY } = bounds(solver.outline);
  const track = new SunTrack(project.site.place);
  const sunAt = (atMs: number) => {
    const { altitudeDeg, azimuthDeg } = track.at(atMs);
    return sunVector(altitudeDeg, azimuthDeg, project.site.north.trueNorthDeg);
  };
  const blocks: number[] = [];
  /** A block up to the lowest of the field about it; where that is rough, or has an end, smaller ones. */
  const fillUp = (x: number, y: number, sideM: number): void => {
    const groundM = solver.groundAt([x, y]);
    const half = sideM / 2 + ABOUT_M * Math.min(1, sideM);
    const about = AROUND.map(([dx, dy]) => solver.at([x + dx * half, y + dy * half]).levelM);
    const [least, most] = [Math.min(...about), Math.max(...about)];
    if (sideM > MIN_BLOCK_M && Math.min(groundM + MAX_M, most) - least > ROUGH_M) {
      for (const [dx, dy] of QUARTERS) fillUp(x + (dx * sideM) / 4, y + (dy * sideM) / 4, sideM / 2);
      return;
    }
    const top = Math.min(groundM + MAX_M, least - UNDER_M);
    if (top > groundM) blocks.push(...block(x, y, sideM, groundM, top));
  };
  const places: { at: [number, number]; levelM: number; atMs: number; kept: number }[] = [];
  for (let y = minY + BLOCK_M / 2; y < maxY; y += BLOCK_M)
    for (let x = minX + BLOCK_M / 2; x < maxX; x += BLOCK_M) {
      if (!solver.isOpen([x, y])) continue;
      const found = solver.at([x, y]);
      const kept = solver.keptOf[found.decidedBy] ?? -1;
      if (kept >= 0 && !Number.isNaN(found.atMs) && sunAt(found.atMs)[2] > LOW)
        places.push({ at: [x, y], ...found, kept });
      fillUp(x, y, BLOCK_M);
    }
  const proof: EnvelopeProof = { rays: 0, blocked: 0, raised: 0, shading: 0 };
  const faces = envelope.keep.map((kept) => keptFaces(project, kept, meshes));
  const standing = envelope.lost === 'leave' ? new StandingShade(project, meshes) : null;
  const all = faces.reduce((sum, some) => sum + some.length, 0);
  const share = MAX_RAYS / Math.max(1, all);
  const tree = TriangleTree.build(Float64Array.from(blocks));
  let done = 0;
  for (const [k, kept] of envelope.keep.entries())
    for (const face of faces[k]!) {
      const points = pointsOn(face.corners);
      const normal = outwards(face.corners, face.isArea);
      const isLit = standing?.reaches(face.corners, normal) ?? (() => true);
      const most = Math.max(64, Math.floor(share / points.length));
      const suns = sunsOf(project, kept.windows, most)
        .map(sunAt)
        .filter(([x, y, z]) => z > 0 && isLit([x, y, z]));
      for (const [px, py, pz] of points)
        for (const [x, y, z] of suns) {
          if (x * normal[0] + y * normal[1] + z * normal[2] <= 0) continue;
          proof.rays++;
          if (blocks.length > 0 && firstBlock(tree, px, py, pz + 1e-6, x, y, z) >= 0) proof.blocked++;
        }
      if (progress?.(++done / (all + 1)) === false) return null;
    }
  const trees = faces.map((some) =>
    TriangleTree.build(Float64Array.from(some.flatMap(({ corners }) => facets(corners)))),
  );
  const every = Math.max(1, Math.ceil(places.length / MAX_RAISED));
  for (let i = 0; i < places.length; i += every) {
    const { at, levelM, atMs, kept } = places[i]!;
    proof.raised++;
    const windows = envelope.keep[kept]!.windows;
    const takes = (ms: number) => {
      const [x, y, z] = sunAt(ms);
      return (
        z > 0 &&
        OVER.some(
          (share) => firstBlock(trees[kept]!, at[0], at[1], levelM + RAISE_M * share, -x, -y, -z) >= 0,
        ) &&
        isWithin(project, windows, ms)
      );
    };
    if (TRIED.some((tried) => momentsAbout(atMs, tried).some(takes))) proof.shading++;
  }
  return proof;
}

/** Moments about one, the nearest first. */
function momentsAbout(atMs: number, { apartMs, upToMs }: (typeof TRIED)[number]): number[] {
  return Array.from(
    { length: (2 * upToMs) / apartMs + 1 },
    (_, k) => atMs + Math.ceil(k / 2) * apartMs * (k % 2 ? 1 : -1),
  );
}

/** Whether a moment lies in one of some windows of time, ends included. */
function isWithin(project: Project, windows: Envelope['keep'][number]['windows'], atMs: number): boolean {
  const { date, minutes } = clockAt(atMs, project.site.place.zone);
  return windows.some(
    ({ from, to, startMinutes, endMinutes }) =>
      date >= from && date <= to && minutes >= startMinutes && minutes <= endMinutes,
  );
}

const QUARTERS = [-1, 1].flatMap((dx) => [-1, 1].map((dy) => [dx, dy] as const));
const AROUND = [-1, 0, 1].flatMap((dx) => [-1, 0, 1].map((dy) => [dx, dy] as const));

/** The moments of windows of time, so many at the most. */
function sunsOf(project: Project, windows: Envelope['keep'][number]['windows'], most: number): number[] {
  const { zone } = project.site.place;
  const minutes = windows.reduce(
    (sum, { from, to, startMinutes, endMinutes }) =>
      sum + (daysBetween(from, to) + 1) * (endMinutes - startMinutes + 1),
    0,
  );
  // Every so many minutes, shifted from day to day, so that all minutes of a window come up.
  const every = Math.max(1, Math.ceil(minutes / most));
  const found: number[] = [];
  for (const { from, to, startMinutes, endMinutes } of windows)
    for (let day = 0; day <= daysBetween(from, to); day++)
      for (let m = startMinutes + (every > 1 ? (day * 7) % every : 0); m <= endMinutes; m += every)
        found.push(instantOf(addDays(from, day), m, zone));
  return found;
}

function outwards(corners: readonly Point3[], isArea: boolean): Point3 {
  const [x, y, z] = polygonNormal([...corners]);
  return isArea && z < 0 ? [-x, -y, -z] : [x, y, z];
}

/** An upright block on a square, as triangles. */
function block(x: number, y: number, sideM: number, bottom: number, top: number): number[] {
  const h = sideM / 2;
  const ring = [
    [x - h, y - h],
    [x + h, y - h],
    [x + h, y + h],
    [x - h, y + h],
  ] as const;
  const quad = (a: Point3, b: Point3, c: Point3, d: Point3) => [...a, ...b, ...c, ...a, ...c, ...d];
  const sides = ring.flatMap(([ax, ay], i) => {
    const [bx, by] = ring[(i + 1) % 4]!;
    return quad([ax, ay, bottom], [bx, by, bottom], [bx, by, top], [ax, ay, top]);
  });
  const up = ring.map(([px, py]): Point3 => [px, py, top]) as [Point3, Point3, Point3, Point3];
  return [...sides, ...quad(...up)];
}
