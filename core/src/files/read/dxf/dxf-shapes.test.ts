import { type Point2 } from '../../../geometry';
import { emptyProject } from '../../../project';
import { importModel } from '../../bring/import-model';
import { readDxf } from './read-dxf';
import {
  drawing,
  METRES,
  polyline,
  box,
  line,
  area,
  read,
  insert,
  type Pairs,
} from '../../../../testing/drawings';

test('blocks are placed: nested, scaled, turned, mirrored, in rows; layer 0 takes that of the block', () => {
  const blocks: Pairs[] = [
    [0, 'BLOCK', 2, 'House', 70, 0, 10, 1, 20, 1, 30, 0],
    polyline('0', box(1, 1, 4, 2)),
    [0, 'ENDBLK'],
    [0, 'BLOCK', 2, 'Pair', 70, 0, 10, 0, 20, 0, 30, 0],
    [0, 'INSERT', 8, '0', 2, 'house', 10, 0, 20, 0],
    [0, 'INSERT', 8, 'own', 2, 'HOUSE', 10, 10, 20, 0, 41, -1],
    [0, 'ENDBLK'],
  ];
  const model = read(
    [
      insert('Pair', [10, 100, 20, 50, 41, 2, 42, 2, 50, 90]),
      insert('House', [10, 0, 20, 0, 70, 3, 71, 2, 44, 10, 45, 20]),
      insert('Xref', [10, 0, 20, 0]),
    ],
    { blocks },
  );
  const [turned, mirrored, ...rows] = ['houses', 'own']
    .flatMap((layer) => model.footprints.filter((one) => one.layer === layer))
    .sort((a, b) => area(b.outer) - area(a.outer));
  // Twice as large: 8 × 4, turned by a quarter about (100, 50).
  expect(area(turned!.outer)).toBeCloseTo(32, 9);
  expect(area(mirrored!.outer)).toBeCloseTo(32, 9);
  const spanOf = (ring: readonly Point2[], k: 0 | 1) => [
    Math.min(...ring.map((p) => p[k])),
    Math.max(...ring.map((p) => p[k])),
  ];
  expect(
    new Set(
      [turned, mirrored].map((one) =>
        JSON.stringify(
          [spanOf(one!.outer, 0), spanOf(one!.outer, 1)].map((s) => s.map((v) => Math.round(v))),
        ),
      ),
    ),
  ).toEqual(new Set(['[[96,100],[50,58]]', '[[96,100],[62,70]]']));
  expect(rows).toHaveLength(6);
  expect(rows.map(({ outer }) => JSON.stringify(outer[0])).sort()).toEqual(
    [0, 10, 20].flatMap((x) => [0, 20].map((y) => JSON.stringify([x, y]))).sort(),
  );
  expect(model.footprints.find(({ layer }) => layer === 'own')).toBeDefined();
  expect(model.notes.join(' ')).toContain('not in the file: Xref');
});

test('what is drawn thick is as high as the block that holds it is stretched', () => {
  const model = read([insert('tower', [10, 0, 20, 0, 43, 2]), insert('tower', [10, 50, 20, 0, 43, -1])], {
    blocks: [
      [0, 'BLOCK', 8, '0', 2, 'tower', 10, 0, 20, 0],
      polyline('0', box(0, 0, 6, 4), [38, 1, 39, 9]),
      [0, 'ENDBLK'],
    ],
  });
  const towers = model.footprints.map(({ height, level }) => [height, level]);
  expect(towers).toEqual([
    [18, 2],
    [9, -10],
  ]);
});

test('a block that holds itself comes to an end', () => {
  const blocks: Pairs[] = [
    [0, 'BLOCK', 2, 'Self', 10, 0, 20, 0],
    polyline('a', box(0, 0, 5, 5)),
    [0, 'INSERT', 8, 'a', 2, 'Self', 10, 10, 20, 0],
    [0, 'ENDBLK'],
  ];
  const model = read([insert('Self', [10, 0, 20, 0])], { blocks });
  expect(model.footprints.length).toBeGreaterThan(1);
  expect(model.notes.join(' ')).toContain('nested too deeply');
});

test('lines, arcs and splines whose ends meet become one outline; others are open', () => {
  const model = read([
    line('plan', [0, 0], [10, 0]),
    line('plan', [10.002, 0], [10, 6]),
    [0, 'ARC', 8, 'plan', 10, 5, 20, 6, 40, 5, 50, 0, 51, 180],
    line('plan', [0, 0], [0, 6]),
    line('plan', [50, 50], [60, 50]),
    // A quadratic spline over three corners and the chord that closes it: two thirds of the triangle.
    [
      0,
      'SPLINE',
      8,
      'curve',
      70,
      8,
      71,
      2,
      ...[0, 0, 0, 1, 1, 1].flatMap((k) => [40, k]),
      ...[
        [0, 0],
        [6, 9],
        [12, 0],
      ].flatMap(([x, y]) => [10, x!, 20, y!, 30, 0]),
    ],
    line('curve', [12, 0], [0, 0]),
    [
      0,
      'ELLIPSE',
      8,
      'oval',
      10,
      0,
      20,
      0,
      30,
      0,
      11,
      8,
      21,
      0,
      31,
      0,
      40,
      0.5,
      41,
      0,
      42,
      6.283185307179586,
    ],
  ]);
  const of = (layer: string) => area(model.footprints.find((one) => one.layer === layer)!.outer);
  expect(of('plan')).toBeCloseTo(60 + 12.5 * Math.PI, 0);
  expect(of('curve')).toBeCloseTo((2 / 3) * 54, 0);
  expect(of('oval') / (Math.PI * 32)).toBeCloseTo(1, 1.5);
  expect(model.notes).toContain('2 outlines are joined from lines whose ends meet.');
  expect(model.notes).toContain('1 open line is left out; only closed outlines can become buildings.');
  // With a smaller tolerance the gap stays open.
  const strict = drawing({
    header: [METRES],
    entities: [line('a', [0, 0], [10, 0]), line('a', [10.002, 0], [5, 8]), line('a', [5, 8], [0, 0])],
  });
  expect(readDxf(strict).footprints).toHaveLength(1);
  expect(() => readDxf(strict, { joinM: 0.001 })).toThrow('3 open lines but no closed outline');
});

test('boundaries of hatches, bulges, and what is extruded downwards or drawn with a thickness', () => {
  const model = read([
    [
      0,
      'HATCH',
      8,
      'fill',
      10,
      0,
      20,
      0,
      30,
      0,
      2,
      'SOLID',
      70,
      1,
      71,
      0,
      91,
      2,
      92,
      3,
      72,
      0,
      73,
      1,
      93,
      4,
      ...box(0, 0, 10, 8).flatMap(([x, y]) => [10, x, 20, y]),
      97,
      0,
      92,
      1,
      93,
      2,
      72,
      2,
      10,
      30,
      20,
      4,
      40,
      3,
      50,
      0,
      51,
      180,
      73,
      1,
      72,
      1,
      10,
      27,
      20,
      4,
      11,
      33,
      21,
      4,
      97,
      0,
    ],
    [0, 'LWPOLYLINE', 8, 'round', 90, 2, 70, 1, 10, 0, 20, 0, 42, 1, 10, 10, 20, 0, 42, 1],
    polyline('down', box(0, 0, 6, 4), [38, 3, 39, 9, 210, 0, 220, 0, 230, -1]),
    polyline('up', box(20, 0, 6, 4), [38, 3, 39, 9]),
  ]);
  const of = (layer: string) => model.footprints.filter((one) => one.layer === layer);
  expect(
    of('fill')
      .map(({ outer }) => area(outer))
      .sort((a, b) => a - b),
  ).toEqual([expect.closeTo((Math.PI * 9) / 2, 0), 80]);
  expect(area(of('round')[0]!.outer) / (25 * Math.PI)).toBeCloseTo(1, 1.5);
  // Extruded downwards: x runs the other way, its level is below zero, and its thickness goes on downwards.
  expect(of('down')[0]).toMatchObject({ height: 9, level: -12 });
  expect(Math.min(...of('down')[0]!.outer.map(([x]) => x))).toBe(-6);
  expect(of('up')[0]).toMatchObject({ height: 9, level: 3 });
  const into = importModel(emptyProject('E', 2026), model, {
    ...{ unit: 'm', up: 'z', becomes: { 'outline:up': 'neighbour' }, optionId: 'a', heights: null },
    ...{ heightM: 6, takeSite: false, name: 'D', centre: false },
  });
  const up = into.project.neighbours.find(({ name }) => name === 'up 1')!;
  expect(up).toMatchObject({ base: { on: 'level', levelM: 3 } });
});

test('faces, polyface meshes, polygon meshes and meshes are surfaces by layer', () => {
  const vertex = (x: number, y: number, z: number, flags: number, faces: number[] = []): Pairs => [
    ...[0, 'VERTEX', 8, 'm', 10, x, 20, y, 30, z, 70, flags],
    ...faces.flatMap((face, i) => [71 + i, face]),
  ];
  const model = read([
    [
      0,
      '3DFACE',
      8,
      'faces',
      10,
      0,
      20,
      0,
      30,
      0,
      11,
      4,
      21,
      0,
      31,
      0,
      12,
      4,
      22,
      0,
      32,
      3,
      13,
      0,
      23,
      0,
      33,
      3,
    ],
    [0, 'POLYLINE', 8, 'poly', 66, 1, 70, 64],
    ...[vertex(0, 0, 0, 192), vertex(2, 0, 0, 192), vertex(2, 2, 0, 192), vertex(0, 2, 0, 192)],
    vertex(0, 0, 0, 128, [1, 2, -3, 4]),
    [0, 'SEQEND'],
    [0, 'POLYLINE', 8, 'grid', 66, 1, 70, 16, 71, 2, 72, 3],
    ...[0, 1].flatMap((x) => [0, 1, 2].map((y) => vertex(x, y, 0, 64))),
    [0, 'SEQEND'],
    [
      0,
      'MESH',
      8,
      'sub',
      71,
      2,
      72,
      0,
      91,
      0,
      92,
      4,
      ...[
        [0, 0, 0],
        [5, 0, 0],
        [5, 5, 0],
        [0, 5, 0],
      ].flatMap(([x, y, z]) => [10, x!, 20, y!, 30, z!]),
      93,
      5,
      90,
      4,
      90,
      0,
      90,
      1,
      90,
      2,
      90,
      3,
      94,
      0,
      95,
      0,
    ],
  ]);
  const { positions: p, triangles } = model.mesh!;
  const areas = new Map<string, number>();
  model.groups.forEach((group, i) => {
    const end = model.groups[i + 1]?.firstTriangle ?? triangles.length / 3;
    let sum = 0;
    for (let t = group.firstTriangle * 3; t < end * 3; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => p[triangles[t + k]! * 3 + axis]!));
      const [u, v] = [b!.map((x, k) => x - a![k]!), c!.map((x, k) => x - a![k]!)];
      sum +=
        Math.hypot(
          u[1]! * v[2]! - u[2]! * v[1]!,
          u[2]! * v[0]! - u[0]! * v[2]!,
          u[0]! * v[1]! - u[1]! * v[0]!,
        ) / 2;
    }
    areas.set(group.name, sum);
  });
  expect(Object.fromEntries(areas)).toEqual({ faces: 12, poly: 4, grid: 2, sub: 25 });
});
