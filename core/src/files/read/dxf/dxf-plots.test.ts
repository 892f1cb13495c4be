import fc from 'fast-check';
import { area, box, drawing, insert, METRES, type Pairs, polyline, read } from '../../../../testing/drawings';
import type { Point3 } from '../../../geometry';
import { modelRows } from '../../model-rows';
import { splineThrough } from './dxf-curves';
import { readDxf } from './read-dxf';

const shown = (model: ReturnType<typeof read>) =>
  model.footprints.map(({ outer, holes, isRound }) => [area(outer), holes.map(area), isRound ?? false]);

describe('a line round others', () => {
  // A plot of 40 × 60 m with two houses and a shed; and one of 20 × 30 m with a house 3 m from its edge.
  const plot = [box(0, 0, 40, 60), box(5, 10, 10, 12), box(22, 30, 10, 12), box(30, 50, 3, 4)];
  const small = [box(0, 0, 20, 30), box(3, 8, 10, 12)];

  test('is that of a plot where what lies within are houses: they stand for themselves, it is no building by default', () => {
    const model = read(plot.map((ring) => polyline('0', ring)));
    expect(shown(model)).toEqual([
      [2400, [], true],
      [120, [], false],
      [120, [], false],
      [12, [], false],
    ]);
    expect(modelRows(model).map(({ key, likely }) => [key, likely])).toEqual([
      ['outline:0, round others', 'boundary'],
      ['outline:0', 'neighbour'],
    ]);
    expect(model.notes.join(' ')).toContain('1 line goes round others as lines of plots do');
    expect(shown(read(small.map((ring) => polyline('0', ring))))[0]).toEqual([600, [], true]);
    // Two houses well away from the line: a building would have wings of 20 m.
    const wide = [box(0, 0, 60, 40), box(10, 10, 12, 10), box(35, 15, 12, 10)];
    expect(shown(read(wide.map((ring) => polyline('0', ring))))[0]).toEqual([2400, [], true]);
    const two = [...small, ...small.map((ring) => ring.map(([x, y]): [number, number] => [x + 30, y]))];
    expect(modelRows(read(two.map((ring) => polyline('0', ring)))).map(({ likely }) => likely)).toEqual([
      'leave',
      'neighbour',
    ]);
  });

  test('is a building where what lies within are its courts: by the depth of its wings, by its height, by its fill, or as asked', () => {
    // A block of 60 × 40 m with a court, an office of 30 × 40 with two shafts of light, a house with a small one.
    for (const [outer, ...courts] of [
      [box(0, 0, 60, 40), box(12, 12, 36, 16)],
      [box(0, 0, 30, 40), box(10, 6, 8, 8), box(10, 26, 8, 8)],
      [box(0, 0, 14, 14), box(2, 2, 3, 3)],
    ])
      expect(shown(read([outer!, ...courts].map((ring) => polyline('0', ring))))).toEqual([
        [area(outer!), courts.map(area), false],
      ]);
    const thick = read(small.map((ring) => polyline('0', ring, [39, 9])));
    expect(shown(thick)).toEqual([[600, [120], false]]);
    const asked = readDxf(drawing({ header: [METRES], entities: plot.map((ring) => polyline('0', ring)) }), {
      isCourts: true,
    });
    expect(shown(asked)).toEqual([[2400, [120, 120, 12], false]]);
    const hatch = (rings: readonly (readonly (readonly [number, number])[])[]): Pairs => [
      ...[0, 'HATCH', 8, '0', 91, rings.length],
      ...rings.flatMap((ring) => [
        92,
        3,
        72,
        0,
        73,
        1,
        93,
        ring.length,
        ...ring.flatMap(([x, y]) => [10, x, 20, y]),
      ]),
    ];
    expect(shown(read([hatch(small)]))).toEqual([[600, [120], false]]);
  });

  test('is that of a plot by the name of its layer; in millimetres as in metres', () => {
    const wide = [box(0, 0, 60, 40), box(12, 12, 36, 16)];
    expect(shown(read(wide.map((ring) => polyline('Parcel lines', ring))))[0]).toEqual([2400, [], true]);
    const inMm = plot.map((ring) =>
      polyline(
        '0',
        ring.map(([x, y]): [number, number] => [x * 1000, y * 1000]),
      ),
    );
    const model = readDxf(drawing({ header: [[9, '$INSUNITS', 70, 4]], entities: inMm }));
    expect(model.footprints.map(({ isRound }) => isRound ?? false)).toEqual([true, false, false, false]);
  });
});

describe('drawings that refer to others', () => {
  const reference = (name: string, path: string, flags = 4): Pairs[] => [
    [0, 'BLOCK', 2, name, 70, flags, 10, 0, 20, 0, 30, 0, 1, path],
    [0, 'ENDBLK'],
  ];
  const blocks = [
    ...reference('SITE', 'C:\\plans\\site plan.dwg'),
    ...reference('TREES', '../green/trees.dwg', 8),
    ...reference('NOPATH', ''),
    ...reference('UNUSED', 'unused.dwg'),
  ];
  const places = ['SITE', 'TREES', 'NOPATH', 'SITE'].map((name) => insert(name, [10, 0, 20, 0]));

  test('are read, and what they refer to is named one by one, each once', () => {
    const { notes, footprints } = read([polyline('0', box(0, 0, 10, 10)), ...places], { blocks });
    expect(footprints).toHaveLength(1);
    expect(notes.filter((note) => note.includes('only referred to'))).toEqual(
      ['site plan.dwg', 'trees.dwg', 'NOPATH'].map(
        (name) =>
          `The drawing “${name}” is only referred to and is missing: bind it before exporting, or bring it in by itself.`,
      ),
    );
    expect(notes.join(' ')).not.toContain('unused.dwg');
    // What is bound, or held in the file all the same, is read.
    const held = [
      [0, 'BLOCK', 2, 'SITE', 70, 4, 10, 0, 20, 0, 1, 'a.dwg'],
      polyline('0', box(0, 0, 9, 9)),
      [0, 'ENDBLK'],
    ];
    expect(read([insert('SITE', [10, 0, 20, 0])], { blocks: held }).footprints).toHaveLength(1);
  });

  test('and hold nothing else say so', () => {
    expect(() => read(places, { blocks })).toThrow(
      'The file holds nothing but references to other drawings: “site plan.dwg”, “trees.dwg”, “NOPATH”.',
    );
  });
});

describe('splines through points', () => {
  const through = (points: readonly Point3[], more: Pairs = [], flags = 0): Pairs => [
    ...[0, 'SPLINE', 8, '0', 70, flags, 71, 3, 74, points.length, ...more],
    ...points.flatMap(([x, y, z]) => [11, x, 21, y, 31, z]),
  ];
  const circle = Array.from({ length: 12 }, (_, i): Point3 => {
    const a = (i * Math.PI) / 6;
    return [10 * Math.cos(a), 10 * Math.sin(a), 0];
  });

  test('closed ones are round: on a circle as near to it as a spline of twelve points comes', () => {
    const [outline] = read([through(circle, [], 1)]).footprints;
    expect(outline!.outer).toHaveLength(12 * 16);
    for (const [x, y] of outline!.outer) expect(Math.abs(Math.hypot(x, y) - 10)).toBeLessThan(0.01);
    // The places that it goes through alone enclose 4.5 % less.
    expect(area(outline!.outer)).toBeCloseTo(Math.PI * 100, 0);
  });

  test('they go through their points, and take the directions at their ends; a straight line stays straight', () => {
    const number = fc.double({ min: -100, max: 100, noNaN: true });
    const point = fc.tuple(number, number, number).map((p): Point3 => p);
    fc.assert(
      fc.property(fc.array(point, { minLength: 3, maxLength: 12 }), (points) => {
        const curve = splineThrough(points, false);
        for (const [x, y, z] of points)
          expect(Math.min(...curve.map((q) => Math.hypot(q[0] - x, q[1] - y, q[2] - z)))).toBeLessThan(1e-6);
      }),
      { numRuns: 50 },
    );
    const bow = splineThrough(
      [
        [0, 0, 0],
        [5, 5, 0],
        [10, 0, 0],
      ],
      false,
      [
        [0, 2, 0],
        [0, -1, 0],
      ],
    );
    const [a, b] = [bow[0]!, bow[1]!];
    expect(Math.abs((b[0] - a[0]) / (b[1] - a[1]))).toBeLessThan(0.1);
    const [y, z] = [bow.at(-2)!, bow.at(-1)!];
    expect((z[1] - y[1]) / Math.abs(z[0] - y[0])).toBeLessThan(-10);
    const straight = splineThrough(
      [
        [0, 0, 0],
        [1, 2, 0],
        [4, 8, 0],
        [5, 10, 0],
      ],
      false,
    );
    for (const [px, py] of straight) expect(py).toBeCloseTo(2 * px, 9);
    const cubic = [0, 1, 2, 3].map((x): Point3 => [x, 0, x]);
    expect(splineThrough(cubic, false).every(([px, , pz]) => Math.abs(px - pz) < 1e-12)).toBe(true);
    expect(splineThrough([cubic[0]!, cubic[0]!, cubic[1]!], false)).toHaveLength(2);
  });
});

test('a drawing without a unit that says it is drawn in feet and inches is in inches; not one that says it is metric', () => {
  const house = polyline('0', box(0, 0, 480, 360));
  const of = (header: Pairs[]) => readDxf(drawing({ header, entities: [house] }));
  const inches = of([[9, '$LUNITS', 70, 4]]);
  expect(inches.unit).toBe('in');
  expect(inches.notes.join(' ')).toContain('drawn in feet and inches, so it is taken as inches');
  expect(
    of([
      [9, '$LUNITS', 70, 3],
      [9, '$MEASUREMENT', 70, 1],
    ]).unit,
  ).toBeNull();
  expect(of([[9, '$LUNITS', 70, 2]]).unit).toBeNull();
  // In inches it could be no building.
  expect(
    readDxf(drawing({ header: [[9, '$LUNITS', 70, 4]], entities: [polyline('0', box(0, 0, 12, 9))] })).unit,
  ).toBeNull();
});
