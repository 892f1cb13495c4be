import { DirectionSet, isOpen, MaskKernel, maskWords, TriangleTree } from '@dial-shade/core';
import { type Box3, BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { city, type City } from './city';
import { skyDirections, sunDirections } from './directions';

interface Outcome {
  city: string;
  directions: string;
  rays: number;
  blockedShare: number;
  ours: number;
  theirs: number;
  disagree: number;
}

const million = 1e6;

/** Traces the same rays with our kernel and with three-mesh-bvh's any-hit, one thread, and prints both speeds. */
export function traceBench(sensorCount = 4000): Outcome[] {
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
    console.log(
      `City ${place.name}: ${place.positions.length / 9} triangles; tree built in ${(t1 - t0).toFixed(0)} ms, three-mesh-bvh ${(t2 - t1).toFixed(0)} ms`,
    );
    for (const { name, vectors } of sets) outcomes.push(compare(place, tree, bvh, name, vectors));
  }
  return outcomes;
}

function compare(
  place: City,
  tree: TriangleTree,
  bvh: MeshBVH,
  name: string,
  vectors: Float64Array,
): Outcome {
  const set = new DirectionSet(vectors);
  const words = maskWords(set.count);
  const count = place.sensors.length / 3;
  const mask = new Uint32Array(count * words);
  const kernel = new MaskKernel(tree);
  kernel.trace(place.sensors, place.normals, 0, Math.min(count, 200), set, new Uint32Array(200 * words));
  const start = performance.now();
  kernel.trace(place.sensors, place.normals, 0, count, set, mask);
  const ours = (performance.now() - start) / 1000;

  const anyHit = fasterAnyHit(place, bvh, vectors, set.count);
  const ray = new Ray(new Vector3(), new Vector3());
  let rays = 0;
  let disagree = 0;
  let blocked = 0;
  const from = performance.now();
  for (let s = 0; s < count; s++) {
    for (let d = 0; d < set.count; d++) {
      if (!aim(ray, place, vectors, s, d)) continue;
      rays++;
      const hit = anyHit(ray);
      if (hit) blocked++;
      if (hit === isOpen(mask, words, s, d)) disagree++;
    }
  }
  const theirs = (performance.now() - from) / 1000;
  const outcome = {
    city: place.name,
    directions: name,
    rays,
    blockedShare: blocked / rays,
    ours: rays / ours / million,
    theirs: rays / theirs / million,
    disagree,
  };
  console.log(
    `  ${name}: ${(rays / million).toFixed(2)} M rays, ${(100 * outcome.blockedShare).toFixed(0)} % blocked; ` +
      `ours ${outcome.ours.toFixed(2)} M/s, three-mesh-bvh ${outcome.theirs.toFixed(2)} M/s: ` +
      `${(outcome.ours / outcome.theirs).toFixed(1)} times; ${disagree} bits differ (${((disagree / rays) * 1e4).toFixed(2)} in 10,000)`,
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
function fasterAnyHit(place: City, bvh: MeshBVH, vectors: Float64Array, directions: number): AnyHit {
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
  console.log(`    (three-mesh-bvh asked by ${best!.name}, its faster way here)`);
  return best!.hit;
}
