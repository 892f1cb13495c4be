import {
  areaWithHoles,
  assembleScene,
  castersOf,
  castShade,
  instantOf,
  type Point3,
  type Polygon,
  type Project,
  type Receiver,
  receiversOf,
  type Scene,
  sunPosition,
  sunVector,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { type Geom, union } from 'polyclip-ts';
import { town } from './model-bench';

const RUNS = 7;
/** Buildings of the town that are looked at: those nearest the middle. */
const NEAREST = 200;

interface Case {
  name: string;
  project: Project;
  option: string;
  on: readonly ('ground' | 'roofs')[];
  atMs: number;
  /** Whether the general-purpose library is asked too; it takes minutes on large sites. */
  compared: boolean;
}

function cases(): Case[] {
  const kelp = kelpLane();
  const large = town();
  const far = ({ footprint }: { footprint: { outer: readonly (readonly [number, number])[] } }) =>
    Math.hypot(footprint.outer[0]![0], footprint.outer[0]![1]);
  const buildings = large.neighbours.filter((neighbour) => neighbour.kind === 'building');
  const near = { ...large, neighbours: [...buildings].sort((a, b) => far(a) - far(b)).slice(0, NEAREST) };
  const at = (project: Project) => instantOf('2026-03-21', 570, project.site.place.zone);
  return [
    { name: 'Kelp Lane, ground', project: kelp, option: 'b', on: ['ground'], atMs: at(kelp), compared: true },
    {
      name: 'Kelp Lane, ground and roofs',
      project: kelp,
      option: 'b',
      on: ['ground', 'roofs'],
      atMs: at(kelp),
      compared: false,
    },
    {
      name: `${NEAREST} buildings of the town, ground`,
      project: near,
      option: 'a',
      on: ['ground'],
      atMs: at(near),
      compared: true,
    },
  ];
}

const areaOf = (polygons: readonly Polygon[]) =>
  polygons.reduce((sum, polygon) => sum + areaWithHoles(polygon), 0);

function ours(scene: Scene, receivers: readonly Receiver[], sun: Point3): number {
  const casters = castersOf(scene.pieces.slice(1), sun);
  return receivers.reduce(
    (sum, { parts }) => sum + parts.reduce((all, part) => all + areaOf(castShade(part, casters)), 0),
    0,
  );
}

/** Every blocking triangle over the ground carried onto it, all united by the library as they come, and cut to the ground. */
function naive(scene: Scene, [ground]: readonly Receiver[], sun: Point3): number {
  const { normal, offset, regions } = ground!.parts[0]!;
  const facing = normal[0] * sun[0] + normal[1] * sun[1] + normal[2] * sun[2];
  const cast: Geom[] = [];
  for (const { positions: p, opaque } of scene.pieces.slice(1))
    for (let t = 0; t < opaque; t++) {
      const corners = [0, 3, 6].map((k): Point3 => [p[t * 9 + k]!, p[t * 9 + k + 1]!, p[t * 9 + k + 2]!]);
      const above = corners.map(([x, y, z]) => x * normal[0] + y * normal[1] + z * normal[2] - offset);
      const kept: [number, number][] = [];
      corners.forEach((a, i) => {
        const k = (i + 1) % 3;
        const put = (q: Point3, height: number) =>
          kept.push([q[0] - (sun[0] * height) / facing, q[1] - (sun[1] * height) / facing]);
        if (above[i]! >= 0) put(a, above[i]!);
        if (above[i]! >= 0 !== above[k]! >= 0) {
          const s = above[i]! / (above[i]! - above[k]!);
          const b = corners[k]!;
          put([a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s, a[2] + (b[2] - a[2]) * s], 0);
        }
      });
      if (kept.length > 2) cast.push([[...kept, kept[0]!]]);
    }
  const [first, ...rest] = cast;
  const ring = (points: readonly (readonly [number, number])[]): [number, number][] =>
    [...points, points[0]!].map(([x, y]) => [x, y]);
  const united = union(first!, ...rest);
  // What is built over and what lies beyond is taken off by the same areas on both sides: by counting without it.
  const free = regions.map(({ outer, holes }) => [ring(outer), ...holes.map(ring)] as [number, number][][]);
  const all = union(united, free).reduce((sum, rings) => sum + ringsArea(rings), 0);
  const base = free.reduce((sum, rings) => sum + ringsArea(rings), 0);
  return united.reduce((sum, rings) => sum + ringsArea(rings), 0) - (all - base);
}

function ringsArea(rings: readonly (readonly (readonly [number, number])[])[]): number {
  return rings.reduce((sum, ring, i) => {
    let area = 0;
    for (let k = 0; k + 1 < ring.length; k++)
      area += ring[k]![0] * ring[k + 1]![1] - ring[k + 1]![0] * ring[k]![1];
    return sum + (i === 0 ? 1 : -1) * Math.abs(area / 2);
  }, 0);
}

/** Exact outlines of shade at one moment, on one thread, beside the same union made with a general-purpose library. */
export function shadeBench(): void {
  for (const { name, project, option, on, atMs, compared } of cases()) {
    const { place, north } = project.site;
    const sun = sunPosition(atMs, place);
    const vector = sunVector(sun.altitudeDeg, sun.azimuthDeg, north.trueNorthDeg);
    const scene = assembleScene(project, option, new Map());
    const times: number[] = [];
    let area = 0;
    for (let run = 0; run < RUNS; run++) {
      const began = performance.now();
      area = ours(
        scene,
        on.flatMap((what) => receiversOf(project, option, scene, what)),
        vector,
      );
      times.push(performance.now() - began);
    }
    const first = times[0]!;
    const median = [...times].sort((a, b) => a - b)[RUNS >> 1]!;
    console.log(
      `${name}: ${(scene.positions.length / 9).toLocaleString('en')} triangles, first ${first.toFixed(0)} ms, then ${median.toFixed(0)} ms (median), ${area.toFixed(3)} m² shaded`,
    );
    if (!compared) continue;
    const began = performance.now();
    const theirs = naive(scene, receiversOf(project, option, scene, 'ground'), vector);
    const took = performance.now() - began;
    console.log(
      `  the same with a general-purpose library: ${took.toFixed(0)} ms, ${theirs.toFixed(3)} m²; ${(took / median).toFixed(0)} times as long, areas differ by ${Math.abs(theirs - area).toExponential(1)} m²`,
    );
  }
}
