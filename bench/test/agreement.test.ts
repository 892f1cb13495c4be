import { city, random } from '../src/city';
import { skyDirections, sunDirections } from '../src/directions';
import { traceBench } from '../src/trace-bench';

test('the kernel agrees with an independent ray tracing library on both cities, but for grazing rays', () => {
  const lines: string[] = [];
  const outcomes = traceBench(8, (line) => lines.push(line));
  expect(outcomes.map(({ city: name, directions }) => `${name} ${directions}`)).toEqual([
    'S suns',
    'S sky',
    'L suns',
    'L sky',
  ]);
  for (const { rays, differing, oursPerSecond, referencePerSecond, ratio } of outcomes) {
    expect(rays).toBeGreaterThan(3000);
    expect(differing / rays).toBeLessThan(1e-4);
    expect(ratio).toBeCloseTo(oursPerSecond / referencePerSecond, 6);
  }
  const blocked = lines.flatMap((line) => /(\d+) % blocked/.exec(line)?.[1] ?? []);
  expect(blocked).toHaveLength(4);
  for (const share of blocked) {
    expect(Number(share)).toBeGreaterThan(20);
    expect(Number(share)).toBeLessThan(95);
  }
});

test('the cities have the sizes that the figures are given for, the same every time', () => {
  const small = city('S', 200, 100);
  expect(small.positions.length / 9).toBe(5600);
  expect(city('L', 49_000, 100).positions.length / 9).toBe(200_800);
  expect(city('S', 200, 100).positions).toEqual(small.positions);
});

test('directions are of unit length, suns above the horizon, the sky in 577 patches', () => {
  const length = (v: Float64Array, i: number) => Math.hypot(v[i * 3]!, v[i * 3 + 1]!, v[i * 3 + 2]!);
  const suns = sunDirections(4000);
  const sky = skyDirections();
  expect(suns.length).toBe(12_000);
  expect(sky.length).toBe(577 * 3);
  for (const set of [suns, sky])
    for (let i = 0; i < set.length / 3; i++) {
      expect(length(set, i)).toBeCloseTo(1, 6);
      expect(set[i * 3 + 2]).toBeGreaterThan(0);
    }
});

test('the random numbers are even enough to build with', () => {
  const rand = random(1);
  const bins = new Array<number>(10).fill(0);
  for (let i = 0; i < 10_000; i++) bins[Math.floor(rand() * 10)]!++;
  // Each bin holds 1000 ± 30 (one standard deviation); five of them are not passed but by chance of one in a million.
  for (const count of bins) expect(Math.abs(count - 1000)).toBeLessThan(150);
});
