import { kelpLane } from '@dial-shade/samples';
import { ifcReader } from '../../../testing/ifc-reader';
import { bring, CHOICES, read } from '../../../testing/model-files';
import { SMALL_IFC } from '../../../testing/small-ifc';
import { problems } from '../../document';
import { roomsOf } from '../../form';
import { type Mesh, type Point2, signedArea } from '../../geometry';
import { defaultMass, emptyProject } from '../../project';
import { localFrame } from '../../site';
import { importModel } from './import-model';
import { faultSentences, meshFaults, weldMesh } from '../mesh-gather';
import { modelRows } from '../model-rows';
import { levelOutline } from '../model-surfaces';
import { modelInMetres, type ModelUnit, type UpAxis } from '../model-units';
import { readModelFile } from '../read/read-model';
import { optionParts } from '../out/out-parts';
import { type OutFormat, writeOption } from '../out/write-option';

const noIfc = () => Promise.reject(new Error('not asked for'));
/** Its place is not confirmed, so that what goes out stays in the frame of the project. */
const project = kelpLane();
project.site.place.confirmed = false;

/** The triangles of a mesh as a sorted list of corners as a format keeps them, whatever their numbering. */
function bag({ positions: p, triangles }: Mesh, kept: (v: number) => number): string[] {
  const rounded = (i: number) => [0, 1, 2].map((k) => (kept(p[i * 3 + k]!) + 0).toFixed(8)).join(' ');
  const out: string[] = [];
  for (let t = 0; t < triangles.length; t += 3) {
    const corners = [0, 1, 2].map((k) => rounded(triangles[t + k]!));
    const first = corners.indexOf([...corners].sort()[0]!);
    out.push([0, 1, 2].map((k) => corners[(first + k) % 3]!).join(' | '));
  }
  return out.sort();
}

describe.each([
  ['obj', 'm', 'z', (v) => v],
  ['stl', 'm', 'z', Math.fround],
  ['glb', 'm', 'y', Math.fround],
  ['cityjson', 'm', 'z', (v) => Math.round(v / 1e-4) * 1e-4],
] as [OutFormat, ModelUnit, UpAxis, (v: number) => number][])('%s', (format, unit, up, kept) => {
  test.each(['today', 'a', 'b', 'c'])(
    'option %s goes out and comes back the same, triangle by triangle',
    async (optionId) => {
      const bytes = await writeOption(project, optionId, new Map(), format);
      const model = await readModelFile(bytes, `option.${format}`, noIfc);
      const parts = optionParts(project, optionId, new Map());
      const back = modelInMetres(model.mesh!, unit, up);
      const sent = parts.flatMap(({ mesh }) => bag(mesh, kept)).sort();
      expect(bag(back, kept).sort()).toEqual(sent);
      if (format !== 'stl')
        expect(model.groups.map(({ name }) => name)).toEqual(parts.map(({ name }) => name));
    },
  );

  test('what came in goes out again with the same bytes', async () => {
    const shapes = {
      ...project,
      neighbours: project.neighbours.filter(({ kind }) => kind !== 'tree' && kind !== 'fence'),
    };
    const once = await writeOption(shapes, 'a', new Map(), format);
    const model = await readModelFile(once, `a.${format}`, noIfc);
    const into = importModel(emptyProject('E', 2026), model, { ...CHOICES, unit, up });
    expect(problems(into.project)).toEqual([]);
    const again = await readModelFile(
      await writeOption(into.project, 'a', into.meshes, format),
      `b.${format}`,
      noIfc,
    );
    expect(bag(again.mesh!, kept)).toEqual(bag(model.mesh!, kept));
  });
});

test('GeoJSON: footprints, heights and courts come back within a millimetre', async () => {
  const bytes = await writeOption(project, 'b', new Map(), 'geojson');
  const model = await readModelFile(bytes, 'b.geojson', noIfc);
  const into = importModel({ ...project, neighbours: [], options: [] }, model, CHOICES);
  const sent = project.options.find(({ id }) => id === 'b')!.masses[0]!;
  const back = into.project.neighbours.find(({ name }) => name === sent.name)!;
  if (back.kind !== 'building') throw new Error('not a building');
  expect(back.footprint.holes).toHaveLength(1);
  back.footprint.outer.forEach((p, i) => {
    expect(p[0]).toBeCloseTo(sent.footprint.outer[i]![0], 3);
    expect(p[1]).toBeCloseTo(sent.footprint.outer[i]![1], 3);
  });
  expect(back.storeys.map(({ heightM }) => heightM)).toEqual([3.8, 3.1, 3.1]);
  expect(back.roof).toEqual({ kind: 'flat', parapetM: 0.9 });
});

test('longitude and latitude: a degree of latitude at Greenwich, and there and back', () => {
  const frame = localFrame({
    place: { ...project.site.place, latitudeDeg: 45, longitudeDeg: 0 },
    north: { trueNorthDeg: 0, confirmed: true },
  });
  // Length of a degree of latitude at 45° on WGS 84: 111,131.8 m; of longitude: 78,846.8 m.
  expect((frame.toProject([0, 45.05])[1] - frame.toProject([0, 44.95])[1]) * 10).toBeCloseTo(111_131.8, 0);
  expect(frame.toProject([0.01, 45])[0] * 100).toBeCloseTo(78_846.8, 0);
  const turned = localFrame(project.site);
  for (const p of [
    [120, -340],
    [-900, 15],
    [0, 0],
  ] as const) {
    const there = turned.toProject(turned.toGeographic(p));
    expect(there[0]).toBeCloseTo(p[0], 3);
    expect(there[1]).toBeCloseTo(p[1], 3);
  }
  // True north lies 14° clockwise of drawing north: a place due north lies to the right of straight up.
  const [x, y] = turned.toProject([project.site.place.longitudeDeg, project.site.place.latitudeDeg + 0.001]);
  expect((Math.atan2(x, y) * 180) / Math.PI).toBeCloseTo(14, 6);
});

test('IFC: elements by kind and storey, glass, rooms, place and true north', async () => {
  const model = await readModelFile(new TextEncoder().encode(SMALL_IFC), 'small.ifc', ifcReader);
  expect(model.groups.map(({ name, kind, storey }) => [name, kind, storey])).toEqual(
    expect.arrayContaining([
      ['South wall', 'wall', 'Ground floor'],
      ['North window glass', 'glass', 'Ground floor'],
    ]),
  );
  expect(model.site!.latitudeDeg).toBeCloseTo(55 + 52 / 60 + 12 / 3600, 9);
  expect(model.site!.longitudeDeg).toBeCloseTo(-(4 + 19 / 60 + 12 / 3600), 9);
  expect(model.trueNorthDeg).toBeCloseTo(30, 6);
  expect(model.rooms).toHaveLength(1);
  expect(model.rooms[0]).toMatchObject({ name: 'Treatment room', storey: 'Ground floor' });
  expect(Math.abs(signedArea(model.rooms[0]!.outline))).toBeCloseTo(3.6 * 2.6, 4);
  const { positions } = model.mesh!;
  const z = Array.from(positions).filter((_, i) => i % 3 === 2);
  expect([Math.min(...z), Math.max(...z)]).toEqual([0, expect.closeTo(3, 4)]);
  // The same element as a shading device: a device of the option that the rest becomes part of, a neighbour with neighbours.
  const shading = await readModelFile(
    new TextEncoder().encode(SMALL_IFC.replace('IFCWALL(', 'IFCSHADINGDEVICE(')),
    'small.ifc',
    ifcReader,
  );
  const row = modelRows(shading).find(({ likely }) => likely === 'device')!;
  expect(row.name).toBe('Shadingdevice, Ground floor');
  const inA = importModel(emptyProject('E', 2026), shading, {
    ...CHOICES,
    becomes: { 'kind:glass/Ground floor': 'option' },
  });
  expect(
    inA.project.options.find(({ id }) => id === 'a')!.models.map(({ device }) => device ?? false),
  ).toEqual([false, true]);
  expect(importModel(emptyProject('E', 2026), shading, CHOICES).project.neighbours).toHaveLength(2);
  expect(modelRows(model).map(({ name }) => name)).toEqual([
    'Wall, Ground floor',
    'Glass, Ground floor',
    'Rooms',
  ]);
  const into = importModel(emptyProject('E', 2026), model, {
    ...CHOICES,
    becomes: { rooms: 'area', 'kind:wall/Ground floor': 'option' },
    takeSite: true,
  });
  expect(problems(into.project)).toEqual([]);
  expect(into.project.options.find(({ id }) => id === 'a')!.models[0]!.name).toBe('Wall, Ground floor');
  expect(into.project.neighbours[0]).toMatchObject({ name: 'Glass, Ground floor', openness: 0.7 });
  expect(into.project.areas[0]).toMatchObject({ name: 'Treatment room', use: 'room' });
  expect(into.project.site.north.trueNorthDeg).toBeCloseTo(30, 6);

  // With a mass drawn round it, the space becomes a room of its lowest storey; without, an area, which is said.
  const roomy = emptyProject('E', 2026);
  const { outline } = model.rooms[0]!;
  const [xs, ys] = [outline.map((p) => p[0]), outline.map((p) => p[1])];
  const [x0, y0, x1, y1] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  roomy.options[1]!.masses.push(
    defaultMass(
      'm',
      'Clinic',
      [
        [x0 - 0.3, y0 - 0.3],
        [x1 + 5, y0 - 0.3],
        [x1 + 5, y1 + 0.3],
        [x0 - 0.3, y1 + 0.3],
      ],
      2,
      3,
    ),
  );
  const choices = { ...CHOICES, becomes: { rooms: 'rooms' as const } };
  const { project: withRooms, notes } = importModel(roomy, model, choices);
  expect(notes).toEqual([]);
  expect(problems(withRooms)).toEqual([]);
  const rooms = roomsOf(withRooms.options[1]!.masses[0]!).filter(({ storey }) => storey === 0);
  expect(rooms.map(({ name }) => name).sort()).toEqual(['Room 1.2', 'Treatment room']);
  // Its inner faces stand 30 cm off three outer walls.
  const room = rooms.find(({ name }) => name === 'Treatment room')!;
  expect(room.areaM2).toBeCloseTo((3.6 + 0.3) * (2.6 + 0.6), 4);
  // A column that stands in it is not of it; an area has no such holes, which is said.
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const column = [
    [cx, cy],
    [cx + 0.4, cy],
    [cx + 0.4, cy + 0.4],
    [cx, cy + 0.4],
  ] as Point2[];
  const held = { ...model, rooms: [{ ...model.rooms[0]!, holes: [column] }] };
  const withColumn = importModel(roomy, held, choices);
  expect(withColumn.notes).toEqual([]);
  const hall = roomsOf(withColumn.project.options[1]!.masses[0]!).find(
    ({ name }) => name === 'Treatment room',
  )!;
  expect(hall.areaM2).toBeCloseTo(room.areaM2 - 0.16, 4);
  expect(importModel(emptyProject('E', 2026), held, choices).notes).toContain(
    '1 room has columns or courts within; areas have none, so they are filled.',
  );
  const bare = importModel(emptyProject('E', 2026), model, choices);
  expect(bare.project.areas.map(({ name, use }) => [name, use])).toEqual([['Treatment room', 'room']]);
  expect(bare.notes).toEqual(['“Treatment room” lies in no mass of the option; it became an area.']);
});

test('DXF: closed polylines with arcs and circles in millimetres, by layer', async () => {
  const lines = [
    '0 SECTION 2 HEADER 9 $INSUNITS 70 4 0 ENDSEC 0 SECTION 2 ENTITIES',
    '0 LWPOLYLINE 8 Plot 90 4 70 1 10 0 20 0 10 9000 20 0 42 1 10 9000 20 6000 10 0 20 6000',
    '0 POLYLINE 8 Plot 66 1 70 1 0 VERTEX 8 Plot 10 0 20 0 0 VERTEX 8 Plot 10 3000 20 0 0 VERTEX 8 Plot 10 3000 20 4000 0 SEQEND',
    '0 CIRCLE 8 Tank 10 20000 20 0 30 0 40 3000 0 LINE 8 X 10 0 20 0 11 5 21 5 0 ENDSEC 0 EOF',
  ];
  const model = await readModelFile(
    new TextEncoder().encode(lines.join(' ').split(' ').join('\r\n')),
    'a.dxf',
    noIfc,
  );
  expect(model.unit).toBe('mm');
  expect(model.footprints.map(({ layer }) => layer)).toEqual(['Plot', 'Plot', 'Tank']);
  const areas = model.footprints.map(({ outer }) => Math.abs(signedArea(outer)) / 1e6);
  // The bulge of 1 is a half circle of radius 3 m beyond the rectangle, drawn with 16 chords.
  expect(areas[0]).toBeCloseTo(54 + 9 * 8 * Math.sin(Math.PI / 16), 6);
  expect(areas[1]).toBeCloseTo(6, 9);
  expect(areas[2]).toBeCloseTo(9 * 16 * Math.sin((2 * Math.PI) / 32), 6);
  expect(model.notes).toEqual(['1 open line is left out; only closed outlines can become buildings.']);
  const into = importModel(emptyProject('E', 2026), model, {
    ...CHOICES,
    unit: 'mm',
    becomes: { 'outline:Plot': 'option', 'outline:Tank': 'boundary' },
  });
  expect(into.project.options.find(({ id }) => id === 'a')!.masses).toHaveLength(2);
  expect(into.project.site.boundary).toHaveLength(32);
});

test('parts become terrain, targets and models of today', async () => {
  const obj = `o Terrain\nv 0 0 0\nv 10 0 1\nv 10 10 2\nv 0 10 1\nf 1 2 3 4\no Roof terrace\nv 20 0 9\nv 26 0 9\nv 26 4 9\nv 20 4 9\nf 5 6 7 8\no Kiosk\nv 40 0 0\nv 41 0 0\nv 40 1 0\nv 40 0 1\nf 9 10 11\nf 9 10 12\n`;
  const model = await readModelFile(new TextEncoder().encode(obj), 'a.obj', noIfc);
  const rows = modelRows(model);
  expect(rows.map(({ name, likely }) => [name, likely])).toEqual([
    ['Terrain', 'terrain'],
    ['Roof terrace', 'neighbour'],
    ['Kiosk', 'neighbour'],
  ]);
  const into = importModel(emptyProject('E', 2026), model, {
    ...CHOICES,
    becomes: { 'group:1': 'target', 'group:2': 'today' },
  });
  expect(into.project.site.ground).toMatchObject({
    kind: 'terrain',
    points: expect.arrayContaining([[10, 10, 2]]),
  });
  expect(into.project.targets[0]).toMatchObject({ name: 'Roof terrace', levelM: 9 });
  const [roofTerrace] = into.project.targets;
  expect(roofTerrace?.kind === 'ground' && Math.abs(signedArea(roofTerrace.outline))).toBe(24);
  expect(into.project.options[0]!.models[0]!.name).toBe('Kiosk');
  expect(problems(into.project)).toEqual([]);
  expect(() =>
    importModel(emptyProject('E', 2026), model, {
      ...CHOICES,
      becomes: { 'group:0': 'leave', 'group:1': 'leave', 'group:2': 'leave' },
    }),
  ).toThrow('Nothing was chosen');
});

test('welding joins corners and faults are told', () => {
  const loose: Mesh = {
    positions: Float64Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0),
    triangles: Uint32Array.of(0, 1, 2, 3, 4, 5),
  };
  const welded = weldMesh(loose);
  expect(welded.positions.length / 3).toBe(4);
  expect(meshFaults(welded)).toEqual({ openEdges: 4, crowdedEdges: 0, turnedEdges: 0, insideOut: false });
  const turned = { ...welded, triangles: Uint32Array.of(0, 1, 2, 1, 2, 3) };
  expect(meshFaults(turned).turnedEdges).toBe(1);
  expect(faultSentences(meshFaults(turned))[1]).toContain('look opposite ways along 1 edge');
  const box = weldMesh(
    optionParts(project, 'today', new Map()).find(({ name }) => name === 'Transformer kiosk')!.mesh,
  );
  expect(meshFaults(box)).toEqual({ openEdges: 0, crowdedEdges: 0, turnedEdges: 0, insideOut: false });
  const inward = { ...box, triangles: box.triangles.slice().reverse() };
  expect(meshFaults(inward).insideOut).toBe(true);
  expect(levelOutline(welded)!.ring).toHaveLength(4);
});

test('parts of the terrain make one ground together, and what was there is told', async () => {
  const tile = (x: number, first: number) =>
    [
      ...[
        [x, 0, 0],
        [x + 50, 0, 2],
        [x + 50, 50, 3],
        [x, 50, 1],
      ].map((p) => `v ${p.join(' ')}`),
      `g tile ${first}`,
      `f ${[0, 1, 2, 3].map((k) => first + k).join(' ')}`,
    ].join('\n');
  const model = await read([tile(0, 1), tile(50, 5)].join('\n'), 'ground.obj');
  const becomes = Object.fromEntries(modelRows(model).map(({ key }) => [key, 'terrain' as const]));
  expect(Object.keys(becomes)).toHaveLength(2);
  const { project, notes } = bring(model, { becomes });
  const { ground } = project.site;
  expect(ground.kind === 'terrain' && ground.points.map(([x]) => x).sort((a, b) => a - b)).toEqual([
    ...[0, 0, 50, 50, 100, 100],
  ]);
  expect(notes.join(' ')).toMatch(/^The ground follows 6 spot heights of “tile 1”, “tile 5”\.$/);
  const again = bring(model, { becomes }, project);
  expect(again.notes.join(' ')).toContain('in place of the terrain that was there');
});
