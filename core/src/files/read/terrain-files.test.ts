import fc from 'fast-check';
import { box, drawing, METRES, type Pairs, polyline } from '../../../testing/drawings';
import { bring, boxObj, lowest, read } from '../../../testing/model-files';
import { mutations, readOrRefused } from '../../../testing/mutate';
import { emptyProject, type Project } from '../../project';
import { groundLevel, localFrame, mapSystem } from '../../site';
import { modelRows } from '../model-rows';

const bytes = (value: string) => new TextEncoder().encode(value);
const GRID =
  'ncols 3\nnrows 2\nxllcorner 100\nyllcorner 50\ncellsize 10\nNODATA_value -9999\n1 2 3\n4 -9999 6\n';
const spotsOf = async (text: string | Uint8Array, name: string) => {
  const model = await read(text, name);
  return model.spots.flatMap(({ positions }) =>
    Array.from({ length: positions.length / 3 }, (_, i) => [...positions.subarray(i * 3, i * 3 + 3)]),
  );
};
const ground = (project: Project) => project.site.ground;

/** A TIFF of one strip of 32-bit floats, north up, with the keys of a GeoTIFF, written by hand. */
function tiff(
  columns: number,
  values: readonly number[],
  { at, cell, keys, bands = 1 }: { at: [number, number]; cell: number; keys: number[][]; bands?: number },
): Uint8Array {
  const rows = values.length / columns / bands;
  const doubles = [cell, cell, 0, 0, 0, 0, at[0], at[1], 0];
  const geo = [1, 1, 0, keys.length, ...keys.flatMap(([id, value]) => [id!, 0, 1, value!])];
  const noData = '-9999\0';
  const entries = 14;
  const data = 8 + 2 + entries * 12 + 4;
  const doublesAt = data;
  const geoAt = doublesAt + doubles.length * 8;
  const textAt = geoAt + geo.length * 2;
  const pixelsAt = textAt + 8;
  const view = new DataView(new ArrayBuffer(pixelsAt + values.length * 4));
  view.setUint16(0, 0x4949);
  view.setUint16(2, 42, true);
  view.setUint32(4, 8, true);
  view.setUint16(8, entries, true);
  const SHORT = 3;
  const [ASCII, LONG, DOUBLE] = [2, 4, 12];
  const tags: [number, number, number, number][] = [
    [256, LONG, 1, columns],
    [257, LONG, 1, rows],
    [258, SHORT, 1, 32],
    [259, SHORT, 1, 1],
    [262, SHORT, 1, 1],
    [273, LONG, 1, pixelsAt],
    [277, SHORT, 1, bands],
    [278, LONG, 1, rows],
    [279, LONG, 1, values.length * 4],
    [339, SHORT, 1, 3],
    [33_550, DOUBLE, 3, doublesAt],
    [33_922, DOUBLE, 6, doublesAt + 24],
    [34_735, SHORT, geo.length, geoAt],
    [42_113, ASCII, noData.length, textAt],
  ];
  tags.forEach(([tag, type, count, value], i) => {
    const o = 10 + i * 12;
    view.setUint16(o, tag, true);
    view.setUint16(o + 2, type, true);
    view.setUint32(o + 4, count, true);
    if (type === SHORT && count === 1) view.setUint16(o + 8, value, true);
    else view.setUint32(o + 8, value, true);
  });
  doubles.forEach((value, i) => view.setFloat64(doublesAt + i * 8, value, true));
  geo.forEach((value, i) => view.setUint16(geoAt + i * 2, value, true));
  [...noData].forEach((c, i) => view.setUint8(textAt + i, c.charCodeAt(0)));
  values.forEach((value, i) => view.setFloat32(pixelsAt + i * 4, value, true));
  return new Uint8Array(view.buffer);
}

describe('heights as text', () => {
  test('a grid: rows from the north, cells by their middle, gaps left out', async () => {
    expect(await spotsOf(GRID, 'a.asc')).toEqual([
      [105, 65, 1],
      [115, 65, 2],
      [125, 65, 3],
      [105, 55, 4],
      [125, 55, 6],
    ]);
    expect(await spotsOf(GRID.replace(/corner/g, 'center'), 'a.txt')).toContainEqual([100, 60, 1]);
    await expect(read(GRID.slice(0, -8), 'a.asc')).rejects.toThrow('it is cut off');
  });

  test('points between commas, blanks or semicolons, with comma decimals, with columns named in any order', async () => {
    const wanted = [
      [0.5, 0, 1],
      [10, 0, 2],
      [0, 10, 3.25],
    ];
    for (const text of [
      'x,y,z\n0.5,0,1\n10,0,2\n0,10,3.25\n',
      '0.5 0 1\n10 0 2\n0 10 3.25\n',
      '# made\n0,5;0;1\n10;0;2\n0;10;3,25\n',
      '0,5 0 1\n10 0 2\n0 10 3,25\n',
      'Punkt;Höhe [m];Ostwert;Nordwert\nA1;1;0,5;0\nA2;2;10;0\nA3;3,25;0;10\n',
    ])
      expect(await spotsOf(text, 'a.xyz')).toEqual(wanted);
    await expect(read('0 0 1\n1 1', 'a.xyz')).rejects.toThrow('Line 2: a height needs three numbers');
    await expect(read('0 0 1\n1 1 1', 'a.xyz')).rejects.toThrow('fewer than three heights');
  });

  test('a grid of more cells than are read is read with a stride, and that is said', async () => {
    const side = 1002;
    const row = Array(side).fill('5').join(' ');
    const text = `ncols ${side}\nnrows ${side}\nxllcorner 0\nyllcorner 0\ncellsize 1\n${Array(side).fill(row).join('\n')}`;
    const model = await read(text, 'large.asc');
    expect(model.spots[0]!.positions.length / 3).toBe(501 * 501);
    expect(model.notes).toEqual(['The grid has 1,004,004 cells; every 2nd is read in both directions.']);
  });

  test('whatever is done to a height file, it gives heights or a sentence', async () => {
    for (const valid of [bytes(GRID), bytes('x,y,z\n0,0,1\n10,0,2\n0,10,3\n5,5,4\n')])
      await fc.assert(
        fc.asyncProperty(mutations(valid), async (made) => {
          const model = await readOrRefused(() => read(made, 'a.asc'));
          if (model?.format === 'heights')
            for (const { positions } of model.spots) expect([...positions].every(Number.isFinite)).toBe(true);
        }),
        { numRuns: 500 },
      );
  });
});

describe('a terrain stands where the drawings of its survey do', () => {
  // A slope of 1 in 100 towards the east: 505 m at x = 691,200.
  const [X, Y] = [691_200, 5_334_500];
  const points = Array.from({ length: 49 }, (_, i): [number, number, number] => {
    const [dx, dy] = [(i % 7) * 20, Math.floor(i / 7) * 20];
    return [X + dx, Y + dy, 505 + dx / 100];
  });
  const xyz = points.map((p) => p.join(' ')).join('\n');
  const terrain = { becomes: {} };

  test('after a model of the survey: in its place and at its level; before it, the model in that of the terrain', async () => {
    const model = await read(boxObj(X + 40, Y + 40, 505.4), 'a.obj');
    const first = bring(model);
    const after = bring(await read(xyz, 'survey.xyz'), terrain, first.project);
    // The house stands on the ground: its foot, at 505.4 m, where the slope has that level.
    const [x, y, z] = lowest(first.meshes[0]!);
    expect(groundLevel(ground(after.project), [x! + 0.001, y! + 0.001])).toBeCloseTo(z!, 3);
    expect(after.notes.join(' ')).toContain('It stands where the survey origin');
    const before = bring(await read(xyz, 'survey.xyz'), terrain);
    expect(before.project.site.survey).toMatchObject({ z: 505 });
    const second = bring(model, {}, before.project);
    const [bx, by, bz] = lowest(second.meshes[0]!);
    expect(groundLevel(ground(second.project), [bx! + 0.001, by! + 0.001])).toBeCloseTo(bz!, 3);
    // Neither floats, nor lies under the ground.
    expect([...after.notes, ...second.notes].join(' ')).not.toMatch(/floats|under the ground/);
  });

  test('of a drawing with levels: a house at 505.4 stands on the ground; one at 600 floats, and that is asked about', async () => {
    const at = (level: number): Pairs => polyline('house', box(X + 40, Y + 40, 10, 8), [38, level]);
    const house = (level: number) => drawing({ header: [METRES], entities: [at(level)] });
    const before = bring(await read(xyz, 'survey.xyz'), terrain);
    const low = bring(await read(house(505.4), 'a.dxf'), {}, before.project);
    const body = low.project.neighbours[0]!;
    expect(body.kind === 'building' && body.base).toEqual({ on: 'level', levelM: 0.4 });
    expect(low.notes.join(' ')).not.toContain('floats');
    const high = bring(await read(house(600), 'a.dxf'), {}, before.project);
    expect(high.notes.join(' ')).toContain('floats 94.5 m over the ground');
    // Alone it is told from its own level.
    const alone = bring(await read(house(105), 'b.dxf'));
    const first = alone.project.neighbours[0]!;
    expect(first.kind === 'building' && first.base).toEqual({ on: 'level', levelM: 0 });
  });

  test('contour lines and points of a drawing become terrain, never ring buildings', async () => {
    const line = (layer: string, level: number, isClosed: boolean, dy: number): Pairs => {
      const corners = Array.from({ length: 24 }, (_, i): [number, number] => {
        const a = (i * Math.PI) / 12;
        return isClosed
          ? [X + 60 + (40 - dy) * Math.cos(a), Y + 60 + (40 - dy) * Math.sin(a)]
          : [X + i * 6, Y + dy * 2];
      });
      return [
        ...[0, 'LWPOLYLINE', 8, layer, 90, corners.length, 70, Number(isClosed), 38, level],
        ...corners.flatMap(([x, y]) => [10, x, 20, y]),
      ];
    };
    const lines = [0, 1, 2, 3].map((k) => line('lines', 505 + k / 2, k > 1, k * 10));
    const spots = Array.from({ length: 12 }, (_, i): Pairs => [
      ...[0, 'POINT', 8, 'spots', 10, X + i * 5, 20, Y + 30, 30, 505 + i / 10],
    ]);
    const entities = [
      ...lines,
      ...spots,
      [0, 'POINT', 8, 'spots', 10, X, 20, Y, 30, 0],
      polyline('houses', box(X + 40, Y + 40, 10, 8), [38, 505.5]),
    ];
    const model = await read(drawing({ header: [METRES], entities }), 'site.dxf');
    expect(modelRows(model).map(({ key, kind, likely }) => [key, kind, likely])).toEqual([
      ['outline:houses', 'outline', 'neighbour'],
      ['spots:lines', 'spot', 'terrain'],
      ['spots:spots', 'spot', 'terrain'],
    ]);
    expect(model.notes).toContain(
      '4 lines of “lines”, at 505 to 506.5, are contour lines: they are heights of the terrain.',
    );
    expect(model.notes).toContain('1 point without a height is left out.');
    const { project } = bring(model);
    expect(project.neighbours).toHaveLength(1);
    expect(ground(project).kind).toBe('terrain');
    const { survey } = project.site;
    expect(groundLevel(ground(project), [X + 6 - survey!.x, Y - survey!.y])).toBeCloseTo(505 - survey!.z, 3);
  });

  test('floors of a building at even levels are no contour lines; a few marks of height are left', async () => {
    const floors = [0, 3, 6, 9].map((level) => polyline('floors', box(0, 0, 20, 12), [38, 100 + level]));
    const marks = [1, 2, 3].map((i): Pairs => [0, 'POINT', 8, 'marks', 10, i, 20, i, 30, 100 + i]);
    const model = await read(drawing({ header: [METRES], entities: [...floors, ...marks] }), 'house.dxf');
    expect(modelRows(model).map(({ key, likely }) => [key, likely])).toEqual([
      ['outline:floors', 'neighbour'],
      ['spots:marks', 'leave'],
    ]);
  });

  test('in millimetres on a national grid: heights, outlines and models go together', async () => {
    const inMm = points.map((p) => p.map((v) => Math.round(v * 1000)).join(' ')).join('\n');
    const before = bring(await read(inMm, 'mm.xyz'), { unit: 'mm' });
    expect(before.project.site.survey).toMatchObject({ z: 505 });
    const obj = boxObj(X * 1000 + 40_000, Y * 1000 + 40_000, 505_400, [20_000, 12_000, 9000]);
    const { meshes, project } = bring(await read(obj, 'mm.obj'), { unit: 'mm' }, before.project);
    const [x, y, z] = lowest(meshes[0]!);
    expect(groundLevel(ground(project), [x! + 0.001, y! + 0.001])).toBeCloseTo(z!, 3);
  });
});

describe('GeoTIFF', () => {
  const system = mapSystem('EPSG:25832')!;
  const PROJECTED = [
    [1024, 1],
    [1025, 1],
    [3072, 25_832],
  ];

  test('by its map system and the place of the project; cells by their middle, gaps left out', async () => {
    const project = emptyProject('P', 2026);
    project.site.place = { ...project.site.place, latitudeDeg: 48.1, longitudeDeg: 11.5, confirmed: true };
    const [east, north] = system.fromGeographic([11.5, 48.1]);
    const at: [number, number] = [Math.round(east) - 15, Math.round(north) + 15];
    const file = tiff(3, [500, 501, 502, 503, -9999, 505, 506, 507, 508], {
      at,
      cell: 10,
      keys: PROJECTED,
    });
    const model = await read(file, 'dtm.tif');
    expect(model).toMatchObject({ format: 'geotiff', system: 'EPSG:25832', geographic: false });
    expect(model.spots[0]!.positions.length / 3).toBe(8);
    const { project: laid, notes } = bring(model, {}, project);
    expect(notes.join(' ')).toContain('It stands where its map system (EPSG:25832)');
    // The north-west cell: by the system to longitude and latitude, from there to the project.
    const [x, y] = localFrame(project.site).toProject(system.toGeographic([at[0] + 5, at[1] - 5]));
    expect(groundLevel(ground(laid), [x + 0.01, y - 0.01])).toBeCloseTo(0, 1);
    const asPoints = tiff(3, [1, 2, 3, 4, 5, 6], {
      at,
      cell: 10,
      keys: [
        [1024, 1],
        [1025, 2],
        [3072, 25_832],
      ],
    });
    expect((await spotsOf(asPoints, 'a.tif'))[0]).toEqual([at[0], at[1], 1]);
  });

  test('in longitude and latitude; what is a picture, damaged or nowhere is refused', async () => {
    const degrees = tiff(2, [10, 11, 12, 13], {
      at: [11.5, 48.1],
      cell: 0.001,
      keys: [
        [1024, 2],
        [1025, 1],
        [2048, 4326],
      ],
    });
    const model = await read(degrees, 'a.tif');
    expect(model).toMatchObject({ geographic: true, system: null });
    const project = emptyProject('P', 2026);
    project.site.place = { ...project.site.place, latitudeDeg: 48.1, longitudeDeg: 11.5, confirmed: true };
    const laid = bring(model, {}, project).project;
    const [x, y] = localFrame(project.site).toProject([11.5005, 48.0995]);
    expect(groundLevel(ground(laid), [x, y])).toBeCloseTo(10, 2);
    const picture = tiff(2, Array(12).fill(9), { at: [0, 0], cell: 1, keys: PROJECTED, bands: 3 });
    await expect(read(picture, 'a.tif')).rejects.toThrow('a picture of several colours');
    await expect(read(degrees.slice(0, 60), 'a.tif')).rejects.toThrow('cannot be read');
    await fc.assert(
      fc.asyncProperty(mutations(degrees), async (made) => {
        await readOrRefused(() => read(made, 'a.tif'));
      }),
      { numRuns: 100 },
    );
  });
});

describe('LandXML', () => {
  const file = (surface: string, units = '<Metric linearUnit="meter"/>') =>
    `<?xml version="1.0"?><LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2"><Units>${units}</Units>
     <CoordinateSystem epsgCode="25832"/><Surfaces><Surface name="Ground &amp; bank">${surface}</Surface></Surfaces></LandXML>`;
  const PNTS =
    '<Pnts><P id="1">50 100 5</P><P id="2">50 120 6</P><P id="3">70 120 7</P><P id="4">70 100 8</P></Pnts>';

  test('a surface by its faces: north before east, those that are not seen left out, in its unit and map system', async () => {
    const text = file(
      `<SourceData><DataPoints><PntList3D>0 0 0</PntList3D></DataPoints></SourceData><Definition surfType="TIN">${PNTS}<Faces><F>1 2 3</F><F i="1">3 4 1</F><F>1 9 3</F></Faces></Definition>`,
      '<Imperial linearUnit="USSurveyFoot"/>',
    );
    const model = await read(text, 'a.xml');
    expect(model).toMatchObject({ format: 'landxml', unit: 'us-ft', system: 'EPSG:25832', up: 'z' });
    expect(model.groups).toEqual([{ name: 'Ground & bank', firstTriangle: 0, kind: 'terrain' }]);
    expect([...model.mesh!.positions.subarray(0, 3)]).toEqual([100, 50, 5]);
    expect(model.mesh!.triangles).toHaveLength(3);
    expect(modelRows(model)[0]!.likely).toBe('terrain');
    expect(model.notes).toEqual(['1 face that names points which are not there is left out.']);
  });

  test('without faces its points are heights; what is no such file says so', async () => {
    const { project } = bring(
      await read(file(`<Definition>${PNTS}</Definition>`).replace(/<Coord.*?>/, ''), 'a.landxml'),
    );
    expect(groundLevel(ground(project), [110, 50.001])).toBeCloseTo(5.5, 2);
    await expect(read(file(''), 'a.xml')).rejects.toThrow('holds no surfaces');
    await expect(read('<LandXML><Surface></LandXML>', 'a.xml')).rejects.toThrow('not a sound LandXML file');
    await expect(read('<html></html>', 'a.xml')).rejects.toThrow();
    const bomb = `<!DOCTYPE x [<!ENTITY a "${'b'.repeat(50)}">]>${file(`<Definition>&a;&a;</Definition>`).replace('<?xml version="1.0"?>', '')}`;
    await expect(read(bomb, 'a.xml')).rejects.toThrow();
  });
});
