import fc from 'fast-check';
import { contains, type Point2, signedArea } from '../geometry';
import type { DrawnTarget } from '../project';
import { cellCount, cellShape, FREE, freeSensors, layGrid } from './sensor-grid';

const LEVEL = { kind: 'level', levelM: 2 } as const;

const star = fc
  .array(fc.double({ min: 2, max: 12, noNaN: true }), { minLength: 4, maxLength: 10 })
  .map((radii) =>
    radii.map((r, i): [number, number] => {
      const angle = (i / radii.length) * 2 * Math.PI;
      return [30 + r * Math.cos(angle), -10 + r * Math.sin(angle)];
    }),
  );

const target = (outline: [number, number][], spacingM: number): DrawnTarget => ({
  id: 't',
  name: 'T',
  kind: 'ground',
  outline,
  spacingM,
  offsetM: 0.25,
});

test('on any outline the cells share out its area, each cell once, every sensor off the ground by the offset', () => {
  fc.assert(
    fc.property(star, fc.double({ min: 0.6, max: 5, noNaN: true }), (outline, spacing) => {
      const grid = layGrid([target(outline, spacing)], LEVEL, []);
      const area = Math.abs(signedArea(outline));
      expect(Math.abs(grid.areas.reduce((a, b) => a + b, 0) - area)).toBeLessThan(
        1e-4 * area + grid.count * 1e-6 * spacing * spacing,
      );
      const cells = new Set(
        Array.from({ length: grid.count }, (_, i) => `${grid.cells[i * 2]},${grid.cells[i * 2 + 1]}`),
      );
      expect(cells.size).toBe(grid.count);
      expect(new Set(grid.positions.filter((_, i) => i % 3 === 2))).toEqual(new Set([2.25]));
    }),
    { numRuns: 60 },
  );
});

test('the rough count of cells is near what is laid', () => {
  fc.assert(
    fc.property(star, (outline) => {
      const t = target(outline, 0.5);
      const { count } = layGrid([t], LEVEL, []);
      expect(cellCount(t)).toBeLessThanOrEqual(count + 1);
      expect(count).toBeLessThan(cellCount(t) * 1.8 + 60);
    }),
    { numRuns: 30 },
  );
});

test('a sensor whose cell lies wholly within stands in its middle, and its outline is the square', () => {
  const t = target(
    [
      [0, 0],
      [10, 0],
      [10, 6],
      [0, 6],
    ],
    2,
  );
  const grid = layGrid([t], LEVEL, []);
  expect(grid.count).toBe(15);
  for (let i = 0; i < grid.count; i++) {
    const [column, row] = [grid.cells[i * 2]!, grid.cells[i * 2 + 1]!];
    expect([grid.positions[i * 3], grid.positions[i * 3 + 1]]).toEqual([column * 2 + 1, row * 2 + 1]);
    expect(Math.abs(signedArea(cellShape(t, column, row)[0]!.outer))).toBeCloseTo(4, 12);
  }
});

test('the first sensors are a coarse picture of the whole, the next a finer one', () => {
  const grid = layGrid(
    [
      target(
        [
          [0, 0],
          [40, 0],
          [40, 40],
          [0, 40],
        ],
        1,
      ),
    ],
    LEVEL,
    [],
  );
  expect(grid.coarse).toBe(100);
  expect(grid.medium).toBe(400);
  const spread = (end: number) => {
    const corners: Point2[] = [
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
    ];
    return corners.map(([x, y]) =>
      Math.min(
        ...Array.from({ length: end }, (_, i) =>
          Math.hypot(grid.positions[i * 3]! - x, grid.positions[i * 3 + 1]! - y),
        ),
      ),
    );
  };
  for (const distance of spread(grid.coarse)) expect(distance).toBeLessThan(4);
  for (const distance of spread(grid.medium)) expect(distance).toBeLessThan(2.2);
});

test('several targets are laid one after another, with the area that buildings take from each', () => {
  const here = target(
    [
      [0, 0],
      [4, 0],
      [4, 4],
      [0, 4],
    ],
    1,
  );
  const there = {
    ...target(
      [
        [10, 0],
        [14, 0],
        [14, 4],
        [10, 4],
      ],
      2,
    ),
    id: 'u',
  };
  const block = {
    footprint: {
      outer: [
        [0, 0],
        [2, 0],
        [2, 4],
        [0, 4],
      ] as [number, number][],
      holes: [],
    },
    base: { on: 'ground' as const, offsetM: 0 },
    storeys: [{ heightM: 3 }],
    roof: { kind: 'flat' as const, parapetM: 0 },
    id: 'm',
    name: 'M',
    openings: [],
    partitions: [],
    rooms: [],
    furniture: [],
  };
  const grid = layGrid([here, there], LEVEL, [block]);
  expect(grid.builtOverM2).toEqual([8, 0]);
  const freeOf = (target: number) =>
    Array.from(grid.target).filter((t, i) => t === target && grid.covered[i] === FREE);
  expect(freeOf(0)).toHaveLength(8);
  expect(freeOf(1)).toHaveLength(4);
  for (let i = 0; i < grid.count; i++)
    expect(contains(block.footprint.outer, [grid.positions[i * 3]!, grid.positions[i * 3 + 1]!])).toBe(
      grid.covered[i] !== FREE,
    );
  // The sensors are those of the bare ground: what stands on it flags them only.
  const bare = layGrid([here, there], LEVEL, []);
  expect(grid.positions).toEqual(bare.positions);
  expect(freeSensors(bare)).toBe(bare.count);
});

test('a court of a building is open ground', () => {
  const yard = target(
    [
      [0, 0],
      [6, 0],
      [6, 6],
      [0, 6],
    ],
    1,
  );
  const ring = {
    footprint: {
      outer: [
        [0, 0],
        [6, 0],
        [6, 6],
        [0, 6],
      ] as [number, number][],
      holes: [
        [
          [2, 2],
          [4, 2],
          [4, 4],
          [2, 4],
        ],
      ] as [number, number][][],
    },
    base: { on: 'ground' as const, offsetM: 0 },
    storeys: [{ heightM: 3 }],
    roof: { kind: 'flat' as const, parapetM: 0 },
    id: 'm',
    name: 'M',
    openings: [],
    partitions: [],
    rooms: [],
    furniture: [],
  };
  expect(freeSensors(layGrid([yard], LEVEL, [ring]))).toBe(4);
});

test('a sliver across a large site costs the cells that it touches, not those of its box', () => {
  // 500 m along a diagonal and 1 cm wide: its box has 25 million cells of 0.1 m.
  const w = 0.01 / Math.SQRT2;
  const sliver = target(
    [
      [0, 0],
      [500, 500],
      [500 - w, 500 + w],
      [-w, w],
    ],
    0.1,
  );
  const grid = layGrid([sliver], LEVEL, []);
  const area = grid.areas.reduce((a, b) => a + b, 0);
  expect(area).toBeCloseTo(500 * Math.SQRT2 * 0.01, 4);
  expect(grid.count).toBeLessThan(20_000);
});

test('a comb of thin teeth that touches more cells than can be laid is refused by its name', () => {
  const teeth: [number, number][] = [[0, 0]];
  // Each tooth goes through the middles of its cells.
  for (let i = 0.048; i < 400; i++) teeth.push([i, 0.01], [i, 500], [i + 0.004, 500], [i + 0.004, 0.01]);
  teeth.push([400, 0.01], [400, 0]);
  const comb = target(teeth, 0.1);
  expect(cellCount(comb)).toBeLessThan(100_000);
  expect(() => layGrid([comb], LEVEL, [])).toThrow(/The grid of “T” touches over 400,000 cells/);
});
