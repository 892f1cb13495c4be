import {
  type Envelope,
  EnvelopeSolver,
  envelopeLattice,
  instantOf,
  addDays,
  daysBetween,
  nodePlace,
  type Point2,
  type Project,
  SunTrack,
  sunVector,
} from '@dial-shade/core';
import { polygonContains } from 'd3-polygon';
import { kelpLane } from '../../samples/src/kelp-lane';

/** Nodes at which a plain sweep is run beside it; all suns × all nodes would take minutes. */
const COMPARED = 300;
/** Heights over this are not compared, metres; and so many of those that differ are swept by seconds. */
const HIGH_M = 60;
const CLOSER = 6;

/** Somewhere else by a hair, so that nothing of a run before is known. */
const elsewhere = (project: Project, by: number): Project => ({
  ...project,
  site: {
    ...project.site,
    place: { ...project.site.place, latitudeDeg: project.site.place.latitudeDeg + by * 1e-7 },
  },
});

/** Unit vectors towards all suns of windows, minute by minute or closer. */
function minuteSuns(
  { site }: Project,
  { keep }: Envelope,
  k: number,
  parts = 1,
): (readonly [number, number, number])[] {
  const track = new SunTrack(site.place);
  return keep[k]!.windows.flatMap(({ from, to, startMinutes, endMinutes }) =>
    Array.from({ length: daysBetween(from, to) + 1 }, (_, day) =>
      Array.from({ length: (endMinutes - startMinutes) * parts + 1 }, (_, m) => {
        const { altitudeDeg, azimuthDeg } = track.at(
          instantOf(addDays(from, day), startMinutes, site.place.zone) + (m * 60_000) / parts,
        );
        return sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg);
      }),
    ).flat(),
  ).filter(([, , z]) => z > 0);
}

/** A plain sweep: for every sun, where the line along its shade first enters the outline, × tan of its altitude. */
function swept(
  outline: readonly Point2[],
  level: (p: Point2) => number,
  [x, y]: Point2,
  suns: ReturnType<typeof minuteSuns>,
): number {
  let best = polygonContains(outline as [number, number][], [x, y]) ? level([x, y]) : Infinity;
  for (const [sx, sy, sz] of suns) {
    const flat = Math.hypot(sx, sy);
    const [dx, dy] = [-sx / flat, -sy / flat];
    for (let i = 0; i < outline.length; i++) {
      const [ax, ay] = outline[i]!;
      const [bx, by] = outline[(i + 1) % outline.length]!;
      const a = dx * (ay - y) - dy * (ax - x);
      const b = dx * (by - y) - dy * (bx - x);
      if (a * b > 0 || a === b) continue;
      const t = a / (a - b);
      const along = dx * (ax + t * (bx - ax) - x) + dy * (ay + t * (by - ay) - y);
      if (along >= 0) best = Math.min(best, level([x + along * dx, y + along * dy]) + (along * sz) / flat);
    }
  }
  return best;
}

/** A field of an envelope to 5 cm, and a plain sweep minute by minute at some of its nodes. */
function compare(name: string, project: Project, envelope: Envelope, stepM: number): void {
  const times: number[] = [];
  let lattice = envelopeLattice(new EnvelopeSolver(project, envelope), envelope, stepM);
  for (let run = 1; run <= 3; run++) {
    const there = elsewhere(project, run);
    const began = performance.now();
    lattice = envelopeLattice(new EnvelopeSolver(there, envelope), envelope, stepM);
    times.push(performance.now() - began);
  }
  const nodes = lattice.levelM.length;
  const areas = envelope.keep.map(({ id }) => project.areas.find((one) => one.id === id)!);
  const suns = envelope.keep.map((_, k) => minuteSuns(project, envelope, k));
  const every = Math.max(1, Math.floor(nodes / COMPARED));
  const solver = new EnvelopeSolver(project, { ...envelope, limit: null, slope: null });
  const level = (k: number) => (p: Point2) => {
    const { on } = areas[k]!;
    return on.kind === 'level' ? on.levelM : solver.groundAt(p);
  };
  const sweep = (place: Point2, each: typeof suns) =>
    areas.reduce(
      (least, area, k) => Math.min(least, swept(area.outline as Point2[], level(k), place, each[k]!)),
      Infinity,
    );
  const began = performance.now();
  const plain: { place: Point2; z: number }[] = [];
  for (let i = 0; i < nodes; i += every)
    plain.push({ place: nodePlace(lattice, i), z: sweep(nodePlace(lattice, i), suns) });
  const plainMs = ((performance.now() - began) / plain.length) * nodes;
  let [compared, highest, lowest] = [0, -Infinity, Infinity];
  const doubted: { place: Point2; off: number; found: number }[] = [];
  for (const { place, z } of plain) {
    if (!Number.isFinite(z) || z > HIGH_M) continue;
    const found = solver.at(place).levelM;
    const off = found - z;
    compared++;
    highest = Math.max(highest, off);
    lowest = Math.min(lowest, off);
    if (off < -0.05) doubted.push({ place, off, found });
  }
  const ms = [...times].sort((a, b) => a - b)[1]!;
  console.log(
    `${name}: ${nodes.toLocaleString('en')} nodes, ${suns.reduce((sum, one) => sum + one.length, 0).toLocaleString('en')} suns: ` +
      `${ms.toFixed(0)} ms; a plain sweep of extrusions ${(plainMs / 1000).toFixed(1)} s (from ${plain.length} of the nodes), ` +
      `${(plainMs / ms).toFixed(0)} times as long; at ${compared} nodes at most ${Math.max(0, highest * 100).toFixed(2)} cm higher and ${(-lowest * 100).toFixed(2)} cm lower`,
  );
  if (doubted.length === 0) return;
  // Between two minutes a sun may pass a corner that neither of them meets.
  const worst = doubted.sort((a, b) => a.off - b.off).slice(0, CLOSER);
  const closer = envelope.keep.map((_, k) => minuteSuns(project, envelope, k, 60));
  const offs = worst.map(({ place, found }) => found - sweep(place, closer));
  console.log(
    `  ${doubted.length} of them are more than 5 cm lower than a sweep by minutes; a sweep by seconds at the worst ${worst.length} has them at most ${(-Math.min(...offs) * 100).toFixed(2)} cm lower`,
  );
}

/** Twenty level gardens round a footprint of 10,000 m², each with 1,500 suns. */
function large(project: Project): { project: Project; envelope: Envelope } {
  const areas = Array.from({ length: 20 }, (_, k): Project['areas'][number] => {
    const turn = (k / 20) * Math.PI * 2;
    const [x, y] = [50 + Math.cos(turn) * 95, 50 + Math.sin(turn) * 95];
    const outline = Array.from({ length: 6 }, (_, c): [number, number] => [
      x + 9 * Math.cos((c / 6) * Math.PI * 2),
      y + 7 * Math.sin((c / 6) * Math.PI * 2),
    ]);
    return { id: `g${k}`, name: `Garden ${k}`, use: 'garden', outline, on: { kind: 'level', levelM: k % 3 } };
  });
  const envelope: Envelope = {
    ...project.envelopes[0]!,
    build: [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ],
    setbacksM: [],
    limit: null,
    keep: areas.map(({ id }, k) => ({
      ...{ on: 'area', id, option: null, basis: 'clock' },
      windows: [
        {
          from: `2026-03-${String(10 + (k % 5)).padStart(2, '0')}`,
          to: `2026-03-${String(14 + (k % 5)).padStart(2, '0')}`,
          ...{ startMinutes: 570 + k, endMinutes: 570 + k + 299 },
        },
      ],
    })),
  };
  return { project: { ...project, areas: [...project.areas, ...areas] }, envelope };
}

export function envelopeBench(): void {
  const project = kelpLane();
  compare('the sample, nodes 0.25 m apart', project, project.envelopes[0]!, 0.25);
  const wide = large({
    ...project,
    site: { ...project.site, ground: { kind: 'plane', levelM: 0, slopeDeg: 0, fallsTowardsDeg: 0 } },
  });
  compare('10,000 m² and 20 gardens, nodes 0.5 m apart', wide.project, wide.envelope, 0.5);
}
