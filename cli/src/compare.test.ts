import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { dial } from '../testing/dial';

const folder = mkdtempSync(join(tmpdir(), 'dial-'));
const SAMPLE = 'samples/projects/kelp-lane.json';
const TERRACE = ['--study', 'terrace-sky'];
const rows = (...path: string[]) =>
  readFileSync(join(folder, ...path), 'utf8')
    .trim()
    .split('\n')
    .map((row) => row.split(','));

/** What `run` finds of the terrace under an option: sky component by sensor, and its mean by area. */
function runOf(option: string) {
  expect(dial('run', SAMPLE, ...TERRACE, '--option', option, '--out', join(folder, option)).status).toBe(0);
  const [head, ...sensors] = rows(option, 'sensors.csv');
  const [at, area] = [head!.indexOf('vsc (%)'), head!.indexOf('area')];
  expect(at).toBeGreaterThan(0);
  const values = sensors.map((row) => Number(row[at]));
  const areas = sensors.map((row) => Number(row[area]));
  const whole = areas.reduce((a, b) => a + b, 0);
  return { values, mean: values.reduce((sum, value, i) => sum + value * areas[i]!, 0) / whole };
}

describe('a study before and after', () => {
  const [before, after] = [
    { values: [] as number[], mean: 0 },
    { values: [] as number[], mean: 0 },
  ];

  beforeAll(() => {
    Object.assign(before, runOf('today'));
    Object.assign(after, runOf('b'));
  });

  test('says of each sensor and each place what two runs say', () => {
    const { status, stdout } = dial(
      'compare',
      SAMPLE,
      ...TERRACE,
      '--after',
      'b',
      '--out',
      join(folder, 'both'),
    );
    expect(status).toBe(0);
    const [head, ...sensors] = rows('both', 'sensors.csv');
    expect(head!.slice(-3)).toEqual(['before', 'after', 'difference']);
    expect(sensors).toHaveLength(before.values.length);
    sensors.forEach((row, i) => {
      const [was, is, change] = row.slice(-3).map(Number) as [number, number, number];
      expect(was).toBeCloseTo(before.values[i]!, 3);
      expect(is).toBeCloseTo(after.values[i]!, 3);
      expect(change).toBeCloseTo(is - was, 3);
    });
    const [, [name, was, is, change, ratio, pass]] = rows('both', 'windows.csv') as [string[], string[]];
    expect(name).toBe('Terrace fronts');
    expect(Number(was)).toBeCloseTo(before.mean, 2);
    expect(Number(is)).toBeCloseTo(after.mean, 2);
    expect(Number(change)).toBeCloseTo(after.mean - before.mean, 2);
    expect(Number(ratio)).toBeCloseTo(after.mean / before.mean, 3);
    expect(pass).toBe(String(after.mean >= 27 || after.mean >= 0.8 * before.mean));
    const summary = JSON.parse(readFileSync(join(folder, 'both', 'summary.json'), 'utf8'));
    expect(summary).toMatchObject({ kind: 'vsc', before: 'today', after: 'b', places: 1 });
    expect(summary.passing + summary.failing).toBe(1);
    expect(stdout).toContain('“Terrace fronts”');
  });

  test('an option against itself loses nothing', () => {
    const out = join(folder, 'same');
    expect(dial('compare', SAMPLE, ...TERRACE, '--before', 'b', '--after', 'b', '--out', out).status).toBe(0);
    for (const row of rows('same', 'sensors.csv').slice(1)) expect(Number(row.at(-1))).toBe(0);
    expect(Number(rows('same', 'windows.csv')[1]![4])).toBe(1);
  });

  test('what arrives and what is taken make the open sky, by owner and by storey', () => {
    expect(dial('takes', SAMPLE, ...TERRACE, '--option', 'b', '--out', join(folder, 'takers')).status).toBe(
      0,
    );
    const [head, ...takers] = rows('takers', 'takers.csv');
    expect(head).toEqual(['owner', 'name', 'layer', 'storey', 'takes', 'without']);
    const wholes = takers.filter((row) => row[3] === '');
    const parted = join(folder, 'parted');
    const asked = ['takes', SAMPLE, ...TERRACE, '--option', 'b', '--out', parted, '--csv'];
    expect(dial(...asked, 'semicolon').status).toBe(0);
    const text = readFileSync(join(parted, 'takers.csv'), 'utf8');
    expect(text.startsWith('\uFEFFowner;name;layer;storey;takes;without\n')).toBe(true);
    expect(
      text
        .slice(1)
        .trimEnd()
        .split('\n')
        .map((line) => line.split(';')),
    ).toEqual([head, ...takers]);
    expect(dial(...asked, 'tabs')).toMatchObject({
      status: 1,
      stderr: expect.stringContaining('plain, comma, semicolon'),
    });
    const takes = (all: readonly string[][]) => all.reduce((sum, row) => sum + Number(row[4]), 0);
    // What arrives and what each takes as the first is what an open wall has: (π/2 + 4/3) · 3/(7π).
    expect(after.mean + takes(wholes)).toBeCloseTo(((Math.PI / 2 + 4 / 3) * 300) / (7 * Math.PI), 1);
    // Without any of them there is no less, and no more than it takes: what stands behind it may take it then.
    for (const row of takers) {
      expect(Number(row[5])).toBeGreaterThanOrEqual(after.mean - 0.001);
      expect(Number(row[5])).toBeLessThanOrEqual(after.mean + Number(row[4]) + 0.001);
    }
    const parts = wholes.map((row) => Number(row[4]));
    expect(parts).toEqual([...parts].sort((x, y) => y - x));
    // The storeys of the ring make the ring.
    const storeys = takers.filter(([owner, , , storey]) => owner === 'ring' && storey !== '');
    expect(takes(storeys)).toBeCloseTo(Number(wholes.find(([owner]) => owner === 'ring')![4]), 2);
    // Without the new ring there is what there was, but for what stood on its site.
    const ring = wholes.find(([owner]) => owner === 'ring')!;
    expect(ring[2]).toBe('option');
    expect(Number(ring[5])).toBeGreaterThanOrEqual(before.mean - 0.01);
  });
});

test('run writes the further files that are asked for, and no others', () => {
  const out = join(folder, 'also');
  const study = ['--study', 'courtyards-march', '--option', 'c'];
  expect(dial('run', SAMPLE, ...study, '--also', 'geojson,glb,svg', '--out', out).status).toBe(0);
  expect(readdirSync(out).sort()).toEqual(
    ['cells.geojson', 'cells.glb', 'map.svg', 'sensors.csv', 'summary.json'].sort(),
  );
  const { features } = JSON.parse(readFileSync(join(out, 'cells.geojson'), 'utf8'));
  const sensors = rows('also', 'sensors.csv').length - 1;
  expect(features).toHaveLength(sensors);
  expect(readFileSync(join(out, 'cells.glb')).subarray(0, 4).toString('latin1')).toBe('glTF');
  expect(readFileSync(join(out, 'map.svg'), 'utf8')).toContain('</svg>');

  const none = join(folder, 'none');
  const refused = dial('run', SAMPLE, ...study, '--also', 'pdf', '--out', none);
  expect(refused).toMatchObject({ status: 1, stdout: '' });
  expect(refused.stderr).toContain('“pdf” is no further file');
  expect(existsSync(none)).toBe(false);
});

test('compare --all writes every option by every measure, the same figures as a run has', () => {
  const out = join(folder, 'all');
  const project = JSON.parse(readFileSync('samples/projects/kelp-lane.json', 'utf8'));
  project.studies = project.studies.filter(
    ({ name }: { name: string }) => name === 'Sky light of the terrace',
  );
  const bar = project.options.find(({ id }: { id: string }) => id === 'a');
  bar.schemes = bar.schemes.filter(({ id }: { id: string }) => id === 'overhangs');
  project.options = project.options.filter(({ id }: { id: string }) => id !== 'c');
  const file = join(folder, 'few.json');
  writeFileSync(file, JSON.stringify(project));
  const { status, stdout } = dial('compare', file, '--all', '--out', out);
  expect(status).toBe(0);
  expect(stdout).toContain('3 options by');
  const { options } = JSON.parse(readFileSync(join(out, 'comparison.json'), 'utf8'));
  const id = project.studies[0].id;
  const run = join(folder, 'one');
  expect(dial('run', file, '--study', id, '--option', 'b', '--out', run).status).toBe(0);
  const { criterion, values } = JSON.parse(readFileSync(join(run, 'summary.json'), 'utf8'));
  const b = options.find(({ letter }: { letter: string }) => letter === 'B').values;
  expect(b[`study/${id}/share`]).toBeCloseTo(criterion.share * 100, 4);
  expect(b[`study/${id}/mean`]).toBeCloseTo(values.mean, 4);
  expect(b['envelope/gardens/over']).toBeGreaterThan(100);
  expect(b.floor).toBe(1968);
  const lines = readFileSync(join(out, 'comparison.csv'), 'utf8').trim().split(/\r?\n/);
  expect(lines).toHaveLength(1 + options.length);
  expect(dial('compare', file, '--out', out).stderr).toContain('or ask for --all');
  const wide = join(folder, 'wide');
  expect(dial('compare', file, '--all', '--schemes', '--rooms', 'new', '--out', wide).status).toBe(0);
  const all = JSON.parse(readFileSync(join(wide, 'comparison.json'), 'utf8')).options;
  const find = (id: string) => all.find((one: { id: string }) => one.id === id);
  expect(all.length).toBeGreaterThan(options.length);
  expect(find('b').values[`study/${id}/share`]).toBe(b[`study/${id}/share`]);
  expect(find('a~overhangs').values['rooms/solar']).toBeLessThan(find('a').values['rooms/solar']);
  expect(find('a~overhangs').values.floor).toBe(find('a').values.floor);
  expect(dial('compare', file, '--all', '--rooms', 'ruin', '--out', out).stderr).toContain(
    'There is no preset “ruin”; there are new',
  );
});

test('a folder that cannot be made is said, for every command that writes one', () => {
  const file = join(folder, 'a-file');
  writeFileSync(file, '');
  for (const args of [
    ['run', SAMPLE, ...TERRACE],
    ['compare', SAMPLE, ...TERRACE, '--after', 'b'],
    ['takes', SAMPLE, ...TERRACE],
  ]) {
    const { status, stderr } = dial(...args, '--out', join(file, 'below'));
    expect({ args, status }).toEqual({ args, status: 1 });
    expect(stderr).toContain('cannot be made');
  }
});
