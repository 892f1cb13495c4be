import { boxObj, read } from '../../../testing/model-files';
import { Accessor, Document, WebIO } from '@gltf-transform/core';
import { CornerIndex } from '../../geometry';
import { meshFaults, weldMesh } from '../mesh-gather';
import { modelRows } from '../model-rows';

test('many groups are rows by what their names and shapes say', async () => {
  const group = (name: string, i: number, size: [number, number, number]) => {
    const shift = i * 8;
    return `o ${name}\n${boxObj(i * 30, 0, 0, size).replace(
      /^f (.*)$/gm,
      (_, face: string) =>
        `f ${face
          .split(' ')
          .map((n) => Number(n) + shift)
          .join(' ')}`,
    )}`;
  };
  const names = [
    'Terrain_NW',
    ...Array.from({ length: 45 }, (_, i) => `House ${i}`),
    'Linden tree',
    'Window glass',
    'Object 9',
  ];
  const model = await read(
    names.map((name, i) => group(name, i, name === 'Object 9' ? [600, 400, 2] : [10, 8, 9])).join('\n'),
    'town.obj',
  );
  expect(modelRows(model).map(({ key, likely }) => [key, likely])).toEqual([
    ['kind:ground', 'terrain'],
    ['kind:buildings', 'neighbour'],
    ['kind:trees', 'neighbour'],
    ['kind:glass', 'neighbour'],
    ['kind:flat surfaces', 'neighbour'],
  ]);
});

describe('CityJSON', () => {
  const square = [
    [0, 0, 0],
    [10, 0, 0],
    [10, 10, 0],
    [0, 10, 0],
  ];
  const surface = (lod: string, boundaries: unknown = [[[0, 1, 2, 3]]]) => ({
    type: 'MultiSurface',
    lod,
    boundaries,
  });
  const head = { type: 'CityJSON', version: '2.0', transform: { scale: [1, 1, 1], translate: [0, 0, 0] } };

  test('templates are placed, all geometries of the finest level read, parts stand for their parent', async () => {
    const model = await read(
      JSON.stringify({
        ...head,
        vertices: [...square, [100, 50, 2]],
        'geometry-templates': { templates: [surface('2')], 'vertices-templates': square },
        CityObjects: {
          tree: {
            type: 'SolitaryVegetationObject',
            geometry: [
              {
                type: 'GeometryInstance',
                template: 0,
                boundaries: [4],
                transformationMatrix: [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 1],
              },
            ],
          },
          two: {
            type: 'Building',
            geometry: [surface('1'), surface('2', [[[0, 1, 2]]]), surface('2', [[[0, 2, 3]]])],
          },
          whole: { type: 'Building', children: ['part'], geometry: [surface('2')] },
          part: { type: 'BuildingPart', parents: ['whole'], geometry: [surface('2')] },
          point: { type: 'Building', geometry: [{ type: 'MultiPoint', lod: '0', boundaries: [0] }] },
        },
      }),
      'a.city.json',
    );
    expect(model.groups.map(({ name }) => name)).toEqual(['tree', 'two', 'part']);
    const { positions: p, triangles } = model.mesh!;
    const tree = [...triangles.subarray(0, 6)].map((i) => [p[i * 3]!, p[i * 3 + 1]!, p[i * 3 + 2]!]);
    expect(Math.max(...tree.map(([x]) => x!))).toBe(120);
    expect(tree.every(([, , z]) => z === 2)).toBe(true);
    expect(triangles.length / 3).toBe(6);
    expect(model.notes).toEqual([
      '1 objects that are only points or lines are left out.',
      '1 objects are left out: their parts hold the same in as much detail.',
    ]);
  });

  test('a sequence: the features that follow have their own vertices', async () => {
    const feature = (id: string, x: number) => ({
      ...{ type: 'CityJSONFeature', id },
      CityObjects: { [id]: { type: 'Building', geometry: [surface('1')] } },
      vertices: square.map(([a, b, c]) => [a! + x, b, c]),
    });
    const lines = [{ ...head, CityObjects: {}, vertices: [] }, feature('a', 0), feature('b', 50)];
    const model = await read(lines.map((line) => JSON.stringify(line)).join('\n'), 'a.city.jsonl');
    expect(model.groups.map(({ name }) => name)).toEqual(['a', 'b']);
    expect(Math.max(...model.mesh!.positions)).toBe(60);
  });
});

describe('GeoJSON', () => {
  const feature = (
    properties: object,
    geometry: object | null = {
      type: 'Polygon',
      coordinates: [
        [
          [0, 0],
          [1e-4, 0],
          [1e-4, 1e-4],
          [0, 0],
        ],
      ],
    },
  ) => ({
    ...{ type: 'Feature', properties, geometry },
  });

  test('tags within, as an object and as text; what has no area is left out and counted; a text sequence', async () => {
    const features = [
      feature({ tags: { height: '9 m' } }),
      feature({ other_tags: '"building"=>"house","height"=>"12"' }),
      feature({}, null),
      feature({}, { type: 'Point', coordinates: [1, 2] }),
      feature({}, { type: 'Point', coordinates: [1, 2] }),
      feature({}, { type: 'LineString', coordinates: [] }),
      feature({}, { type: 'Polygon', coordinates: [] }),
      feature(
        {},
        {
          type: 'Polygon',
          coordinates: [
            [
              [0, 0],
              [1, 1],
              [2, 2],
              [0, 0],
            ],
          ],
        },
      ),
      feature(
        {},
        {
          type: 'Polygon',
          coordinates: [
            [
              [0, 0],
              [1, 1],
              [0, 0],
            ],
          ],
        },
      ),
    ];
    const model = await read(JSON.stringify({ type: 'FeatureCollection', features }), 'a.geojson');
    expect(model.footprints.map(({ height }) => height)).toEqual([9, 12]);
    expect(model.notes).toContain('4 features without a geometry, or with one of no area, are left out.');
    expect(model.notes).toContain('3 features that are no polygons are left out: 2 Point, 1 LineString.');
    const sequence = features
      .slice(0, 2)
      .map((one) => `\u001e${JSON.stringify(one)}\n`)
      .join('');
    expect((await read(sequence, 'a.geojsons')).footprints).toHaveLength(2);
    const lines = features
      .slice(0, 2)
      .map((one) => JSON.stringify(one))
      .join('\n');
    expect((await read(lines, 'a.geojsonl')).footprints).toHaveLength(2);
  });

  test('of a whole town the outlines nearest to the project are read, else those about the middle', async () => {
    const square = (lon: number, lat: number) => ({
      type: 'Polygon',
      coordinates: [
        [
          [lon, lat],
          [lon + 1e-4, lat],
          [lon + 1e-4, lat + 1e-4],
          [lon, lat],
        ],
      ],
    });
    const features = Array.from({ length: 6000 }, (_, i) =>
      feature({ id: i }, square(7 + (i % 100) * 4e-4, 50 + Math.floor(i / 100) * 3e-4)),
    );
    const bytes = new TextEncoder().encode(JSON.stringify({ type: 'FeatureCollection', features }));
    const at = (place?: { longitudeDeg: number; latitudeDeg: number }) =>
      read(bytes, 'a.geojson', place ? { near: place } : {});
    const corner = await at({ longitudeDeg: 7, latitudeDeg: 50 });
    expect(corner.footprints).toHaveLength(5000);
    expect(corner.footprints[0]!.outer[0]).toEqual([7, 50]);
    const metres = ([x, y]: readonly [number, number]) =>
      Math.hypot((x - 7) * Math.cos((50 * Math.PI) / 180), y - 50) * 111_200;
    const far = features
      .map(({ geometry }) =>
        metres((geometry as ReturnType<typeof square>).coordinates[0]![0] as [number, number]),
      )
      .sort((a, b) => a - b);
    expect(Math.max(...corner.footprints.map(({ outer }) => metres(outer[0]!)))).toBeCloseTo(far[4999]!, 0);
    expect(corner.notes.join(' ')).toMatch(
      /The 1,000 outlines farthest from the place of the project, from [\d,]+ m on, are left out: at most 5,000 are read\./,
    );
    for (const place of [undefined, { longitudeDeg: 20, latitudeDeg: 0 }]) {
      const middle = await at(place);
      expect(middle.notes.join(' ')).toContain('farthest from the middle of the file');
      expect(middle.footprints.some(({ outer }) => outer[0]![0] === 7 && outer[0]![1] === 50)).toBe(false);
    }
  });

  test('Latin-1 is read, and said', async () => {
    const text = JSON.stringify(feature({ name: 'Geb\u00e4ude' }));
    const model = await read(
      Uint8Array.from(text, (c) => c.charCodeAt(0)),
      'a.geojson',
    );
    expect(model.footprints[0]!.name).toBe('Gebäude');
    expect(model.notes.join(' ')).toContain('read as Latin-1');
  });
});

describe('GLB', () => {
  const io = new WebIO();
  function box(): Document {
    const document = new Document();
    const buffer = document.createBuffer();
    const positions = document
      .createAccessor()
      .setType(Accessor.Type.VEC3!)
      .setArray(new Float32Array([0, 0, 0, 2, 0, 0, 2, 0, 2]))
      .setBuffer(buffer);
    const primitive = document.createPrimitive().setAttribute('POSITION', positions);
    const mesh = document.createMesh('m').addPrimitive(primitive);
    document.createScene('s').addChild(document.createNode('n').setMesh(mesh));
    return document;
  }
  /** The file with its description changed. */
  async function changed(change: (json: Record<string, unknown>) => void, document = box()) {
    const bytes = await io.writeBinary(document);
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    const length = view.getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
    change(json);
    const text = JSON.stringify(json);
    const padded = new TextEncoder().encode(text.padEnd(Math.ceil(text.length / 4) * 4));
    const rest = bytes.subarray(20 + length);
    const out = new Uint8Array(20 + padded.length + rest.length);
    out.set(bytes.subarray(0, 20));
    out.set(padded, 20);
    out.set(rest, 20 + padded.length);
    const head = new DataView(out.buffer);
    head.setUint32(8, out.length, true);
    head.setUint32(12, padded.length, true);
    return out;
  }

  test('pictures in other files do not matter; skins and morphs are said; other extensions are named', async () => {
    const model = await read(
      await changed((json) => {
        json.images = [{ uri: 'wood.png' }];
        json.textures = [{ source: 0 }];
        json.materials = [{ pbrMetallicRoughness: { baseColorTexture: { index: 0 } } }];
        json.skins = [{ joints: [0] }];
        json.extensionsRequired = ['KHR_texture_transform'];
        json.extensionsUsed = ['KHR_texture_transform'];
      }),
      'a.glb',
    );
    expect(model.mesh!.triangles).toHaveLength(3);
    expect(model.notes.join(' ')).toContain('1 skins are left out');
    const needing = await changed((json) => {
      json.extensionsRequired = ['KHR_draco_mesh_compression'];
    });
    await expect(read(needing, 'a.glb')).rejects.toThrow('it needs the extension KHR_draco_mesh_compression');
  });

  test('instances stand where their arrays have them', async () => {
    const document = box();
    const buffer = document.getRoot().listBuffers()[0]!;
    const shifts = document
      .createAccessor()
      .setType(Accessor.Type.VEC3!)
      .setArray(new Float32Array([0, 0, 0, 10, 0, 0]))
      .setBuffer(buffer);
    const scales = document
      .createAccessor()
      .setType(Accessor.Type.VEC3!)
      .setArray(new Float32Array([1, 1, 1, 3, 3, 3]))
      .setBuffer(buffer);
    // Kept by the writer because a primitive names them.
    document
      .getRoot()
      .listMeshes()[0]!
      .listPrimitives()[0]!
      .setAttribute('_T', shifts)
      .setAttribute('_S', scales);
    const bytes = await changed((json) => {
      const [primitive] = (
        json as never as { meshes: { primitives: { attributes: Record<string, number> }[] }[] }
      ).meshes[0]!.primitives;
      const { _T, _S, POSITION } = primitive!.attributes;
      primitive!.attributes = { POSITION: POSITION! };
      (json as never as { nodes: Record<string, unknown>[] }).nodes[0]!.extensions = {
        EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: _T, SCALE: _S } },
      };
      json.extensionsRequired = ['EXT_mesh_gpu_instancing'];
      json.extensionsUsed = ['EXT_mesh_gpu_instancing'];
    }, document);
    const { mesh } = await read(bytes, 'a.glb');
    expect(mesh!.triangles).toHaveLength(6);
    expect(Math.max(...mesh!.positions.filter((_, i) => i % 3 === 0))).toBe(16);
  });

  test('quantized corners are read', async () => {
    const document = box();
    const positions = document.getRoot().listAccessors()[0]!;
    positions.setArray(new Int16Array([0, 0, 0, 32767, 0, 0, 32767, 0, 32767])).setNormalized(true);
    const bytes = await changed((json) => {
      json.extensionsRequired = ['KHR_mesh_quantization'];
    }, document);
    expect(Math.max(...(await read(bytes, 'a.glb')).mesh!.positions)).toBeCloseTo(1, 6);
  });
});

describe('STL and OBJ', () => {
  const facet =
    'facet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\n';
  test('capitals, a missing end, a byte-order mark; binary that begins with “solid”, bytes behind it', async () => {
    expect((await read(`SOLID Roof\n${facet.toUpperCase()}ENDSOLID\n`, 'a.stl')).groups[0]!.name).toBe(
      'Roof',
    );
    expect((await read(`solid a\n${facet}`, 'a.stl')).notes.join(' ')).toContain('may be cut off');
    expect((await read(`\ufeffsolid a\n${facet}endsolid\n`, 'a.stl')).mesh!.triangles).toHaveLength(3);
    const binary = new Uint8Array(84 + 50 + 7);
    binary.set(new TextEncoder().encode('solid exported'));
    const view = new DataView(binary.buffer);
    view.setUint32(80, 1, true);
    [0, 0, 0, 5, 0, 0, 0, 5, 0].forEach((v, i) => view.setFloat32(84 + 12 + i * 4, v, true));
    const model = await read(binary, 'a.stl');
    expect(model.mesh!.triangles).toHaveLength(3);
    expect(model.notes).toEqual(['7 bytes behind the last triangle are left out.']);
  });

  test('names in UTF-8, carriage returns alone, a mark, one face that is none', async () => {
    const text = `\ufeffo Geb\u00e4ude \u00df\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2\nf 1 2 3\n`;
    for (const one of [text, text.replace(/\n/g, '\r'), text.replace(/\n/g, '\r\n')]) {
      const model = await read(one, 'a.obj');
      expect(model.groups.map(({ name }) => name)).toEqual(['Gebäude ß']);
      expect(model.mesh!.triangles).toHaveLength(3);
      expect(model.notes).toEqual(['1 face without area is left out.']);
    }
  });
});

test('corners by number: as a list of texts has them; two hundred thousand loose triangles weld', () => {
  const index = new CornerIndex();
  const plain = new Map<string, number>();
  let seed = 7;
  const random = () => (seed = (seed * 48_271) % 2_147_483_647) % 40;
  const other: number[] = [];
  for (let i = 0; i < 60_000; i++) {
    const p = [random(), random() / 7, -random()] as const;
    const key = p.map((v) => v + 0).join();
    if (!plain.has(key)) plain.set(key, plain.size);
    if (index.add(...p) !== plain.get(key)) other.push(i);
  }
  expect(other).toEqual([]);
  expect(index.add(-0, 0, 0)).toBe(index.add(0, 0, -0));
  // A grid of squares, each of its own two triangles: one surface with an edge all round once it is welded.
  const n = 316;
  const positions = new Float64Array(n * n * 18);
  for (let i = 0; i < n * n; i++) {
    const [x, y] = [i % n, Math.floor(i / n)];
    positions.set([x, y, 0, x + 1, y, 0, x + 1, y + 1, 0, x, y, 0, x + 1, y + 1, 0, x, y + 1, 0], i * 18);
  }
  const welded = weldMesh({ positions, triangles: Uint32Array.from({ length: n * n * 6 }, (_, i) => i) });
  expect(welded.positions).toHaveLength((n + 1) * (n + 1) * 3);
  expect(meshFaults(welded)).toEqual({ openEdges: 4 * n, crowdedEdges: 0, turnedEdges: 0, insideOut: false });
});
