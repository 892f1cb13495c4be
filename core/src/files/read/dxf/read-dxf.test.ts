import { bring } from '../../../../testing/model-files';
import { modelRows } from '../../model-rows';
import { likelyUnitOf } from '../../likely-unit';
import { metresOf } from '../../model-units';
import { readDxf } from './read-dxf';
import { stream } from '../../../../testing/stream';
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

test('a ring in a ring is a court, or an outline of its own; paper space, frozen layers and what is not read are told', () => {
  const layers: Pairs[] = [
    [0, 'TABLE', 2, 'LAYER'],
    [0, 'LAYER', 2, 'old', 70, 1, 62, 7],
    [0, 'LAYER', 2, 'dark', 70, 0, 62, -3],
    [0, 'ENDTAB'],
  ];
  const model = read(
    [
      polyline('house', box(0, 0, 20, 20)),
      polyline('house', box(5, 5, 10, 10)),
      polyline('house', box(8, 8, 3, 3)),
      polyline('old', box(40, 0, 5, 5)),
      polyline('dark', box(50, 0, 5, 5)),
      polyline('sheet', box(0, 0, 5, 5), [67, 1]),
      [0, 'TEXT', 8, 'house', 1, 'A'],
      [0, 'TEXT', 8, 'house', 1, 'B'],
      [0, '3DSOLID', 8, 'house'],
    ],
    { tables: layers },
  );
  const house = model.footprints.filter(({ layer }) => layer === 'house');
  expect(house.map(({ outer, holes }) => [area(outer), holes.map(area)])).toEqual([
    [400, [100]],
    [9, []],
  ]);
  const rows = modelRows(model);
  expect(rows.map(({ name, likely }) => [name, likely])).toEqual([
    ['house', 'neighbour'],
    ['old (frozen)', 'leave'],
    ['dark (off)', 'leave'],
  ]);
  const said = model.notes.join(' ');
  for (const part of [
    '1 thing on sheets of paper space left out',
    '1 ring within another',
    '2 outlines lie on layers',
    'Not read: 2 TEXT, 1 3DSOLID',
  ])
    expect(said).toContain(part);
  const into = (courts: boolean) => bring(model, { courts }).project.neighbours;
  expect(into(true)).toHaveLength(2);
  expect(into(false)).toHaveLength(3);
});

test('outlines can be decided on by the colour that they are drawn in: their own, of their layer, of the block', () => {
  const model = read(
    [
      polyline('house', box(0, 0, 20, 20), [62, 1]),
      polyline('house', box(40, 0, 20, 20)),
      insert('B', [62, 5, 10, 100, 20, 0]),
    ],
    {
      tables: [[0, 'LAYER', 2, 'house', 70, 0, 62, 3]],
      blocks: [
        [0, 'BLOCK', 2, 'B', 10, 0, 20, 0],
        polyline('house', box(0, 0, 5, 5), [62, 0]),
        [0, 'ENDBLK'],
      ],
    },
  );
  expect(modelRows(model, 'colour').map(({ key, count }) => [key, count])).toEqual([
    ['outline:colour 1', 1],
    ['outline:colour 3', 1],
    ['outline:colour 5', 1],
  ]);
  const { project } = bring(model, {
    outlinesBy: 'colour',
    becomes: { 'outline:colour 1': 'leave', 'outline:colour 5': 'area' },
  });
  expect([project.neighbours.length, project.areas.length]).toEqual([1, 1]);
});

test('of more outlines than are read those farthest from the site are left out, ties kept in their order, and that is said', () => {
  const many = Array.from({ length: 6000 }, (_, i) =>
    polyline('a', box((i % 80) * 20, Math.floor(i / 80) * 20, 1 + (i % 6), 2)),
  );
  const model = read(many);
  expect(model.footprints).toHaveLength(5000);
  // Drawn round its origin: the site lies there. Two of the outlines are as far as the last one kept.
  const far = (p: readonly [number, number]) => Math.hypot(p[0], p[1]);
  const kept = Math.max(...model.footprints.map(({ outer }) => far(outer[0]!)));
  const all = Array.from({ length: 6000 }, (_, i) => far([(i % 80) * 20, Math.floor(i / 80) * 20]));
  expect(all.filter((metres) => metres < kept).length).toBeLessThan(5000);
  expect(all.filter((metres) => metres <= kept).length).toBeGreaterThanOrEqual(5000);
  expect(model.notes.join(' ')).toContain('The 1,000 outlines farthest from the site');
  // All as large and all as far: as many as can be, not none.
  const alike = Array.from({ length: 5100 }, (_, i) => {
    const a = (i * Math.PI) / 2550;
    return polyline('a', box(5000 * Math.cos(a), 5000 * Math.sin(a), 2, 2));
  });
  expect(read(alike).footprints).toHaveLength(5000);
  // Of a survey: nearest to its origin, in the unit of the drawing.
  const east = readDxf(drawing({ header: [METRES], entities: many }), { survey: { x: 1600, y: 0 } });
  expect(
    Math.max(...east.footprints.map(({ outer }) => Math.hypot(outer[0]![0] - 1600, outer[0]![1]))),
  ).toBeLessThan(2000);
});

test('units: guessed without a statement, every code, and not those in which nothing could be a building', () => {
  const at = (code: number | null, size: number) =>
    readDxf(
      drawing({
        header: code === null ? [[9, '$ACADVER', 1, 'AC1009']] : [[9, '$INSUNITS', 70, code]],
        entities: [polyline('a', box(0, 0, size, size * 0.6))],
      }),
    );
  for (const [code, size, unit] of [
    [6, 20, 'm'],
    [4, 20_000, 'mm'],
    [5, 2000, 'cm'],
    [2, 60, 'ft'],
    [14, 200, 'dm'],
    [10, 22, 'yd'],
    [21, 60, 'us-ft'],
  ] as const)
    expect(at(code, size).unit).toBe(unit);
  // Of none, or a wrong one, the size says more.
  for (const code of [null, 0, 1]) {
    const model = at(code, 20_000);
    expect(model.unit).toBeNull();
    expect(model.notes.join(' ')).toContain('millimetres');
  }
  expect(at(0, 18).notes.join(' ')).toContain('taken as metres');
  expect(at(1, 20).notes.join(' ')).toContain(
    'inches by its header, in which its outlines would be no buildings',
  );
  expect(at(18, 20).notes.join(' ')).toContain('astronomical units');
  for (const [code, metres] of [
    [8, 2.54e-8],
    [9, 2.54e-5],
    [12, 1e-9],
    [13, 1e-6],
    [15, 10],
    [16, 100],
    [22, 100 / 3937],
    [23, 3600 / 3937],
  ] as const) {
    const { unit } = at(code, 24 / metres);
    expect(metresOf(unit!)).toBe(metres);
  }
});

test('a header as offices have it: names before the unit do not hide it', () => {
  const before: Pairs[] = [
    [9, '$ACADVER', 1, 'AC1024'],
    [9, '$DIMSTYLE', 2, 'Standard'],
    [9, '$UCSNAME', 2, ''],
    [9, '$EXTMIN', 10, 1e20, 20, 1e20, 30, 1e20],
    [9, '$INSUNITS', 70, 5],
    [9, '$CMLSTYLE', 2, 'Standard'],
  ];
  const model = readDxf(drawing({ header: before, entities: [polyline('a', box(0, 0, 2000, 1200))] }));
  expect(model.unit).toBe('cm');
  expect(model.notes).toEqual([]);
});

test('the unit of a floor plan is not that of its furniture, and a site keeps its own beside its boundary', () => {
  const random = stream(5);
  const furniture = (metres: number) =>
    Array.from({ length: 300 }, () =>
      polyline(
        'furniture',
        box((random() * 15) / metres, (random() * 10) / metres, 0.6 / metres, 0.45 / metres),
      ),
    );
  const rooms = (metres: number) =>
    Array.from({ length: 8 }, (_, i) =>
      polyline('rooms', box((i * 2.5) / metres, 0, 2.4 / metres, 5 / metres)),
    );
  const house = (metres: number) => polyline('walls', box(0, 0, 20 / metres, 12 / metres));
  const of = (header: Pairs[], entities: Pairs[]) => {
    const model = readDxf(drawing({ header, entities }));
    return model.unit ?? likelyUnitOf(model, 'z');
  };
  for (const [unit, metres] of [
    ['m', 1],
    ['mm', 0.001],
    ['cm', 0.01],
  ] as const) {
    const all = [house(metres), ...rooms(metres), ...furniture(metres)];
    if (unit !== 'cm') expect(of([], all)).toBe(unit);
    // What the header says stands, and is not believed where all would be a toy or a town.
    expect(of([[9, '$INSUNITS', 70, { m: 6, mm: 4, cm: 5 }[unit]]], all)).toBe(unit);
    if (unit === 'mm') {
      // A plan of 20 m, or halls of 500 m: only where the drawing says that it is metric.
      expect(of([[9, '$INSUNITS', 70, 1]], all)).toBe('in');
      expect(
        of(
          [
            [9, '$MEASUREMENT', 70, 1],
            [9, '$INSUNITS', 70, 1],
          ],
          all,
        ),
      ).toBe('mm');
    }
    if (unit === 'm') expect(of([[9, '$INSUNITS', 70, 4]], all)).toBe('m');
  }
  const site = [
    polyline('boundary', box(0, 0, 640, 500)),
    ...Array.from({ length: 60 }, (_, i) =>
      polyline('houses', box((i % 10) * 40, Math.floor(i / 10) * 40, 14, 10)),
    ),
  ];
  expect(of([], site)).toBe('m');
  expect(of([METRES], site)).toBe('m');
});

test('layers of what is too small to be built are left out unless they are chosen', () => {
  const entities = [
    polyline('house', box(0, 0, 20, 12)),
    ...[0, 1, 2].map((i) => polyline('chairs', box(1 + i, 1, 0.5, 0.5))),
    polyline('mixed', box(30, 0, 0.5, 0.5)),
    polyline('mixed', box(40, 0, 5, 5)),
  ];
  const model = read(entities);
  const likely = () => Object.fromEntries(modelRows(model).map(({ name, likely: is }) => [name, is]));
  expect(likely()).toEqual({ house: 'neighbour', chairs: 'leave', mixed: 'neighbour' });
  expect(model.notes).toContain('3 outlines under 2 m (chairs) are left out unless they are chosen.');
  expect(bring(model, { becomes: { 'outline:chairs': 'neighbour' } }).project.neighbours).toHaveLength(6);
  // Of a drawing of small things alone nothing is left out.
  expect(modelRows(read(entities.slice(1, 4))).map(({ likely: is }) => is)).toEqual(['neighbour']);
});

test('what is drawn twice is one, what turns back over itself or stands upright is left out, and both are told', () => {
  const corners = box(0, 0, 10, 8);
  const walls = corners.map((p, i) => line('walls', p, corners[(i + 1) % 4]!));
  const model = read([
    ...walls,
    line('walls', corners[1]!, corners[0]!),
    polyline('bow', [
      [40, 0],
      [50, 8],
      [50, 0],
      [40, 8],
    ]),
    polyline('wall', box(0, 0, 10, 3), [210, 0, 220, -1, 230, 0]),
  ]);
  expect(model.footprints.map(({ outer }) => area(outer))).toEqual([80]);
  const said = model.notes.join(' ');
  expect(said).toContain('1 line is drawn twice');
  expect(said).toContain('2 closed lines are left out: standing upright');
  expect(said).not.toContain('open line');
});

test('names in the code page of the drawing and by number; coordinates of a grid in millimetres; a file that is cut off', () => {
  const text = (name: string, version: string, page: string) =>
    [
      0,
      'SECTION',
      2,
      'HEADER',
      9,
      '$ACADVER',
      1,
      version,
      9,
      '$DWGCODEPAGE',
      3,
      page,
      9,
      '$INSUNITS',
      70,
      4,
      0,
      'ENDSEC',
      0,
      'SECTION',
      2,
      'ENTITIES',
      ...polyline(name, box(691_234_000, 5_334_567_000, 20_000, 12_000)),
      0,
      'ENDSEC',
      0,
      'EOF',
    ].join('\r\n');
  const latin = Uint8Array.from(text('Geb\u00e4ude', 'AC1015', 'ANSI_1252'), (c) => c.charCodeAt(0));
  expect(readDxf(latin).footprints[0]!.layer).toBe('Gebäude');
  const cyrillic = text('XX', 'AC1015', 'ANSI_1251');
  const bytes = Uint8Array.from(cyrillic, (c) => c.charCodeAt(0));
  const x = cyrillic.indexOf('XX');
  bytes.set([0xc4, 0xee], x);
  expect(readDxf(bytes).footprints[0]!.layer).toBe('До');
  const modern = readDxf(new TextEncoder().encode(text('Gebäude \\U+00B2', 'AC1027', 'ANSI_1252')));
  expect(modern.footprints[0]!.layer).toBe('Gebäude ²');
  expect(modern.footprints[0]!.outer[0]).toEqual([691_234_000, 5_334_567_000]);
  const cut = new TextEncoder().encode(
    text('a', 'AC1015', 'ANSI_1252').replace(/0\r\nENDSEC\r\n0\r\nEOF$/, '0\r\nLWPOLY'),
  );
  expect(readDxf(cut).notes.join(' ')).toContain('may be cut off');
});

test('every beginning of a drawing is read or refused with a sentence, and comes to an end', () => {
  const whole = drawing({
    header: [METRES],
    blocks: [[0, 'BLOCK', 2, 'B', 10, 0, 20, 0], polyline('0', box(0, 0, 3, 3)), [0, 'ENDBLK']],
    entities: [
      insert('B', [10, 0, 20, 0]),
      polyline('a', box(0, 0, 10, 8)),
      line('a', [0, 0], [1, 1]),
      [0, 'HATCH', 8, 'h', 91, 1, 92, 2, 72, 1, 73, 1, 93, 90000, 10, 0, 20, 0],
    ],
  });
  for (let length = 1; length < whole.length; length += 3) {
    try {
      expect(readDxf(whole.subarray(0, length)).format).toBe('dxf');
    } catch (error) {
      expect(error).toMatchObject({ name: 'InputError' });
    }
  }
});
