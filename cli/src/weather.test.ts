import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { dial } from '../testing/dial';

const FILE = join(mkdtempSync(join(tmpdir(), 'dial-')), 'year.epw');
const json = (...args: string[]) => JSON.parse(dial(...args, '--json').stdout);
const RAD = Math.PI / 180;

beforeAll(() => {
  const made = dial(
    ...['make-weather', '--lat', '55.87', '--lon', '-4.32', '--elevation', '12', '--standard-time', '0'],
    ...['--name', 'Orrin Bay', '--seed', '7', '--out', FILE],
  );
  expect(made).toMatchObject({ status: 0, stderr: '' });
});

test('a made-up year says so, and its sums and checks are told', () => {
  expect(readFileSync(FILE, 'utf8').split('\n')[5]).toContain('Made up by Dial Shade with seed 7');
  const found = json('weather', FILE);
  expect(found.place).toEqual({
    name: 'Orrin Bay (made up)',
    latitudeDeg: 55.87,
    longitudeDeg: -4.32,
    standardTimeH: 0,
    elevationM: 12,
  });
  expect(found).toMatchObject({ hours: 8760, begins: '01-01', checks: { unbalancedHours: 0 }, notes: [] });
  // Summed once more from the text itself: columns 13, 14, 15.
  const rows = readFileSync(FILE, 'utf8').trimEnd().split('\n').slice(8);
  (['global', 'beam', 'diffuse'] as const).forEach((key, i) => {
    const sum = rows.reduce((all, row) => all + Number(row.split(',')[13 + i]), 0) / 1000;
    expect(found.sums[key]).toBeCloseTo(sum, 3);
  });
  expect(found.months).toHaveLength(12);
  expect(dial('weather', FILE).stdout).toContain('Orrin Bay (made up): 8760 hours');
});

test.each([
  [1, 145],
  [2, 577],
  [4, 2305],
])('the sky split by %d: %d patches that hold the radiation of the file', (subdivision, count) => {
  const sky = json('sky', '--weather', FILE, '--subdivision', String(subdivision));
  expect(sky.patches).toHaveLength(count);
  const sum = (of: (patch: Record<string, number>) => number) =>
    (sky.patches as Record<string, number>[]).reduce((all, patch) => all + of(patch), 0);
  expect(sum((p) => p.solidAngle!)).toBeCloseTo(2 * Math.PI, 6);
  // On the open level: sky of the patches against the diffuse, beam and sky against the global of the file.
  const { sums } = json('weather', FILE);
  expect(sum((p) => p.sky! * Math.sin(p.altitudeDeg! * RAD)) / sums.diffuse).toBeCloseTo(1, 4);
  expect(sum((p) => p.beam!)).toBeCloseTo(sky.totals.beamNormal, 2);
  expect(sky.totals.globalHorizontal / sums.global).toBeCloseTo(1, 2);
  expect(sky.totals.hours).toBe(8760);
});

test('a window counts its dates and hours only, windows add up, and one over the turn of the year works', () => {
  const sky = (...args: string[]) => json('sky', '--weather', FILE, ...args).totals;
  const morning = sky('--from', '03-21', '--to', '09-21', '--start', '00:00', '--end', '12:30');
  const evening = sky('--from', '03-21', '--to', '09-21', '--start', '12:30', '--end', '24:00');
  const summer = sky('--from', '03-21', '--to', '09-21');
  const winter = sky('--from', '09-22', '--to', '03-20');
  const year = sky();
  for (const key of ['beamNormal', 'diffuseHorizontal', 'hours'] as const) {
    expect(morning[key] + evening[key]).toBeCloseTo(summer[key], 4);
    expect(summer[key] + winter[key]).toBeCloseTo(year[key], 4);
  }
  expect(sky('--from', '06-21', '--to', '06-21', '--start', '10:00', '--end', '12:00').hours).toBe(2);
});

test('kinds that go by the weather run with a file, and are refused without', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dial-'));
  const project = JSON.parse(readFileSync('samples/projects/kelp-lane.json', 'utf8'));
  const [study] = project.studies;
  project.studies = (['insolation', 'probable-sun'] as const).map((kind) => ({
    ...study,
    id: kind,
    name: kind,
    kind,
  }));
  const file = join(folder, 'project.json');
  project.site.weather = null;
  writeFileSync(file, JSON.stringify(project));
  const run = (name: string, ...more: string[]) =>
    dial('run', file, '--study', name, '--out', folder, ...more);
  expect(run('insolation').stderr).toContain('has no weather year');
  for (const [name, head] of [
    ['insolation', 'insolation (kWh/m2),beam (kWh/m2),sky (kWh/m2),ground (kWh/m2),mean per day (kWh/m2)'],
    ['probable-sun', '"probable sun, year (%)","probable sun, winter (%)"'],
  ] as const) {
    expect(run(name, '--weather', FILE)).toMatchObject({ status: 0, stderr: '' });
    const [first] = readFileSync(join(folder, 'sensors.csv'), 'utf8').split('\n');
    expect(first!.startsWith(`x,y,z,nx,ny,nz,area,${head}`)).toBe(true);
    const { kind, values, measure } = JSON.parse(readFileSync(join(folder, 'summary.json'), 'utf8'));
    expect(kind).toBe(name);
    expect(measure.unit).toBe(name === 'insolation' ? 'kWh/m²' : '%');
    expect(values.max).toBeGreaterThan(0);
  }
});

test.each<[string, string[], string]>([
  ['a file that is not there', ['weather', '/nowhere.epw'], 'cannot be read'],
  ['a day that is none', ['sky', '--weather', FILE, '--from', '02-31'], '“02-31” is not a day of the year'],
  ['a time that is none', ['sky', '--weather', FILE, '--start', '25:00'], '“25:00” is not a time of day'],
  [
    'hours that end before they start',
    ['sky', '--weather', FILE, '--start', '12:00', '--end', '09:00'],
    'before they start',
  ],
  ['another split', ['sky', '--weather', FILE, '--subdivision', '3'], 'split into 1, 2 or 4'],
  ['a year far off', ['sky', '--weather', FILE, '--year', '3000'], 'between 1900 and 2100'],
  [
    'a pole beyond the pole',
    ['make-weather', '--lat', '95', '--lon', '0', '--standard-time', '0', '--out', FILE],
    '95',
  ],
])('%s is refused in a sentence', (_, args, sentence) => {
  const { status, stdout, stderr } = dial(...args);
  expect({ status, stdout }).toEqual({ status: 1, stdout: '' });
  expect(stderr).toContain(sentence);
});

test('a file without a place has sums, but no sky', () => {
  const csv = FILE.replace('.epw', '.csv');
  const rows = readFileSync(FILE, 'utf8').trimEnd().split('\n').slice(8);
  const plain = rows.map((row) => [1, 2, 3, 13].map((i) => row.split(',')[i]).join(','));
  writeFileSync(csv, ['month,day,hour,global', ...plain].join('\n'));
  const found = json('weather', csv);
  expect(found.place).toBeNull();
  expect(found.sums.global).toBeCloseTo(json('weather', FILE).sums.global, 6);
  expect(found.missing.beam).toBe(8760);
  expect(dial('sky', '--weather', csv).stderr).toContain('does not say where it was taken');
});
