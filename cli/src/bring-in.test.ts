import { emptyProject } from '@dial-shade/core';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { box, drawing, METRES, polyline } from '../../core/testing/drawings';
import { dial } from '../testing/dial';

const folder = mkdtempSync(join(tmpdir(), 'dial-in-'));
const path = (name: string) => join(folder, name);
const EMPTY = path('empty.json');
writeFileSync(EMPTY, JSON.stringify(emptyProject('Empty', 2026)));
const [X, Y] = [691_200, 5_334_500];

const bring = (into: string, file: string, out: string, ...more: string[]) => {
  const { status, stdout, stderr } = dial('bring-in', into, path(file), '--out', path(out), ...more);
  return { status, said: stdout + stderr };
};
const project = (name: string) => JSON.parse(readFileSync(path(name), 'utf8'));

test('a survey: its heights, a drawing with a plot line, a reference and a level, in relation; what floats is asked about', () => {
  const heights = Array.from({ length: 100 }, (_, i) => {
    const [dx, dy] = [(i % 10) * 20, Math.floor(i / 10) * 20];
    return `${X + dx};${Y + dy};${505 + dx / 100}`;
  });
  writeFileSync(path('survey.xyz'), heights.join('\n'));
  const laid = bring(EMPTY, 'survey.xyz', 'laid.json');
  expect(laid).toMatchObject({ status: 0 });
  expect(laid.said).toContain('Heights are told from 505 m of the file on.');
  expect(laid.said).toContain('The ground follows 100 spot heights of “survey”.');
  const { survey } = project('laid.json').site;
  expect(survey).toMatchObject({ z: 505 });

  const entities = [
    polyline('PLAN', box(X + 20, Y + 20, 60, 40)),
    polyline('PLAN', box(X + 30, Y + 30, 12, 10)),
    polyline('PLAN', box(X + 55, Y + 35, 12, 10)),
    polyline('TOWER', box(X + 120, Y + 40, 20, 20), [38, 600]),
  ];
  writeFileSync(path('plan.dxf'), drawing({ header: [METRES], entities }));
  const drawn = bring(path('laid.json'), 'plan.dxf', 'drawn.json', '--as', 'neighbour');
  expect(drawn.said).toContain(
    '“PLAN, round others” goes round what becomes neighbour; it becomes boundary.',
  );
  expect(drawn.said).toContain(
    'No height is known of 3 of 3 outlines: taken as 6 m, the height where none is known.',
  );
  expect(drawn.said).toContain('“TOWER 1” floats');
  const made = project('drawn.json');
  expect(made.neighbours.map(({ name }: { name: string }) => name)).toEqual(['PLAN 2', 'PLAN 3', 'TOWER 1']);
  expect(made.neighbours[2].base).toEqual({ on: 'level', levelM: 95 });
  expect(made.site.boundary[0]).toEqual([X + 20 - survey.x, Y + 20 - survey.y]);
  const check = dial('check', path('drawn.json'));
  expect(check.stdout).toMatch(
    /^“Empty” is sound: .*\nTo look at: “TOWER 1” floats 93\.\d m over the ground/,
  );

  const whole = bring(path('laid.json'), 'plan.dxf', 'courts.json', '--courts', '--as', 'neighbour');
  expect(whole.said).toContain('2 rings within others of their layer are taken as courts.');
  expect(project('courts.json').neighbours).toHaveLength(2);
});

test('heights of outlines by what is asked, and degrees that stand the other way round', () => {
  const house = (i: number, properties: object) => {
    const [lat, lon] = [48.1, 11.5 + i * 0.001];
    const ring = [
      [lat, lon],
      [lat, lon + 0.0003],
      [lat + 0.0002, lon + 0.0003],
      [lat, lon],
    ];
    return { type: 'Feature', properties, geometry: { type: 'Polygon', coordinates: [ring] } };
  };
  const features = [
    house(0, { HEIGHT_FT: '36', n: '4 Geschosse', roof: 118.5, floor: 105 }),
    house(1, { HEIGHT_FT: '12-14', n: 2, roof: 112, floor: 105 }),
  ];
  writeFileSync(path('town.geojson'), JSON.stringify({ type: 'FeatureCollection', features }));
  const placed = JSON.parse(readFileSync(EMPTY, 'utf8'));
  Object.assign(placed.site.place, { latitudeDeg: 48.1, longitudeDeg: 11.5, confirmed: true });
  writeFileSync(path('placed.json'), JSON.stringify(placed));
  const heights = (name: string) =>
    project(name).neighbours.map((n: { storeys: { heightM: number }[] }) =>
      Number(n.storeys.reduce((sum, { heightM }) => sum + heightM, 0).toFixed(4)),
    );
  const into = path('placed.json');
  const likely = bring(into, 'town.geojson', 'a.json');
  expect(likely.said).toContain(
    'Latitude seems to stand before longitude: so the file lies 0 km from the project',
  );
  expect(likely.said).toContain('Not understood as heights: “12-14”');
  expect(heights('a.json')).toEqual([10.9728, 6]);
  bring(into, 'town.geojson', 'b.json', '--storeys-property', 'n', '--storey-height', '3.5');
  expect(heights('b.json')).toEqual([14, 7]);
  bring(into, 'town.geojson', 'c.json', '--roof-property', 'roof', '--ground-property', 'floor');
  expect(heights('c.json')).toEqual([13.5, 7]);
  const refused: [string[], string][] = [
    [['--no-latitude-first'], 'lies more than 50 km from the place'],
    [['--roof-property', 'roof'], 'A level of the roof needs one of the ground beside it'],
    [['--height-property', 'n', '--storeys-property', 'n'], 'Heights come from one of'],
    [['--ground-property', 'nothing'], 'No outline has a property “nothing”'],
  ];
  for (const [options, sentence] of refused) {
    const answer = bring(into, 'town.geojson', 'd.json', ...options);
    expect([answer.status, answer.said]).toEqual([1, expect.stringContaining(sentence)]);
  }
});

test('read again: the same file doubles nothing, a changed one takes the place of what it brought in, layers are remembered', () => {
  const plan = (houses: number[], height: number, paved = 'PAVING') =>
    drawing({
      header: [METRES],
      entities: [
        ...houses.map((x) => polyline('HOUSES', box(x, 0, 10, 8), [39, height])),
        polyline(paved, box(0, -20, 60, 12)),
      ],
    });
  writeFileSync(path('block.dxf'), plan([0, 30, 60], 6));
  const first = bring(EMPTY, 'block.dxf', 'block-1.json', '--part', 'outline:PAVING=area');
  expect(first).toMatchObject({ status: 0 });
  const before = project('block-1.json');
  expect([before.neighbours.length, before.areas.length]).toEqual([3, 1]);
  const twice = bring(path('block-1.json'), 'block.dxf', 'block-2.json');
  expect(twice.said).toContain('“block.dxf” is read again: “block.dxf” was brought in before');
  expect(twice.said).toContain('Nothing has changed in it: 4 parts are as they were.');
  expect(twice.said).toContain('“PAVING” becomes area, as it did before.');
  expect(project('block-2.json').neighbours).toEqual(before.neighbours);

  writeFileSync(path('block.dxf'), plan([-30, 0, 30], 6));
  const next = bring(path('block-1.json'), 'block.dxf', 'block-3.json');
  for (const said of [
    '3 parts are as they were and stay untouched.',
    '1 part is new: “HOUSES 1”.',
    '1 part is no longer in the file and taken out: “HOUSES 3”.',
  ])
    expect(next.said).toContain(said);
  const kept = project('block-3.json').neighbours.map(({ id }: { id: string }) => id);
  expect(kept.slice(0, 2)).toEqual(before.neighbours.slice(0, 2).map(({ id }: { id: string }) => id));
  expect(kept).toHaveLength(3);
  const all = bring(path('block-1.json'), 'block.dxf', 'block-4.json', '--keep-gone');
  expect(all.said).toContain('no longer in the file and kept');
  expect(project('block-4.json').neighbours).toHaveLength(4);
  const beside = bring(path('block-1.json'), 'block.dxf', 'block-5.json', '--beside');
  expect(beside.said).toContain('“block.dxf” was brought in before; this comes in beside it.');
  expect(project('block-5.json').neighbours).toHaveLength(6);
  expect(project('block-5.json').sources).toHaveLength(2);
  // Another drawing of the same name puts nothing out unasked.
  writeFileSync(path('block.dxf'), plan([500, 530], 6, 'OTHER'));
  const other = bring(path('block-1.json'), 'block.dxf', 'block-6.json', '--part', 'outline:OTHER=leave');
  expect([other.status, other.said]).toEqual([
    1,
    expect.stringContaining('none of its 4 parts is in this file'),
  ]);
  const asked = ['--part', 'outline:OTHER=leave', '--again'];
  expect(bring(path('block-1.json'), 'block.dxf', 'block-6.json', ...asked).status).toBe(0);
  expect(project('block-6.json').neighbours).toHaveLength(2);
});
