import { kelpLane, mesaBaja } from '@dial-shade/samples';
import * as WebIfc from 'web-ifc';
import { ifcReader } from '../../../testing/ifc-reader';
import { bring, read } from '../../../testing/model-files';
import { massLevels } from '../../form';
import { volumeOf } from '../../../testing/meshes';
import { type Neighbour, type Project, type Roof, standingBodies } from '../../project';
import { meshFaults } from '../mesh-gather';
import { groupMesh } from '../model-rows';
import { readModelFile } from '../read/read-model';
import { type OutFormat, writeOption } from './write-option';
import { optionParts } from './out-parts';

const NONE = new Map();
const sent = (project: Project, format: OutFormat, optionId = 'a') =>
  writeOption(project, optionId, NONE, format);
const ENDINGS: Record<string, string> = { cityjson: 'city.json', geojson: 'geojson', glb: 'glb' };
const back = async (project: Project, format: OutFormat, optionId = 'a') =>
  read(await sent(project, format, optionId), `a.${ENDINGS[format] ?? format}`);
const named = (project: Project, name: string) => project.neighbours.find((one) => one.name === name)!;
const IN_UTM = { x: 426_000, y: 6_190_000, z: 12.5, system: 'EPSG:32630' };

/** Kelp Lane whose place is that of a point of a map. */
const onMap = (project: Project): Project => ({ ...project, site: { ...project.site, survey: IN_UTM } });
/** A project with the same site and nothing on it. */
const bare = (project: Project): Project => ({
  ...project,
  neighbours: [],
  areas: [],
  targets: [],
  studies: [],
  options: project.options.map((option) => ({ ...option, masses: [], models: [], rules: [], schemes: [] })),
});
/** Every option under the first of its schemes. */
const withDevices = (project: Project): Project => ({
  ...project,
  options: project.options.map((option) => ({ ...option, scheme: option.schemes[0]?.id ?? null })),
});
const standing = (neighbours: readonly Neighbour[], kind: Neighbour['kind']) =>
  neighbours
    .filter((one) => one.kind === kind && !one.demolished)
    .map(({ id: _, ...rest }) => rest)
    .sort((a, b) => (a.name < b.name ? -1 : 1));
const rounded = (value: unknown): unknown =>
  JSON.parse(
    JSON.stringify(value, (_, v: unknown) => (typeof v === 'number' ? Math.round(v * 500) / 500 + 0 : v)),
  );

describe.each(['geojson', 'cityjson', 'glb'] as const)('%s', (format) => {
  test.each([
    ['in the frame of the project', kelpLane()],
    ['on a map', onMap(kelpLane())],
    ['in another project', mesaBaja()],
  ])('trees and fences come back as they were, %s', async (_, project) => {
    const model = await back(project, format);
    const into = bring(model, { up: model.up ?? 'z' }, bare(project));
    for (const kind of ['tree', 'fence'] as const) {
      const were = standing(project.neighbours, kind);
      expect(were.length + (kind === 'fence' ? 1 : 0)).toBeGreaterThan(0);
      expect(rounded(standing(into.project.neighbours, kind))).toEqual(rounded(were));
    }
  });
});

test('a tree or fence that becomes part of an option is a mesh; one that says nonsense of itself is its shape', async () => {
  const model = await back(kelpLane(), 'glb', 'today');
  const tree = model.groups.findIndex(({ thing }) => thing?.kind === 'tree');
  const asToday = bring(model, { up: 'y', becomes: { [`group:${tree}`]: 'today' } }, bare(kelpLane()));
  expect(asToday.project.options[0]!.models.map(({ name }) => name)).toEqual([model.groups[tree]!.name]);

  const bytes = new TextDecoder().decode(await sent(kelpLane(), 'geojson', 'today'));
  const wrong = await read(bytes.replaceAll('"crown":"round"', '"crown":"square"'), 'a.geojson');
  const names = kelpLane()
    .neighbours.filter((one) => one.kind === 'tree' && one.crown === 'round')
    .map(({ name }) => name);
  expect(names.length).toBeGreaterThan(0);
  for (const name of names)
    expect(named(bring(wrong, {}, bare(kelpLane())).project, name).kind).toBe('building');
});

const ROOFS: Roof[] = [
  { kind: 'flat', parapetM: 0.9 },
  { kind: 'gable', riseM: 3 },
  { kind: 'hip', pitchDeg: 35 },
  { kind: 'pyramid', riseM: 4 },
  { kind: 'mono', riseM: 2, fallsTowardsDeg: 77 },
  { kind: 'sawtooth', riseM: 2, teeth: 4, facesDeg: 350 },
];

test('GeoJSON: buildings come back with their storeys, setbacks and roofs, at the same levels', async () => {
  const project = bare(kelpLane());
  ROOFS.forEach((roof, i) => {
    const x = i * 30;
    project.neighbours.push({
      ...{ kind: 'building', id: `b${i}`, name: `House ${i}`, demolished: false, roof },
      footprint: { outer: [[x, 0], [x + 14, 0], [x + 14, 9], [x, 9]], holes: [] }, // prettier-ignore
      base: { on: 'ground', offsetM: i === 1 ? -0.4 : 0.6 },
      storeys: [{ heightM: 3.5 }, { heightM: 2.9, setbacksM: [0, 1.5, 0, 0] }],
      ...{ openings: [], partitions: [], rooms: [], furniture: [] },
    });
  });
  const model = await back(project, 'geojson', 'today');
  const { project: into, notes } = bring(model, {}, bare(project));
  expect(notes.join(' ')).not.toContain('storeys and roof');
  project.neighbours.forEach((was) => {
    const one = named(into, was.name);
    if (one.kind !== 'building' || was.kind !== 'building') throw new Error('no building');
    expect(one.storeys).toEqual(was.storeys);
    expect(rounded(one.roof)).toEqual(rounded(was.roof));
    const [a, b] = [one, was].map((body) => Object.values(massLevels(body, project.site.ground)));
    a!.forEach((level, k) => expect(level).toBeCloseTo(b![k]!, 3));
  });
  // In a project that is turned, roofs fall to the same true bearing.
  const turned = bare(project);
  const north = { trueNorthDeg: project.site.north.trueNorthDeg + 50, confirmed: true };
  const other = bring(model, {}, { ...turned, site: { ...turned.site, north } });
  const mono = named(other.project, 'House 4');
  expect(mono.kind === 'building' && mono.roof).toEqual({
    ...{ kind: 'mono', riseM: 2 },
    fallsTowardsDeg: expect.closeTo(127, 6),
  });
});

test('GeoJSON: a height that was changed elsewhere wins over storeys and roof, and that is said', async () => {
  const project = bare(kelpLane());
  project.neighbours.push(kelpLane().neighbours.find(({ kind }) => kind === 'building')!);
  const text = new TextDecoder().decode(await sent(project, 'geojson', 'today'));
  const higher = text.replace(/"height":[\d.]+/, '"height":21');
  const { project: into, notes } = bring(await read(higher, 'a.geojson'), {}, bare(project));
  const [one] = into.neighbours;
  expect(one?.kind === 'building' && one.storeys.reduce((sum, { heightM }) => sum + heightM, 0)).toBeCloseTo(
    21,
    6,
  );
  expect(notes.join(' ')).toContain('not the height, or the corners, of the storeys and roof');
});

test('walls come back as walls by GeoJSON', async () => {
  const project = bare(kelpLane());
  const wall: Neighbour = {
    ...{ kind: 'wall', id: 'w', name: 'Yard wall', heightM: 2.2, thicknessM: 0.3, demolished: false },
    path: [[0, 0], [12, 0], [12, 7], [4, 9]], // prettier-ignore
  };
  project.neighbours.push(wall);
  const into = bring(await back(project, 'geojson', 'today'), {}, bare(project));
  expect(rounded(standing(into.project.neighbours, 'wall'))).toEqual(rounded(standing([wall], 'wall')));
});

describe.each([
  ['Kelp Lane', kelpLane()],
  ['Mesa Baja', mesaBaja()],
])('%s', (_, project) => {
  test.each(project.options.map(({ id }) => id))(
    'in option %s bodies with windows, doors and roofs go out closed, edge by edge, and turned outwards',
    (optionId) => {
      const bodies = optionParts(project, optionId, NONE).filter(
        ({ kind, of }) => kind === 'building' && of.role === 'body',
      );
      expect(bodies.length).toBeGreaterThanOrEqual(standingBodies(project, optionId).length);
      for (const { name, mesh } of bodies)
        expect([name, meshFaults(mesh)]).toEqual([
          name,
          { openEdges: 0, crowdedEdges: 0, turnedEdges: 0, insideOut: false },
        ]);
    },
  );
});

interface City {
  metadata: { referenceSystem?: string };
  transform: { scale: number[]; translate: number[] };
  CityObjects: Record<
    string,
    {
      type: string;
      parents?: string[];
      children?: string[];
      attributes: Record<string, unknown>;
      geometry: {
        type: string;
        boundaries: never;
        semantics?: { surfaces: { type: string }[]; values: never };
      }[];
    }
  >;
  vertices: number[][];
}

test('CityJSON: solids with a semantic surface for each face, heights, and their map system', async () => {
  const project = onMap(kelpLane());
  const city = JSON.parse(new TextDecoder().decode(await sent(project, 'cityjson', 'a'))) as City;
  expect(city.metadata.referenceSystem).toBe('https://www.opengis.net/def/crs/EPSG/0/32630');
  const at = (i: number) =>
    city.vertices[i]!.map((v, k) => v * city.transform.scale[k]! + city.transform.translate[k]!);
  const bodies = standingBodies(project, 'a');
  for (const body of bodies) {
    const { type, geometry, attributes } = city.CityObjects[body.name]!;
    const { topM, floorM } = massLevels(body, project.site.ground);
    expect(type).toBe('Building');
    expect(attributes).toMatchObject({
      measuredHeight: expect.closeTo(topM - floorM, 2),
      storeysAboveGround: body.storeys.length,
    });
    const [{ type: shape, boundaries, semantics }] = geometry as [(typeof geometry)[number]];
    expect([body.name, shape]).toEqual([body.name, 'Solid']);
    const [shell] = boundaries as number[][][][];
    const [values] = semantics!.values as number[][];
    expect(values).toHaveLength(shell!.length);
    // The faces of the ground look down, those of the roof up.
    shell!.forEach(([face], i) => {
      const [a, b, c] = face!.map(at) as [number[], number[], number[]];
      const up = (b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!);
      const kind = semantics!.surfaces[values![i]!]!.type;
      if (kind === 'GroundSurface') expect(up).toBeLessThan(0);
      if (kind === 'RoofSurface') expect(up).toBeGreaterThan(0);
    });
  }
  // A sheet with two sides is no solid.
  for (const { type, geometry } of Object.values(city.CityObjects))
    if (type === 'BuildingInstallation') expect(geometry.map((one) => one.type)).toEqual(['MultiSurface']);
  const tree = project.neighbours.find(({ kind }) => kind === 'tree')!;
  expect(city.CityObjects[tree.name]).toMatchObject({
    type: 'SolitaryVegetationObject',
    attributes: { height: expect.any(Number), crownDiameter: expect.any(Number) },
    geometry: [{ type: 'MultiSolid' }],
  });
  for (const [key, { parents = [], children = [], type }] of Object.entries(city.CityObjects)) {
    expect(parents.every((parent) => city.CityObjects[parent]!.children!.includes(key))).toBe(true);
    expect(children.every((child) => city.CityObjects[child]!.parents!.includes(key))).toBe(true);
    expect(/^Building[IC]/.test(type)).toBe(parents.length > 0);
  }
});

test.each([
  ['Kelp Lane', kelpLane(), 'EPSG:32630'],
  ['Mesa Baja', mesaBaja(), null],
] as const)('%s without a survey goes out in the zone of UTM of its place', async (_, project, known) => {
  const zone = Math.floor((project.site.place.longitudeDeg + 180) / 6) + 1;
  const code = known ?? `EPSG:${(project.site.place.latitudeDeg < 0 ? 32700 : 32600) + zone}`;
  const model = await back(project, 'cityjson', 'today');
  expect(model.system).toContain(code.slice(5));
  const ifc = new TextDecoder().decode(await sent(project, 'ifc', 'today'));
  expect(ifc).toContain(`IFCPROJECTEDCRS('${code}'`);
  const open = { ...project, site: { ...project.site, place: { ...project.site.place, confirmed: false } } };
  expect((await back(open, 'cityjson', 'today')).system).toBeNull();
  expect(new TextDecoder().decode(await sent(open, 'ifc', 'today'))).not.toContain('IFCPROJECTEDCRS');
});

test.each(['cityjson', 'dxf', 'ifc'] as const)('%s on a map comes back to where it was', async (format) => {
  const project = onMap(kelpLane());
  const bytes = await sent(project, format, 'b');
  const model =
    format === 'ifc'
      ? await readModelFile(bytes, 'a.ifc', ifcReader)
      : await read(bytes, format === 'dxf' ? 'a.dxf' : 'a.city.json');
  const far = model.mesh!.positions.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  expect(far).toBeGreaterThan(6e6);
  const into = bring(model, {}, bare(project));
  const parts = optionParts(project, 'b', NONE);
  const extent = (p: Float64Array) =>
    [0, 1, 2].flatMap((k) => {
      const along = [...p].filter((_, i) => i % 3 === k);
      return [Math.min(...along), Math.max(...along)];
    });
  const one = parts.find(({ name }) => name === 'Court ring')!;
  const group = into.project.neighbours.find(({ name }) => name === 'Court ring');
  const mesh =
    group?.kind === 'mesh'
      ? into.meshes.find(
          (_, i) => [...into.project.neighbours].filter(({ kind }) => kind === 'mesh')[i]?.id === group.id,
        )
      : undefined;
  const box = mesh ? extent(mesh.positions) : null;
  if (format !== 'ifc') {
    extent(one.mesh.positions).forEach((v, i) => expect(box![i]).toBeCloseTo(v, 2));
    return;
  }
  // Of a building model there is a part for each kind.
  const all = extent(Float64Array.from(into.meshes.flatMap(({ positions }) => [...positions])));
  const was = extent(Float64Array.from(parts.flatMap(({ mesh: { positions } }) => [...positions])));
  was.forEach((v, i) => expect(all[i]).toBeCloseTo(v, 2));
});

test('IFC4: what is proposed is in the building, the rest on the site, with place and true north, every entity sound', async () => {
  const project = withDevices(kelpLane());
  // Nothing leads to a map: north is that of the project.
  project.site.place.confirmed = false;
  const bytes = await sent(project, 'ifc', 'a');
  const { api } = await ifcReader();
  const id = api.OpenModel(bytes);
  expect(api.GetModelSchema(id)).toBe('IFC4');
  const all = api.GetAllLines(id);
  for (let i = 0; i < all.size(); i++) expect(api.GetLine(id, all.get(i))).toBeTruthy();
  const linesOf = (type: number) =>
    [...api.GetLineIDsWithType(id, type)].map((line) => api.GetLine(id, line));
  const parts = optionParts(project, 'a', NONE);
  const devices = parts.filter(({ kind }) => kind === 'device');
  expect(devices.length).toBeGreaterThan(0);
  expect(linesOf(WebIfc.IFCSHADINGDEVICE).map(({ Name }) => Name.value)).toEqual(
    devices.map(({ name }) => name),
  );
  const held = linesOf(WebIfc.IFCRELCONTAINEDINSPATIALSTRUCTURE).map(
    ({ RelatedElements, RelatingStructure }) => [
      api.GetLineType(id, RelatingStructure.value),
      RelatedElements.length,
    ],
  );
  const proposed = parts.filter(({ layer }) => layer === 'option' || layer === 'devices').length;
  expect(held).toEqual([
    [WebIfc.IFCBUILDING, proposed],
    [WebIfc.IFCSITE, parts.length - proposed],
  ]);
  const guids = [...new TextDecoder().decode(bytes).matchAll(/\('([0-3][0-9A-Za-z_$]{21})',\$/g)].map(
    ([, guid]) => guid,
  );
  expect(new Set(guids).size).toBe(guids.length);
  expect(guids.length).toBeGreaterThan(parts.length);
  api.CloseModel(id);
  const model = await readModelFile(bytes, 'a.ifc', ifcReader);
  expect(model.site!.latitudeDeg).toBeCloseTo(project.site.place.latitudeDeg, 6);
  expect(model.site!.longitudeDeg).toBeCloseTo(project.site.place.longitudeDeg, 6);
  expect(((model.trueNorthDeg! % 360) + 360) % 360).toBeCloseTo(
    ((project.site.north.trueNorthDeg % 360) + 360) % 360,
    4,
  );
  const volume = (name: string) =>
    volumeOf(
      groupMesh(
        model,
        model.groups.findIndex((group) => group.name === name),
      ),
    );
  for (const { name, mesh, of, kind } of parts)
    if (kind === 'building' && of.role === 'body') expect(volume(name)).toBeCloseTo(volumeOf(mesh), 1);
});

test('DXF: a layer a body, faces in metres, edges within a plane hidden', async () => {
  const project = kelpLane();
  const text = new TextDecoder().decode(await sent(project, 'dxf', 'b'));
  const model = await read(text, 'b.dxf');
  expect(model.unit).toBe('m');
  const parts = optionParts(project, 'b', NONE);
  expect(model.groups.map(({ name }) => name)).toEqual(parts.map(({ name }) => name));
  for (const [i, { mesh, name, of, kind }] of parts.entries())
    if (kind === 'building' && of.role === 'body')
      expect([name, volumeOf(groupMesh(model, i))]).toEqual([name, expect.closeTo(volumeOf(mesh), 6)]);
  // A plain box has 12 edges; each shows from two faces, and one of two triangles hides its diagonal.
  const lines = text.split('\n');
  const pairs = lines.flatMap((line, i) => (i % 2 === 0 ? [[Number(line), lines[i + 1]!] as const] : []));
  const faces: Map<number, string>[] = [];
  for (const [code, value] of pairs)
    if (code === 0) faces.push(new Map([[0, value]]));
    else faces.at(-1)?.set(code, value);
  const kiosk = faces.filter((face) => face.get(0) === '3DFACE' && face.get(8) === 'Transformer kiosk');
  expect(kiosk).toHaveLength(12);
  const seen = kiosk.map(
    (face) => [1, 2, 8].filter((flag) => (Number(face.get(70) ?? 0) & flag) === 0).length,
  );
  expect(seen).toEqual(kiosk.map(() => 2));
});

test('heights that are told are those of buildings, not of trees and fences that say their own', async () => {
  const { notes } = bring(await back(kelpLane(), 'geojson', 'today'), {}, bare(kelpLane()));
  const buildings = standingBodies(kelpLane(), 'today').length;
  expect(notes.join(' ')).toContain(`of ${buildings} of ${buildings} outlines`);
});
