import fc from 'fast-check';
import { mutations, readOrRefused } from '../../../testing/mutate';
import { emptyProject } from '../../project';
import { writeCityJson } from '../out/city-out';
import { writeGlb } from './glb';
import type { ModelFile } from '../model-file';
import { readModelFile } from './read-model';
import { writeStl } from './stl';
import { writeObj } from '../out/write-option';

const TETRA = {
  positions: Float64Array.of(0, 0, 0, 4, 0, 0, 0, 4, 0, 0, 0, 3),
  triangles: Uint32Array.of(0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3),
};
const PARTS = [
  { name: 'Tetra', mesh: TETRA },
  { name: 'Other', mesh: TETRA },
];
const text = (value: string) => new TextEncoder().encode(value);

const GEOJSON = text(
  JSON.stringify({
    type: 'FeatureCollection',
    features: [
      {
        type: 'Feature',
        properties: { name: 'Shed', height: '12 m', levels: 3 },
        geometry: {
          type: 'Polygon',
          coordinates: [
            [
              [-4.3, 55.8],
              [-4.29, 55.8],
              [-4.29, 55.81],
              [-4.3, 55.8],
            ],
          ],
        },
      },
    ],
  }),
);
const DXF = text(
  [
    '0 SECTION 2 HEADER 9 $INSUNITS 70 4 0 ENDSEC 0 SECTION 2 ENTITIES',
    '0 LWPOLYLINE 8 Plot 90 4 70 1 10 0 20 0 10 9000 20 0 42 0.5 10 9000 20 6000 10 0 20 6000',
    '0 CIRCLE 8 Tank 10 20000 20 0 30 0 40 3000',
    '0 ENDSEC 0 EOF',
  ]
    .join(' ')
    .split(' ')
    .join('\n') + '\n',
);
const STL_TEXT = text(
  'solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n',
);

const sound = (model: ModelFile | null) => {
  if (!model) return;
  if (model.mesh) {
    const { positions, triangles } = model.mesh;
    expect(positions.every(Number.isFinite)).toBe(true);
    expect(triangles.every((i) => i * 3 < positions.length)).toBe(true);
    expect(model.groups.every(({ firstTriangle }) => firstTriangle < triangles.length / 3)).toBe(true);
  }
  for (const { outer } of model.footprints) {
    expect(outer.length).toBeGreaterThanOrEqual(3);
    expect(outer.every(([x, y]) => Number.isFinite(x) && Number.isFinite(y))).toBe(true);
  }
};

const noIfc = () => Promise.reject(new Error('not asked for'));

test.each([
  ['OBJ', 'a.obj', () => writeObj(PARTS)],
  ['STL, binary', 'a.stl', () => writeStl(TETRA)],
  ['STL, text', 'a.stl', () => STL_TEXT],
  ['GLB', 'a.glb', () => writeGlb(PARTS)],
  ['GeoJSON', 'a.geojson', () => GEOJSON],
  [
    'CityJSON',
    'a.json',
    () =>
      writeCityJson(
        [
          {
            ...{ id: 't', name: 'T', mesh: TETRA, layer: 'option', kind: 'building', of: { role: 'body' } },
            ...{ kinds: ['roof', 'wall', 'wall', 'wall'], thing: null, heightM: 3, storeys: 1 },
          },
        ],
        emptyProject('E', 2026),
      ),
  ],
  ['DXF', 'a.dxf', () => DXF],
])(
  '%s: whatever is done to a file, it gives a model or a sentence',
  async (_, name, make) => {
    const valid = await make();
    sound(await readModelFile(valid, name, noIfc));
    await fc.assert(
      fc.asyncProperty(mutations(valid), async (bytes) => {
        sound(await readOrRefused(() => readModelFile(bytes, name, noIfc)));
      }),
      { numRuns: 2000 },
    );
  },
  120_000,
);

test('what is no model at all is refused by name', async () => {
  const refused = async (content: string, name: string) => {
    const bytes = text(content);
    return readModelFile(bytes, name, noIfc).then(
      () => 'read',
      (error: Error) => error.message,
    );
  };
  expect(await refused('hello', 'plan.pdf')).toContain('“plan.pdf” is of no kind that can be read');
  expect(await refused('{}', 'plan.gltf')).toContain('export it as GLB');
  expect(await refused('AC1032', 'plan.DWG')).toContain('save the drawing as DXF');
  expect(await refused('', 'a.obj')).toBe('The file is empty.');
  expect(await refused('{"type":"FeatureCollection","features":[]}', 'a.json')).toContain(
    'holds no polygons',
  );
  expect(await refused('{"a":1}', 'a.json')).toContain('its “type” is not “CityJSON”');
  expect(await refused('[1,2', 'a.geojson')).toContain('does not hold sound JSON');
  expect(
    await refused(`{"type":"Polygon","coordinates":[[[1,1],[600000,200,0],[2,2],[1,1]]]}`, 'a.geojson'),
  ).toContain('which is no longitude and latitude');
  expect(await refused('glTF\u0002', 'a.glb')).toContain('not a sound glTF binary');
  expect(await refused('solid x\nfacet\nouter loop\nvertex 1 2\n', 'a.stl')).toContain(
    'Line 4: a vertex needs three numbers',
  );
  const deep = `{"type":"Feature","geometry":${'['.repeat(5000)}${']'.repeat(5000)}}`;
  expect(await refused(deep, 'a.geojson')).toContain('holds no polygons');
});
