import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { dial } from '../testing/dial';

const SAMPLE = 'samples/projects/kelp-lane.json';

const folder = mkdtempSync(join(tmpdir(), 'envelope-'));
afterAll(() => rmSync(folder, { recursive: true }));

test('the envelope of the sample: a line a point, a surface, and figures that go with them', () => {
  const out = join(folder, 'a');
  const { status, stdout } = dial(
    'envelope',
    SAMPLE,
    '--envelope',
    'gardens',
    '--spacing',
    '2',
    '--out',
    out,
    '--json',
  );
  expect(status).toBe(0);
  const summary = JSON.parse(stdout);
  expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toEqual(summary);
  const [head, ...rows] = readFileSync(join(out, 'heights.csv'), 'utf8').trim().split(/\r?\n/);
  expect(head).toBe('x,y,height_m,decided_by,at');
  expect(rows).toHaveLength(summary.points);
  expect(summary.area_m2).toBe(summary.points * 4);
  const levels = rows.map((row) => Number(row.split(',')[2]));
  expect(Math.max(...levels)).toBeGreaterThanOrEqual(summary.highest.level_m - 1e-3);
  expect(summary.reasons.map(({ name }: { name: string }) => name)).toEqual([
    'Allotment garden',
    'Terrace courtyards',
  ]);
  expect(readFileSync(join(out, 'envelope.obj'), 'utf8')).toMatch(/^o Sun_on_gardens_and_courtyards\nv /);
});

test('an option held against it, its proof, and further files', () => {
  const out = join(folder, 'c');
  const more = ['--option', 'b', '--also', 'stl,dxf,geojson,glb', '--prove', '--spacing', '2', '--json'];
  const { status, stdout } = dial('envelope', SAMPLE, '--envelope', 'gardens', ...more, '--out', out);
  expect(status).toBe(0);
  const { breaches, proof } = JSON.parse(stdout);
  expect(proof).toMatchObject({ blocked: 0 });
  expect(proof.raised - proof.shading).toBeLessThanOrEqual(1);
  const [head, ...rows] = readFileSync(join(out, 'breaches.csv'), 'utf8').trim().split(/\r?\n/);
  expect(head).toBe('reason,volume_m3,furthest_m,x,y,level_m,at');
  const volume = rows.reduce((sum, row) => sum + Number(row.split(',')[1]), 0);
  expect(volume).toBeCloseTo(breaches.over_m3 + breaches.outside_m3, 1);
  for (const file of ['envelope.stl', 'envelope.dxf', 'envelope.geojson', 'envelope.glb'])
    expect(readFileSync(join(out, file)).length).toBeGreaterThan(1000);
});

test.each([
  [['--envelope', 'gardens', '--also', 'stl,skp'], '--also takes glb, stl, dxf, geojson, not “skp”'],
  [['--envelope', 'gardens', '--option', 'x'], '“x”'],
  [['--envelope', 'attic'], 'There is no envelope “attic”; there is “Sun on gardens and courtyards”'],
  [['--envelope', 'gardens', '--spacing', 'wide'], '--spacing is a number from 0.05 to 50'],
  [['--envelope', 'gardens', '--spacing', '0.05'], 'This field would have'],
])('%j is refused: %s', (more, sentence) => {
  const { status, stderr } = dial('envelope', SAMPLE, ...more, '--out', join(folder, 'b'));
  expect(status).toBe(1);
  expect(stderr).toContain(sentence);
});
