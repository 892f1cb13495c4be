/** A seeded random number generator (mulberry32), 0 ≤ r < 1. */
export function random(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type V3 = [number, number, number];

/** A generated city: triangles (single-precision values, so that every tracer meets the same), and where to measure. */
export interface City {
  name: string;
  positions: Float64Array;
  sensors: Float64Array;
  normals: Float64Array;
}

class Soup {
  readonly list: number[] = [];

  quad(a: V3, b: V3, c: V3, d: V3): void {
    this.list.push(...a, ...b, ...c, ...a, ...c, ...d);
  }

  box([x0, y0, z0]: V3, [x1, y1, z1]: V3): void {
    this.quad([x0, y0, z0], [x1, y0, z0], [x1, y0, z1], [x0, y0, z1]);
    this.quad([x1, y1, z0], [x0, y1, z0], [x0, y1, z1], [x1, y1, z1]);
    this.quad([x0, y1, z0], [x0, y0, z0], [x0, y0, z1], [x0, y1, z1]);
    this.quad([x1, y0, z0], [x1, y1, z0], [x1, y1, z1], [x1, y0, z1]);
    this.quad([x0, y0, z1], [x1, y0, z1], [x1, y1, z1], [x0, y1, z1]);
    this.quad([x0, y1, z0], [x1, y1, z0], [x1, y0, z0], [x0, y0, z0]);
  }
}

/**
 * 20 × 20 blocks round a plaza, with thin slats before their facades: few in the small city (about 5 thousand triangles),
 * many in the large (about 200 thousand).
 */
export function city(name: string, slats: number, sensorCount: number, seed = 7): City {
  const rand = random(seed);
  const soup = new Soup();
  const blocks: { low: V3; high: V3 }[] = [];
  for (let i = 0; i < 20; i++) {
    for (let j = 0; j < 20; j++) {
      const plaza = i > 8 && i < 11 && j > 8 && j < 11;
      const x = (i - 10) * 28 + 4 * rand();
      const y = (j - 10) * 28 + 4 * rand();
      const height = plaza ? 2 + 2 * rand() : 14 + 40 * rand() ** 2;
      const size = plaza ? 3 : 15 + 6 * rand();
      const block = { low: [x, y, 0] as V3, high: [x + size, y + size * (0.7 + 0.3 * rand()), height] as V3 };
      blocks.push(block);
      soup.box(block.low, block.high);
    }
  }
  for (let s = 0; s < slats; s++) {
    const { low, high } = blocks[Math.floor(rand() * blocks.length)]!;
    const z = 0.5 + rand() * Math.max(0.5, high[2] - 1);
    const depth = 0.2 + 0.4 * rand();
    const length = 1 + 2 * rand();
    if (rand() < 0.5) {
      const x = low[0] + rand() * Math.max(0.5, high[0] - low[0] - length);
      const y = rand() < 0.5 ? low[1] - depth - 0.02 : high[1] + 0.02;
      slat(soup, [x, y, z], [x + length, y + depth, z]);
    } else {
      const y = low[1] + rand() * Math.max(0.5, high[1] - low[1] - length);
      const x = rand() < 0.5 ? low[0] - depth - 0.02 : high[0] + 0.02;
      slat(soup, [x, y, z], [x + depth, y + length, z]);
    }
  }
  const sensors = new Float64Array(sensorCount * 3);
  const normals = new Float64Array(sensorCount * 3);
  const half = sensorCount >> 1;
  const side = Math.ceil(Math.sqrt(half));
  for (let s = 0; s < half; s++) {
    sensors.set([-28 + (56 * (s % side)) / side, -28 + (56 * Math.floor(s / side)) / side, 0.1], s * 3);
    normals.set([0, 0, 1], s * 3);
  }
  for (let s = half; s < sensorCount; s++) {
    const { low, high } = blocks[((s - half) >> 3) % blocks.length]!;
    const along = (((s - half) & 7) + 0.5) / 8;
    sensors.set([low[0] + along * (high[0] - low[0]), low[1] - 0.01, 0.3 * high[2] + 0.5], s * 3);
    normals.set([0, -1, 0], s * 3);
  }
  return {
    name,
    positions: Float64Array.from(Float32Array.from(soup.list)),
    sensors: singles(sensors),
    normals,
  };
}

function slat(soup: Soup, a: V3, b: V3): void {
  soup.quad([a[0], a[1], a[2]], [b[0], a[1], a[2]], [b[0], b[1], a[2]], [a[0], b[1], a[2]]);
  soup.quad([a[0], a[1], a[2]], [b[0], a[1], a[2]], [b[0], a[1], a[2] - 0.05], [a[0], a[1], a[2] - 0.05]);
}

function singles(values: Float64Array): Float64Array {
  return Float64Array.from(Float32Array.from(values));
}
