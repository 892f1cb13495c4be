import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { dial } from '../testing/dial';

const folder = mkdtempSync(join(tmpdir(), 'dial-'));
const SAMPLE = 'samples/projects/kelp-lane.json';
const WINDOW = 'bar/treatment.wall-0-0-0.1';
const AT = ['--at', '2026-06-21T12:30', '--at', '2026-06-21T15:00'];
const asked = (...more: string[]) => ['--option', 'A', '--opening', WINDOW, ...AT, ...more];

/** The sample with the depth of the overhang of its bar. */
function withDepth(depthM: number): string {
  const file = JSON.parse(readFileSync(SAMPLE, 'utf8'));
  const option = file.options.find(({ id }: { id: string }) => id === 'a');
  option.scheme = 'overhangs';
  option.schemes.find(({ id }: { id: string }) => id === 'overhangs').devices[0].make.depthM = depthM;
  const path = join(folder, `deep-${depthM}.json`);
  writeFileSync(path, JSON.stringify(file));
  return path;
}

test('what size finds, device measures: the goal is met, and 2 % less does not do', () => {
  const goal = ['--goal', '85', '--each'];
  const sized = dial(
    'size',
    SAMPLE,
    ...asked('--scheme', 'Overhangs', '--device', 'overhang', ...goal, '--json'),
  );
  expect(sized.status).toBe(0);
  const { value, met, found, without, moments } = JSON.parse(sized.stdout);
  expect([met, moments]).toEqual([true, 2]);
  const shaded = (depthM: number) => {
    const { stdout } = dial('device', withDepth(depthM), ...asked('--json'));
    const { scheme, openings } = JSON.parse(stdout);
    expect(scheme).toBe('Overhangs');
    return openings[0].moments.map((m: { in_sun: number; in_sun_without: number }) => [
      1 - m.in_sun,
      1 - m.in_sun_without,
    ]);
  };
  const enough = shaded(value);
  expect(Math.min(...enough.map(([share]: [number]) => share))).toBeCloseTo(found.least.shaded, 3);
  for (const [share] of enough) expect(share).toBeGreaterThanOrEqual(0.85 - 1e-3);
  expect(Math.min(...shaded(value * 0.98).map(([share]: [number]) => share))).toBeLessThan(0.85);
  expect((enough[0][1] + enough[1][1]) / 2).toBeCloseTo(without.shaded, 4);
});

test('no devices, all openings, and a year of gains that devices only lessen', () => {
  const weather = join(folder, 'year.epw');
  const made = ['--lat', '55.87', '--lon', '-4.32', '--standard-time', '0', '--out', weather];
  expect(dial('make-weather', ...made).stderr).toBe('');
  const one = dial(
    'device',
    SAMPLE,
    '--option',
    'A',
    '--scheme',
    'louvres',
    '--opening',
    WINDOW,
    '--weather',
    weather,
    '--json',
  );
  expect(one.stderr).toBe('');
  const [{ gains, devices, moments }] = JSON.parse(one.stdout).openings;
  expect(moments).toEqual([]);
  // tan VSA = (0.2 − 0.01 − 0.2 sin 20°) / (0.2 cos 20°).
  const tilt = (20 * Math.PI) / 180;
  const tan = (0.19 - 0.2 * Math.sin(tilt)) / (0.2 * Math.cos(tilt));
  expect(devices[0].cut_off_vsa_deg).toBeCloseTo((Math.atan(tan) * 180) / Math.PI, 6);
  expect(gains.with.kWh).toBeGreaterThan(0);
  expect(gains.with.kWh).toBeLessThan(gains.without.kWh);
  const sum = gains.with.months.reduce((all: number, month: number) => all + month, 0);
  expect(sum / gains.with.kWh).toBeCloseTo(1, 4);
  gains.with.months.forEach((month: number, m: number) =>
    expect(month).toBeLessThanOrEqual(gains.without.months[m] + 1e-6),
  );
  const bare = dial('device', SAMPLE, '--option', 'A', '--opening', 'all', ...AT);
  expect(bare.stdout).toMatch(/81\.\d % of the glass in sun, 81\.\d % without devices/);
});

test('a year of a room: its hours, and what devices change of it', () => {
  const out = join(folder, 'room');
  const asked = ['room', SAMPLE, '--option', 'A', '--scheme', 'overhangs', '--room', 'bar/0/1', '--out', out];
  const { status, stdout } = dial(...asked, '--assume', 'internalWm2=6', '--assume', 'mass=heavy');
  expect(status).toBe(0);
  expect(stdout).toContain('h over 26 °C without cooling; without devices');
  const [head, ...hours] = readFileSync(join(out, 'hours.csv'), 'utf8').trim().split('\n');
  expect(head).toBe('hour,outdoor_c,beam_w,sky_w,ground_w,inside_c,heating_w,cooling_w');
  expect(hours).toHaveLength(8760);
  expect(hours[0]!.startsWith('01-01 00:00,')).toBe(true);
  expect(hours.at(-1)!.startsWith('12-31 23:00,')).toBe(true);
  const summary = JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'));
  const column = (n: number) => hours.reduce((sum, row) => sum + Number(row.split(',')[n]), 0) / 1000;
  expect(column(6) / summary.heatingKWh).toBeCloseTo(1, 3);
  expect(column(7) / summary.coolingKWh).toBeCloseTo(1, 3);
  expect((column(2) + column(3) + column(4)) / summary.solarKWh).toBeCloseTo(1, 3);
  expect(summary.assumed).toMatchObject({ internalWm2: 6, mass: 'heavy', wallU: 0.2 });
  expect(summary.coolingKWh).toBeLessThan(summary.withoutDevices.coolingKWh);
  expect(summary.heatingKWh).toBeGreaterThan(summary.withoutDevices.heatingKWh);
  // Conductances of the envelope that it tells.
  expect(summary.hVentilation).toBeCloseTo(0.33 * 0.6 * summary.volumeM3, 6);
  expect(summary.hWindows).toBeCloseTo(1.1 * summary.windowsM2, 6);
});

test.each([
  [['device', SAMPLE, '--option', 'A', '--opening', 'all'], 'Ask for moments'],
  [
    ['device', SAMPLE, ...asked('--scheme', 'Blinds')],
    'There is no scheme “Blinds” in this option; it has “Overhangs”',
  ],
  [['device', SAMPLE, '--option', 'A', '--opening', 'gate', ...AT], 'There is no glazed opening “gate”'],
  [
    ['size', SAMPLE, ...asked('--device', 'overhang')],
    'No scheme of devices stands in this option, so there is no device “overhang”',
  ],
  [
    ['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'fin', '--number', 'tilt')],
    'it has depthM, gapM',
  ],
  [
    ['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'fin', '--goal', '101')],
    '--goal is a number from 0.1 to 100',
  ],
  [
    ['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'fin', '--from', '2', '--to', '1')],
    '--to 1 is not above --from 2',
  ],
  [
    ['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'fin', '--hours', 'Siesta')],
    'There is no set of hours “Siesta”',
  ],
  [
    ['size', SAMPLE, '--option', 'A', '--opening', 'all', ...AT, '--scheme', 'fins', '--device', 'fin'],
    'openings; name one of them',
  ],
  [
    ['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'awning')],
    'There is no device “awning” in the scheme “Fins”; it has “Fin',
  ],
  [['size', SAMPLE, ...asked('--scheme', 'fins', '--device', 'fin', '--from', '-1')], '--from -1: '],
  [['room', SAMPLE, '--room', 'Attic', '--out', folder], 'There is no room “Attic”'],
  [['room', SAMPLE, '--option', 'A', '--room', 'Room 2.1', '--out', folder], 'rooms; name one by its key'],
  [['room', SAMPLE, '--room', 'x', '--preset', 'ideal', '--out', folder], 'There is no preset “ideal”'],
  [['room', SAMPLE, '--room', 'x', '--assume', 'wall=2', '--out', folder], '“wall=2” assumes nothing'],
  [['room', SAMPLE, '--room', 'x', '--assume', 'wallU=-2', '--out', folder], 'is a number from 0 to 1000'],
])('%j is refused in a sentence', (args, sentence) => {
  const { status, stderr } = dial(...args);
  expect(status).toBe(1);
  expect(stderr).toContain(sentence);
});

test('where the sun never reaches a window in the moments asked about there is nothing to size', () => {
  const night = ['--option', 'A', '--opening', WINDOW, '--at', '2026-06-21T01:00'];
  const of = ['size', SAMPLE, ...night, '--scheme', 'fins', '--device', 'fin'];
  expect(dial(...of).stdout).toContain('The sun never reaches');
  const answer = JSON.parse(dial(...of, '--json').stdout);
  expect(answer).toMatchObject({ met: null, value: null, moments: 0 });
});

test('a sweep: a row a candidate, the front marked, deeper never keeps out less', () => {
  const out = join(folder, 'sweep');
  const of = ['--option', 'A', '--opening', WINDOW, '--scheme', 'Overhangs', '--device', 'overhang'];
  const free = ['--free', 'depthM=0.2:1.4:4', '--free', 'aboveM=0:0.4:2'];
  const { status, stdout } = dial('sweep', SAMPLE, ...of, ...free, '--out', out, '--json');
  expect(status).toBe(0);
  const summary = JSON.parse(stdout);
  expect(summary).toMatchObject({ option: 'a', opening: WINDOW, unit: 'kWh', candidates: 8, left_out: 0 });
  expect(JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'))).toEqual(summary);
  const [head, ...rows] = readFileSync(join(out, 'candidates.csv'), 'utf8').trim().split('\n');
  expect(head!.trim()).toBe(
    'depthM,aboveM,unwanted_kept_out,wanted_let_in,sky_let_in,front_wanted,front_sky,unwanted_error,wanted_error,sky_error',
  );
  const values = rows.map((row) => row.split(',').map(Number));
  expect(values).toHaveLength(8);
  for (const above of [0, 0.4]) {
    const deep = values.filter(([, aboveM]) => aboveM === above);
    expect(deep.map(([depthM]) => depthM)).toEqual([0.2, 0.6, 1, 1.4]);
    for (const [i, [, , keptOut, letIn, sky]] of deep.entries()) {
      if (i === 0) continue;
      expect(keptOut).toBeGreaterThanOrEqual(deep[i - 1]![2]!);
      expect(letIn).toBeLessThanOrEqual(deep[i - 1]![3]!);
      expect(sky).toBeLessThanOrEqual(deep[i - 1]![4]!);
    }
  }
  expect(summary.without.unwanted_kept_out).toBeLessThan(values[0]![2]!);
  for (const [wish, said] of [
    ['depthM=0.2:1.4:3001', 'at most'],
    ['depthM=1:0.2:4', '--free is written as'],
    ['slatM=0.1:0.2:3', 'has no number “slatM”'],
  ] as const) {
    const more = wish.includes('3001') ? ['--free', 'sideM=0:1:3001'] : [];
    const refused = dial('sweep', SAMPLE, ...of, '--free', wish, ...more, '--out', out);
    expect(refused.status).toBe(1);
    expect(refused.stderr).toContain(said);
  }
});

test('a sweep with other kinds beside it, and two numbers sized together', () => {
  const out = join(folder, 'beside');
  const of = ['--option', 'A', '--opening', WINDOW, '--scheme', 'Overhangs', '--device', 'overhang'];
  const wish = ['--free', 'aboveM=0:0.4:2', '--beside', 'fins:depthM=0.2:0.8:3', '--out', out];
  const { status, stderr } = dial('sweep', SAMPLE, ...of, ...wish);
  expect([status, stderr]).toEqual([0, '']);
  const rows = readFileSync(join(out, 'candidates.csv'), 'utf8').trim().split(/\r?\n/);
  expect(rows[0]).toMatch(/^kind,aboveM,depthM,unwanted_kept_out/);
  expect(rows.slice(1).map((row) => row.split(',').slice(0, 2).join())).toEqual([
    'overhang,0',
    'overhang,0.4',
    ...Array.from({ length: 3 }, () => 'fins,0'),
  ]);
  for (const [beside, said] of [
    ['sail:depthM=0:1:3', '--beside names a kind of device'],
    ['fins:slatM=0.1:1:3', 'has no number “slatM”'],
  ]) {
    const refused = dial(
      'sweep',
      SAMPLE,
      ...of,
      '--free',
      'depthM=0.2:1:2',
      '--beside',
      beside!,
      '--out',
      out,
    );
    expect([refused.status, refused.stderr.includes(said!)]).toEqual([1, true]);
  }
  const size = (...more: string[]) =>
    dial('size', SAMPLE, ...of, '--at', '2026-06-21T15:00', '--goal', '70', ...more, '--json');
  const both = JSON.parse(size('--second', 'sideM').stdout);
  expect(both).toMatchObject({ met: true, second: { number: 'sideM' } });
  expect(both.found.shaded).toBeGreaterThanOrEqual(0.7 - 1e-5);
  expect(size('--second', 'depthM').stderr).toContain('is free already');
  expect(size('--second', 'sideM', '--second-from', '2', '--second-to', '1').stderr).toContain(
    'is not above',
  );
});

test('a device sized for a room: the depth of the sun, then no sun on the desk', () => {
  const of = ['--option', 'A', '--room', 'Treatment room 2', '--scheme', 'Overhangs', '--device', 'overhang'];
  const when = ['--at', '2026-04-21T13:00', '--at', '2026-05-21T13:00'];
  const size = (...more: string[]) => dial('size', SAMPLE, ...of, ...when, ...more, '--json');
  const { stdout, status } = size('--deepest', '2');
  expect(status).toBe(0);
  const found = JSON.parse(stdout);
  expect(found).toMatchObject({ met: true, moments: 2, number: 'depthM' });
  expect(found.found.depth_m).toBeLessThanOrEqual(2 + 1e-5);
  expect(found.without.depth_m).toBeGreaterThan(2);
  // What `rooms` measures with the device of that depth.
  const rooms = dial(
    'rooms',
    withDepth(found.value),
    '--option',
    'A',
    '--room',
    'Treatment room 2',
    ...when,
    '--json',
  );
  const depths = [...rooms.stdout.matchAll(/"depth(?:_m|M)": ([\d.]+)/g)].map(([, value]) => Number(value));
  expect(Math.max(...depths)).toBeCloseTo(found.found.depth_m, 3);
  const desk = JSON.parse(size('--furniture').stdout);
  expect(desk.found.lit_m2 ?? 0).toBeLessThanOrEqual(desk.without.lit_m2);
  expect(size('--furniture', '--deepest', '2').stderr).toContain('Ask for one of');
  expect(size().stderr).toContain('Ask for one of');
});

test('so little sun of a set of hours on the glass', () => {
  const of = ['--option', 'A', '--opening', WINDOW, '--scheme', 'Overhangs', '--device', 'overhang'];
  const size = (...more: string[]) => dial('size', SAMPLE, ...of, '--hours', 'Too warm', ...more, '--json');
  const { value, met, found, whole_kwh: whole } = JSON.parse(size('--at-most', '250').stdout);
  expect(met).toBe(true);
  expect(whole).toBeGreaterThan(500);
  expect(whole * (1 - found.shaded)).toBeLessThanOrEqual(250.01);
  const less = JSON.parse(
    size('--from', String(value * 0.98), '--to', String(value * 0.98 + 1e-4), '--at-most', '250').stdout,
  );
  expect(less.met).toBe(false);
  expect(dial('size', SAMPLE, ...of, ...AT, '--at-most', '250').stderr).toContain('name it with --hours');
});
