import { contains, type Point2, type Ring, segmentCrossing, segmentDistance, signedArea } from './ring';

/** A part of a subdivided area. */
export interface Part {
  outer: Point2[];
  holes: Point2[][];
}

/** How near to an edge the end of a dividing line must lie to reach it, metres. */
const REACH_M = 0.02;

/**
 * The parts into which lines divide an area with holes. Lines that end within the area divide nothing there.
 * Parts come in no particular order; their outlines run anticlockwise.
 */
export function subdivide(
  area: { outer: Ring; holes: readonly Ring[] },
  lines: readonly (readonly Point2[])[],
): Part[] {
  const borders = [area.outer, ...area.holes].flatMap((ring) =>
    ring.map((p, i): [Point2, Point2] => [p, ring[(i + 1) % ring.length]!]),
  );
  const cuts = lines.flatMap((line) => line.slice(1).map((q, i): [Point2, Point2] => [line[i]!, q]));
  const graph = new PlanarGraph();
  const segments = [...borders, ...cuts.map((cut) => reaching(cut, [...borders, ...cuts]))];
  segments.forEach(([a, b], i) => {
    const stops: Point2[] = [a, b];
    segments.forEach(([c, d], j) => {
      if (i === j) return;
      const hit = segmentCrossing(a, b, c, d);
      if (hit) stops.push(hit);
      for (const p of [c, d]) if (segmentDistance(p, a, b) < 1e-6) stops.push(p);
    });
    const length = (p: Point2) => Math.hypot(p[0] - a[0], p[1] - a[1]);
    stops.sort((p, q) => length(p) - length(q));
    for (let k = 1; k < stops.length; k++) graph.join(stops[k - 1]!, stops[k]!);
  });
  graph.prune();
  const loops = graph.faces();
  const outers = loops.filter((loop) => signedArea(loop) > 1e-6 && isWithin(area, loop));
  const islands = loops.filter((loop) => signedArea(loop) < -1e-6);
  return outers.map((outer) => ({
    outer,
    holes: islands.filter(
      (island) =>
        !island.every((p) => outer.some((q) => q[0] === p[0] && q[1] === p[1])) &&
        island.every((p) => contains(outer, p) || onEdge(outer, p)) &&
        innermost(island, outers) === outer,
    ),
  }));
}

/** The smallest of the outlines round an island. */
function innermost(island: Ring, outers: Point2[][]): Point2[] | null {
  const round = outers.filter((outer) => {
    const same = island.every((p) => outer.some((q) => q[0] === p[0] && q[1] === p[1]));
    return !same && island.every((p) => contains(outer, p) || onEdge(outer, p));
  });
  return round.length ? round.reduce((a, b) => (signedArea(a) < signedArea(b) ? a : b)) : null;
}

function onEdge(ring: Ring, p: Point2): boolean {
  return ring.some((a, i) => segmentDistance(p, a, ring[(i + 1) % ring.length]!) < 1e-6);
}

/** Lengthens a cut whose end stops just short of an edge. */
function reaching([a, b]: [Point2, Point2], others: [Point2, Point2][]): [Point2, Point2] {
  const pull = (p: Point2, q: Point2): Point2 => {
    const length = Math.hypot(p[0] - q[0], p[1] - q[1]);
    const far: Point2 = [
      p[0] + ((p[0] - q[0]) / length) * REACH_M,
      p[1] + ((p[1] - q[1]) / length) * REACH_M,
    ];
    for (const [c, d] of others) {
      if ((c === a && d === b) || segmentDistance(p, c, d) < 1e-6) continue;
      const hit = segmentCrossing(p, far, c, d);
      if (hit) return hit;
    }
    return p;
  };
  return [pull(a, b), pull(b, a)];
}

/** A point just inside a loop that runs anticlockwise, beside its longest edge. */
function isWithin(area: { outer: Ring; holes: readonly Ring[] }, loop: Ring): boolean {
  let best = 0;
  let longest = -1;
  loop.forEach((p, i) => {
    const q = loop[(i + 1) % loop.length]!;
    const length = Math.hypot(q[0] - p[0], q[1] - p[1]);
    if (length > longest) [longest, best] = [length, i];
  });
  const p = loop[best]!;
  const q = loop[(best + 1) % loop.length]!;
  const step = 1e-4 / longest;
  const probe: Point2 = [(p[0] + q[0]) / 2 - (q[1] - p[1]) * step, (p[1] + q[1]) / 2 + (q[0] - p[0]) * step];
  return contains(area.outer, probe) && !area.holes.some((hole) => contains(hole, probe));
}

class PlanarGraph {
  private readonly points = new Map<string, Point2>();
  private readonly links = new Map<string, Set<string>>();

  private node(p: Point2): string {
    const key = `${Math.round(p[0] * 1e5)},${Math.round(p[1] * 1e5)}`;
    if (!this.points.has(key)) {
      this.points.set(key, p);
      this.links.set(key, new Set());
    }
    return key;
  }

  join(p: Point2, q: Point2): void {
    const a = this.node(p);
    const b = this.node(q);
    if (a === b) return;
    this.links.get(a)!.add(b);
    this.links.get(b)!.add(a);
  }

  /** Takes away everything that leads nowhere. */
  prune(): void {
    const loose = [...this.links.keys()].filter((key) => this.links.get(key)!.size === 1);
    while (loose.length) {
      const key = loose.pop()!;
      for (const other of this.links.get(key)!) {
        const back = this.links.get(other)!;
        back.delete(key);
        if (back.size === 1) loose.push(other);
      }
      this.links.get(key)!.clear();
    }
  }

  /** Every face as a loop: bounded ones anticlockwise, the outer sides of connected parts clockwise. */
  faces(): Point2[][] {
    const around = new Map<string, string[]>();
    for (const [key, others] of this.links) {
      const [x, y] = this.points.get(key)!;
      const angle = (other: string) => {
        const [ox, oy] = this.points.get(other)!;
        return Math.atan2(oy - y, ox - x);
      };
      around.set(
        key,
        [...others].sort((a, b) => angle(a) - angle(b)),
      );
    }
    const used = new Set<string>();
    const loops: Point2[][] = [];
    for (const [start, others] of around)
      for (const first of others) {
        if (used.has(`${start}>${first}`)) continue;
        const loop: Point2[] = [];
        let [from, to] = [start, first];
        while (!used.has(`${from}>${to}`)) {
          used.add(`${from}>${to}`);
          loop.push(this.points.get(from)!);
          const ways = around.get(to)!;
          const next = ways[(ways.indexOf(from) + ways.length - 1) % ways.length]!;
          [from, to] = [to, next];
        }
        loops.push(loop);
      }
    return loops;
  }
}
