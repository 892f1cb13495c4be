import { NEAREST, skyNeighbours, skySpiral } from './sky-spiral';

test('the spiral fills the vault, each direction with the same light of the overcast sky', () => {
  for (const count of [512, 4096]) {
    const { vectors: v, solidAngle, luminance } = skySpiral(count);
    let [level, east, wall] = [0, 0, 0];
    for (let d = 0; d < count; d++) {
      const [x, y, z] = [v[d * 3]!, v[d * 3 + 1]!, v[d * 3 + 2]!];
      expect(Math.hypot(x, y, z)).toBeCloseTo(1, 12);
      expect(z).toBeGreaterThan(0);
      expect(luminance[d]).toBeCloseTo((1 + 2 * z) / 3, 12);
      expect(solidAngle[d]! * luminance[d]!).toBeCloseTo((4 * Math.PI) / 3 / count, 12);
      level += luminance[d]! * solidAngle[d]! * z;
      east += luminance[d]! * solidAngle[d]! * x;
      wall += luminance[d]! * solidAngle[d]! * Math.max(0, y);
    }
    expect(solidAngle.reduce((sum, one) => sum + one, 0) / (2 * Math.PI)).toBeCloseTo(1, 3);
    expect(level / ((7 * Math.PI) / 9)).toBeCloseTo(1, 4);
    expect(Math.abs(east)).toBeLessThan(0.01);
    expect(wall / level).toBeCloseTo(0.396, 2);
    expect(skySpiral(count)).toBe(skySpiral(count));
  }
});

test('the neighbours of a direction are the three nearest by brute force, weighed by the inverse square of how far', () => {
  for (const [some, many] of [
    [512, 300],
    [300, 512],
    [2048, 256],
  ] as const) {
    const [from, at] = [skySpiral(some), skySpiral(many)];
    const { of, weight } = skyNeighbours(from, at);
    expect(of).toHaveLength(many * NEAREST);
    for (let d = 0; d < many; d++) {
      const off = Array.from({ length: some }, (_, i) =>
        [0, 1, 2].reduce((sum, k) => sum + (from.vectors[i * 3 + k]! - at.vectors[d * 3 + k]!) ** 2, 0),
      );
      const nearest = off.map((_, i) => i).sort((a, b) => off[a]! - off[b]!);
      const expected = nearest.slice(0, NEAREST);
      const own = [...of.subarray(d * NEAREST, (d + 1) * NEAREST)];
      expect(own.map((i) => off[i])).toEqual(expected.map((i) => off[i]));
      const all = own.reduce((sum, i) => sum + 1 / Math.max(off[i]!, 1e-12), 0);
      own.forEach((i, k) =>
        expect(weight[d * NEAREST + k]).toBeCloseTo(1 / Math.max(off[i]!, 1e-12) / all, 9),
      );
    }
    expect(skyNeighbours(from, at)).toBe(skyNeighbours(from, at));
  }
});
