import { ifcReader } from '../../../testing/ifc-reader';
import { bring } from '../../../testing/model-files';
import { SMALL_IFC } from '../../../testing/small-ifc';
import { signedArea } from '../../geometry';
import { modelRows } from '../model-rows';
import { readModelFile } from './read-model';

const read = (text: string) => readModelFile(new TextEncoder().encode(text), 'a.ifc', ifcReader);
const without = (...numbers: number[]) =>
  SMALL_IFC.split('\n')
    .filter((line) => !numbers.some((number) => line.startsWith(`#${number}=`)))
    .join('\n');

test('the elevation of the site is in the unit of the file', async () => {
  expect((await read(SMALL_IFC)).site!.elevationM).toBeCloseTo(12.5, 9);
  const inFeet = SMALL_IFC.replace(
    '#6=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);',
    "#6=IFCCONVERSIONBASEDUNIT(#90,.LENGTHUNIT.,'FOOT',#91);\n#90=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);\n#91=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(0.3048),#92);\n#92=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);",
  ).replace('12500.,$,$);', '100.,$,$);');
  expect((await read(inFeet)).site!.elevationM).toBeCloseTo(30.48, 9);
});

test('a file of spaces only gives rooms; a column in a hall does not stand for it', async () => {
  const spaces = await read(without(36, 46, 70));
  expect(spaces.mesh).toBeNull();
  expect(spaces.rooms.map(({ name }) => name)).toEqual(['Treatment room']);
  const polyline = (from: number, points: [number, number][]) => [
    ...points.map(([x, y], i) => `#${from + 1 + i}=IFCCARTESIANPOINT((${x}.,${y}.));`),
    `#${from}=IFCPOLYLINE((${[...points.keys(), 0].map((i) => `#${from + 1 + i}`).join()}));`,
  ];
  const hall = SMALL_IFC.replace(
    /#62=.*;/,
    [
      '#62=IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#100,(#110));',
      ...polyline(100, [
        [0, 0],
        [9000, 0],
        [9000, 6000],
        [0, 6000],
      ]),
      ...polyline(110, [
        [4000, 3000],
        [4300, 3000],
        [4300, 3300],
        [4000, 3300],
      ]),
    ].join('\n'),
  );
  const [room] = (await read(hall)).rooms;
  expect(Math.abs(signedArea(room!.outline))).toBeCloseTo(54, 4);
  expect(room!.holes!.map((ring) => Math.abs(signedArea(ring)))).toEqual([expect.closeTo(0.09, 4)]);
});

test('older schemas are named; a byte-order mark does not matter', async () => {
  await expect(read(SMALL_IFC.replace("'IFC4'", "'IFC2X2_FINAL'"))).rejects.toThrow(
    'The file is of schema IFC2X2_FINAL',
  );
  expect((await read(`\ufeff${SMALL_IFC}`)).groups).toHaveLength(2);
});

test('a map conversion places the file by its system: the project takes its place, turned as the map has it', async () => {
  const mapped = SMALL_IFC.replace(
    'ENDSEC;\nEND-ISO',
    "#80=IFCPROJECTEDCRS('EPSG:25832',$,$,$,$,$,$);\n#81=IFCMAPCONVERSION(#13,#80,691234.,5334567.,515.,0.8,0.6,1.);\nENDSEC;\nEND-ISO",
  );
  const model = await read(mapped);
  expect(model.system).toBe('EPSG:25832');
  const { positions } = model.mesh!;
  expect(Math.min(...positions.filter((_, i) => i % 3 === 0))).toBeGreaterThan(691_000);
  const { project, meshes } = bring(model);
  expect(project.site.place.latitudeDeg).toBeCloseTo(48.135, 2);
  expect(project.site.survey).toMatchObject({ z: 515, system: 'EPSG:25832' });
  const reach = Math.max(...meshes.flatMap((mesh) => [...mesh.positions].map(Math.abs)));
  expect(reach).toBeLessThan(10);
});

test('the site of a file is terrain, whatever it is called', async () => {
  const site = SMALL_IFC.replace(
    /#16=IFCSITE\(.*?,#15,\$,/,
    "#16=IFCSITE('1YvctVUKr0kugbFTf53O9L',#5,'Our plot',$,$,#15,#35,",
  );
  const row = modelRows(await read(site)).find(({ key }) => key === 'kind:site');
  expect(row).toMatchObject({ likely: 'terrain' });
});
