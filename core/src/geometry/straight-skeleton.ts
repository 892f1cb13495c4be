import { anticlockwise, edgeOf, type Point2, type Ring, signedArea } from './ring';

/** A corner of a roof over a polygon: place and distance from the nearest eave, metres. */
export type SkeletonPoint = readonly [x: number, y: number, distance: number];

/** A moving corner: where two edge lines meet; `edge` is the edge that follows it, `before` the one before. */
interface Corner {
  at: Point2;
  before: number;
  edge: number;
  /** Where this corner came into being. */
  born: SkeletonPoint;
}

interface Arc {
  from: SkeletonPoint;
  to: SkeletonPoint;
  edges: [number, number];
}

const NEAR = 1e-7;

/**
 * The straight skeleton of a polygon (Aichholzer et al. 1995): all edges move inwards at one speed, and the corners
 * trace arcs. Gives for each edge, in the order of the ring run anticlockwise, the outline of the part of the polygon
 * that the edge sweeps, beginning with the edge itself. Null when the polygon is too intricate to be resolved.
 */
export function straightSkeleton(polygon: Ring): SkeletonPoint[][] | null {
  const ring = anticlockwise(polygon);
  const arcs = new Wavefront(ring).run();
  if (!arcs) return null;
  const faces: SkeletonPoint[][] = [];
  for (let edge = 0; edge < ring.length; edge++) {
    const face = faceOf(ring, edge, arcs);
    if (!face) return null;
    faces.push(face);
  }
  const covered = faces.reduce((sum, face) => sum + signedArea(face.map(([x, y]) => [x, y])), 0);
  return Math.abs(covered - signedArea(ring)) < 1e-6 * Math.max(1, covered) ? faces : null;
}

class Wavefront {
  private time = 0;
  private readonly arcs: Arc[] = [];
  private loops: Corner[][];
  /** For each edge its unit direction and the distance of its line from the origin along its inward normal. */
  private readonly lines: { along: Point2; normal: Point2; offset: number }[];

  constructor(ring: Ring) {
    this.lines = ring.map((_, i) => {
      const { p, along } = edgeOf(ring, i);
      const normal: Point2 = [-along[1], along[0]];
      return { along, normal, offset: p[0] * normal[0] + p[1] * normal[1] };
    });
    const n = ring.length;
    this.loops = [
      ring.map((at, i) => ({ at, before: (i + n - 1) % n, edge: i, born: [at[0], at[1], 0] as const })),
    ];
  }

  run(): Arc[] | null {
    const limit = 40 * this.lines.length;
    for (let step = 0; this.loops.length > 0; step++) {
      if (step > limit) return null;
      this.dropFinished();
      if (this.loops.length === 0) break;
      const event = this.nextEvent();
      if (!event) return null;
      this.advance(event.in);
      if (event.kind === 'edge') this.collapse(event.loop, event.corner);
      else this.split(event.loop, event.corner, event.edgeCorner);
    }
    return this.arcs;
  }

  private dropFinished(): void {
    this.loops = this.loops.filter((loop) => {
      if (loop.length > 2) return true;
      for (const corner of loop) this.arc(corner, corner.at);
      if (loop.length === 2) {
        const [a, b] = loop as [Corner, Corner];
        this.arcs.push({ from: this.lifted(a.at), to: this.lifted(b.at), edges: [a.edge, b.edge] });
      }
      return false;
    });
  }

  private lifted(at: Point2): SkeletonPoint {
    return [at[0], at[1], this.time];
  }

  private arc(corner: Corner, at: Point2): void {
    this.arcs.push({ from: corner.born, to: this.lifted(at), edges: [corner.before, corner.edge] });
  }

  /** How a corner moves: it stays at the meeting of its two lines. Null where these run against each other. */
  private velocity({ before, edge }: Corner): Point2 | null {
    const a = this.lines[before]!;
    const b = this.lines[edge]!;
    const cross = a.along[0] * b.along[1] - a.along[1] * b.along[0];
    const dot = a.along[0] * b.along[0] + a.along[1] * b.along[1];
    if (Math.abs(cross) < 1e-9) return dot > 0 ? a.normal : null;
    const s = (dot - 1) / cross;
    return [a.normal[0] + a.along[0] * s, a.normal[1] + a.along[1] * s];
  }

  private isReflex({ before, edge }: Corner): boolean {
    const a = this.lines[before]!.along;
    const b = this.lines[edge]!.along;
    return a[0] * b[1] - a[1] * b[0] < -1e-9;
  }

  private nextEvent() {
    type Event =
      | { kind: 'edge'; in: number; loop: Corner[]; corner: number }
      | { kind: 'split'; in: number; loop: Corner[]; corner: number; edgeCorner: number };
    let next: Event | null = null;
    const offer = (event: Event) => {
      if (event.in > -1e-6 && (!next || event.in < next.in - NEAR))
        next = { ...event, in: Math.max(0, event.in) };
    };
    for (const loop of this.loops) {
      loop.forEach((_, corner) => {
        const time = this.collapseIn(loop, corner);
        if (time !== null) offer({ kind: 'edge', in: time, loop, corner });
      });
    }
    for (const loop of this.loops) {
      loop.forEach((moving, corner) => {
        if (!this.isReflex(moving)) return;
        loop.forEach((_, edgeCorner) => {
          const time = this.splitIn(loop, corner, edgeCorner);
          if (time !== null) offer({ kind: 'split', in: time, loop, corner, edgeCorner });
        });
      });
    }
    return next as Event | null;
  }

  /** When the edge that follows a corner has shrunk to nothing. */
  private collapseIn(loop: Corner[], i: number): number | null {
    const a = loop[i]!;
    const b = loop[(i + 1) % loop.length]!;
    const { along } = this.lines[a.edge]!;
    const length = (b.at[0] - a.at[0]) * along[0] + (b.at[1] - a.at[1]) * along[1];
    if (length < NEAR) return 0;
    const va = this.velocity(a);
    const vb = this.velocity(b);
    if (!va || !vb) return null;
    const rate = (vb[0] - va[0]) * along[0] + (vb[1] - va[1]) * along[1];
    return rate < -1e-12 ? length / -rate : null;
  }

  /** When a reflex corner runs into the edge that follows another corner. */
  private splitIn(loop: Corner[], i: number, j: number): number | null {
    const moving = loop[i]!;
    const from = loop[j]!;
    const to = loop[(j + 1) % loop.length]!;
    if (from.edge === moving.edge || from.edge === moving.before) return null;
    const line = this.lines[from.edge]!;
    const v = this.velocity(moving);
    if (!v) return null;
    const gap = moving.at[0] * line.normal[0] + moving.at[1] * line.normal[1] - line.offset - this.time;
    const rate = 1 - (v[0] * line.normal[0] + v[1] * line.normal[1]);
    if (gap < -NEAR || rate < 1e-12) return null;
    const time = gap / rate;
    const meet: Point2 = [moving.at[0] + v[0] * time, moving.at[1] + v[1] * time];
    const along = (p: Point2) => p[0] * line.along[0] + p[1] * line.along[1];
    const at = (corner: Corner) => {
      const speed = this.velocity(corner);
      return time < NEAR || !speed
        ? along(corner.at)
        : along([corner.at[0] + speed[0] * time, corner.at[1] + speed[1] * time]);
    };
    return along(meet) > at(from) - NEAR && along(meet) < at(to) + NEAR ? time : null;
  }

  private advance(by: number): void {
    if (by === 0) return;
    this.time += by;
    for (const loop of this.loops)
      for (const corner of loop) {
        const v = this.velocity(corner);
        if (v) corner.at = [corner.at[0] + v[0] * by, corner.at[1] + v[1] * by];
      }
  }

  private collapse(loop: Corner[], i: number): void {
    const a = loop[i]!;
    const j = (i + 1) % loop.length;
    const b = loop[j]!;
    const at: Point2 = [(a.at[0] + b.at[0]) / 2, (a.at[1] + b.at[1]) / 2];
    this.arc(a, at);
    this.arc(b, at);
    loop[i] = { at, before: a.before, edge: b.edge, born: this.lifted(at) };
    loop.splice(j, 1);
  }

  private split(loop: Corner[], i: number, j: number): void {
    const moving = loop[i]!;
    const from = loop[j]!;
    this.arc(moving, moving.at);
    const born = this.lifted(moving.at);
    const n = loop.length;
    const between = (start: number, end: number) => {
      const part: Corner[] = [];
      for (let k = start; k !== end; k = (k + 1) % n) part.push(loop[k]!);
      return part;
    };
    // One loop runs from the meeting point along the edge's far part, the other along its near part.
    const far: Corner = { at: moving.at, before: moving.before, edge: from.edge, born };
    const near: Corner = { at: moving.at, before: from.edge, edge: moving.edge, born };
    const first = [far, ...between((j + 1) % n, i)];
    const second = [near, ...between((i + 1) % n, (j + 1) % n)];
    this.loops = [...this.loops.filter((other) => other !== loop), first, second];
  }
}

/** Walks the arcs that bound a face from the end of its edge back to its start. */
function faceOf(ring: Ring, edge: number, arcs: readonly Arc[]): SkeletonPoint[] | null {
  const key = ([x, y]: SkeletonPoint) => `${Math.round(x * 1e5)},${Math.round(y * 1e5)}`;
  const links = new Map<string, { point: SkeletonPoint; to: SkeletonPoint[] }>();
  const link = (from: SkeletonPoint, to: SkeletonPoint) => {
    const known = links.get(key(from)) ?? { point: from, to: [] };
    if (!known.to.some((other) => key(other) === key(to))) known.to.push(to);
    links.set(key(from), known);
  };
  for (const { from, to, edges } of arcs) {
    if (!edges.includes(edge) || key(from) === key(to)) continue;
    link(from, to);
    link(to, from);
  }
  const { p, q } = edgeOf(ring, edge);
  const start: SkeletonPoint = [p[0], p[1], 0];
  const face: SkeletonPoint[] = [start, [q[0], q[1], 0]];
  let last = key(start);
  for (let guard = 0; guard < 4 * ring.length + 8; guard++) {
    const here = face.at(-1)!;
    const next = links.get(key(here))?.to.find((point) => key(point) !== last);
    if (!next) return null;
    if (key(next) === key(start)) return face;
    last = key(here);
    face.push(next);
  }
  return null;
}
