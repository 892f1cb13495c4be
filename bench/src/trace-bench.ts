import { DirectionSet, isOpen, kernelFor, maskWords, TriangleTree } from '@dial-shade/core';
import { type Box3, BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { city, type City } from './city';
import { skyDirections, sunDirections } from './directions';

/** One city and one set of directions: rays a second of both, in the same run on the same rays. */
interface Outcome {
  city: string;
  directions: string;
  rays: number;
  /** Rays of which one says open and the other blocked. */
  differing: number;
  oursPerSecond: number;
  /** Of three-mesh-bvh. */
  referencePerSecond: number;
  ratio: number;
}

const million = 1e6;
/** Parts of the sensors that both take in turn, so that a busy moment of the machine meets both. */
const TURNS = 4;

/** Traces the same rays with our kernel and with three-mesh-bvh's any-hit, one thread, and tells both speeds. */
export function traceBench(sensorCount: number, say: (line: string) => void): Outcome[] {
  const cities = [city('S', 200, sensorCount), city('L', 49_000, sensorCount)];
  const sets = [
    { name: 'suns', vectors: sunDirections(4000) },
    { name: 'sky', vectors: skyDirections() },
  ];
  const outcomes: Outcome[] = [];
  for (const place of cities) {
    const t0 = performance.now();
    const tree = TriangleTree.build(place.positions);
    const t1 = performance.now();
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(Float32Array.from(place.positions), 3));
    const bvh = new MeshBVH(geometry);
    const t2 = performance.now();
    say(
      `City ${place.name}: ${place.positions.length / 9} triangles; tree built in ${(t1 - t0).toFixed(0)} ms, three-mesh-bvh ${(t2 - t1).toFixed(0)} ms`,
    );
    for (const { name, vectors } of sets) outcomes.push(compare(place, tree, bvh, name, vectors, say));
  }
  return outcomes;
}

function compare(
  place: City,
  tree: TriangleTree,
  bvh: MeshBVH,
  name: string,
  vectors: Float64Array,
  say: (line: string) => void,
): Outcome {
  const set = new DirectionSet(vectors);
  const words = maskWords(set.count);
  const count = place.sensors.length / 3;
  const mask = new Uint32Array(count * words);
  const kernel = kernelFor(tree);
  const warm = Math.min(count, 400);
  kernel.trace(place.sensors, place.normals, 0, warm, set, new Uint32Array(warm * words));
  const anyHit = fasterAnyHit(place, bvh, vectors, set.count, say);
  const ray = new Ray(new Vector3(), new Vector3());
  let [rays, differing, blocked, ours, theirs] = [0, 0, 0, 0, 0];
  for (let turn = 0; turn < TURNS; turn++) {
    const [from, to] = [turn, turn + 1].map((n) => Math.round((n * count) / TURNS)) as [number, number];
    const start = performance.now();
    const part = mask.subarray(from * words, to * words);
    kernel.trace(place.sensors, place.normals, from, to, set, part);
    const middle = performance.now();
    for (let s = from; s < to; s++) {
      for (let d = 0; d < set.count; d++) {
        if (!aim(ray, place, vectors, s, d)) continue;
        rays++;
        const hit = anyHit(ray);
        if (hit) blocked++;
        if (hit === isOpen(mask, words, s, d)) differing++;
      }
    }
    ours += (middle - start) / 1000;
    theirs += (performance.now() - middle) / 1000;
  }
  const outcome = {
    city: place.name,
    directions: name,
    rays,
    differing,
    oursPerSecond: rays / ours,
    referencePerSecond: rays / theirs,
    ratio: theirs / ours,
  };
  say(
    `  ${name}: ${(rays / million).toFixed(2)} M rays, ${((100 * blocked) / rays).toFixed(0)} % blocked; ` +
      `ours ${(outcome.oursPerSecond / million).toFixed(1)} M/s, three-mesh-bvh ${(outcome.referencePerSecond / million).toFixed(3)} M/s: ` +
      `${outcome.ratio.toFixed(0)} times; ${differing} bits differ (${((differing / rays) * 1e4).toFixed(3)} in 10,000)`,
  );
  return outcome;
}

type AnyHit = (ray: Ray) => boolean;

/** Points a ray from a sensor along a direction; false when that lies behind the sensor's surface. */
function aim(ray: Ray, { sensors, normals }: City, vectors: Float64Array, s: number, d: number): boolean {
  ray.origin.fromArray(sensors, s * 3);
  ray.direction.fromArray(vectors, d * 3);
  const { x, y, z } = ray.direction;
  return x * normals[s * 3]! + y * normals[s * 3 + 1]! + z * normals[s * 3 + 2]! > 0;
}

/** The library asked in both ways that it offers, nearest hit and a cast that ends at the first triangle met; the faster. */
function fasterAnyHit(
  place: City,
  bvh: MeshBVH,
  vectors: Float64Array,
  directions: number,
  say: (line: string) => void,
): AnyHit {
  const point = new Vector3();
  let current: Ray;
  const cast = {
    intersectsBounds: (box: Box3) => current.intersectsBox(box),
    intersectsTriangle: (t: { a: Vector3; b: Vector3; c: Vector3 }) =>
      current.intersectTriangle(t.a, t.b, t.c, false, point) !== null,
  };
  const ways: { name: string; hit: AnyHit }[] = [
    { name: 'nearest hit', hit: (ray) => bvh.raycastFirst(ray, DoubleSide) !== null },
    {
      name: 'cast to the first triangle met',
      hit: (ray) => {
        current = ray;
        return bvh.shapecast(cast);
      },
    },
  ];
  const ray = new Ray(new Vector3(), new Vector3());
  const timed = ways.map((way) => {
    const start = performance.now();
    const sensors = place.sensors.length / 3;
    for (let s = 0; s < sensors; s += Math.ceil(sensors / 20))
      for (let d = 0; d < directions; d++) if (aim(ray, place, vectors, s, d)) way.hit(ray);
    return { ...way, ms: performance.now() - start };
  });
  const [best] = timed.sort((a, b) => a.ms - b.ms);
  say(`    (three-mesh-bvh asked by ${best!.name}, its faster way here)`);
  return best!.hit;
}
