import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMALL_IFC } from '../../core/testing/small-ifc';
import { dial } from '../testing/dial';
import { spawnSync } from 'node:child_process';

const folder = mkdtempSync(join(tmpdir(), 'dial-'));
const SAMPLE = 'samples/projects/kelp-lane.json';
const PLACE = ['--lat', '-33.1', '--lon', '-70.9'];

test('sun gives a row for every instant, in order', () => {
  const { status, stdout } = dial(
    'sun',
    ...PLACE,
    '--elevation',
    '500',
    '--at',
    '2026-06-21T16:00:00Z',
    '--at',
    '2026-06-21T12:00:00-04:00',
    '--json',
  );
  expect(status).toBe(0);
  const rows = JSON.parse(stdout);
  expect(rows).toHaveLength(2);
  expect(rows[0].altitudeDeg).toBe(rows[1].altitudeDeg);
  expect(rows[0]).toMatchObject({
    at: '2026-06-21T16:00:00Z',
    azimuthDeg: expect.any(Number),
    apparentAltitudeDeg: expect.any(Number),
  });
  // Near noon in June at 33.1° S the sun stands at about 90 − 33.1 − 23.4 degrees, in the north.
  expect(rows[0].altitudeDeg).toBeGreaterThan(31);
  expect(Math.min(rows[0].azimuthDeg, 360 - rows[0].azimuthDeg)).toBeLessThan(25);
});

test('day gives instants in UTC, null where there is none', () => {
  const day = JSON.parse(
    dial('day', ...PLACE, '--zone', 'America/Santiago', '--date', '2026-06-21', '--json').stdout,
  );
  expect(day.sunrise).toMatch(/^2026-06-21T11:4\d:.*Z$/);
  expect(Date.parse(day.sunrise)).toBeLessThan(Date.parse(day.transit));
  expect(day.dayLengthHours).toBeCloseTo((Date.parse(day.sunset) - Date.parse(day.sunrise)) / 3.6e6, 5);
  const night = JSON.parse(
    dial('day', '--lat', '80', '--lon', '0', '--zone', 'Etc/UTC', '--date', '2026-12-21', '--json').stdout,
  );
  expect(night).toMatchObject({ sunrise: null, sunset: null, dayLengthHours: 0, polar: 'night' });
});

test('check lists every problem of a file', () => {
  expect(dial('check', SAMPLE)).toMatchObject({
    status: 0,
    stdout: expect.stringContaining('“Kelp Lane” is sound'),
  });
  const bad = JSON.parse(readFileSync(SAMPLE, 'utf8'));
  bad.site.place.zone = 'Nowhere/Town';
  bad.options[1].masses[0].storeys[0].heightM = 0;
  const path = join(folder, 'bad.json');
  writeFileSync(path, JSON.stringify(bad));
  const { status, stderr } = dial('check', path);
  expect(status).toBe(1);
  expect(stderr.split('\n')).toHaveLength(2);
  expect(stderr).toContain('The time zone “Nowhere/Town” does not exist');
});

test('bad input ends with 1 and a sentence on standard error', () => {
  for (const [args, sentence] of [
    [
      ['sun', '--lat', '95', '--lon', '0', '--at', '2026-01-01T00:00:00Z'],
      'Latitude 95 is outside −90 to 90 degrees.',
    ],
    [
      ['sun', '--lat', 'north', '--lon', '0', '--at', '2026-01-01T00:00:00Z'],
      'Latitude “north” is not a number.',
    ],
    [['sun', ...PLACE, '--at', '2026-01-01T00:00:00'], 'is not an instant'],
    [
      ['day', ...PLACE, '--zone', 'Nowhere', '--date', '2026-01-01'],
      'The time zone “Nowhere” does not exist',
    ],
    [['day', ...PLACE, '--zone', 'Etc/UTC', '--date', '2026-02-30'], '“2026-02-30” is not a date'],
    [['check', join(folder, 'none.json')], 'cannot be read'],
    [['run', SAMPLE, '--study', 'none', '--out', folder], 'The study “none” does not exist'],
    [
      ['run', SAMPLE, '--study', 'garden-season', '--option', 'Q', '--out', folder],
      'The option “Q” does not exist',
    ],
    [['shine'], "unknown command 'shine'"],
  ] as const) {
    const { status, stderr, stdout } = dial(...args);
    expect({ args, status, stdout }).toEqual({ args, status: 1, stdout: '' });
    expect(stderr).toContain(sentence);
  }
});

test('run writes the sensors and the summary', () => {
  const out = join(folder, 'deep', 'out');
  const { status } = dial(
    'run',
    SAMPLE,
    '--study',
    'Courtyards on 21 March',
    '--option',
    'stepped',
    '--out',
    out,
  );
  expect(status).toBe(0);
  const [head, ...rows] = readFileSync(join(out, 'sensors.csv'), 'utf8').trim().split('\n');
  expect(head!.split(',').slice(0, 8)).toEqual(['x', 'y', 'z', 'nx', 'ny', 'nz', 'area', 'sun hours (h)']);
  const summary = JSON.parse(readFileSync(join(out, 'summary.json'), 'utf8'));
  expect(summary.sensors).toBe(rows.length);
  expect(summary.option).toBe('c');
});

test('figures of the sample agree with closed form', () => {
  const { masses, total, option } = JSON.parse(dial('figures', SAMPLE, '--option', 'c', '--json').stdout);
  expect(option).toBe('c');
  expect(masses.map((m: { name: string }) => m.name)).toEqual(['Clinic podium', 'Middle step', 'Top step']);
  expect(total.footprintM2).toBeCloseTo(34 * 22 + 30 * 16 + 22 * 10, 6);
  expect(total.floorM2).toBeCloseTo(34 * 22 + 2 * 30 * 16 + 2 * 22 * 10, 6);
  expect(total.volumeM3).toBeCloseTo(34 * 22 * 3.8 + 30 * 16 * 6.2 + 22 * 10 * 6.2, 6);
  const facades = Object.values(total.facades) as { facadeM2: number; partyM2: number }[];
  const walls = 2 * (34 + 22) * 3.8 + 2 * (30 + 16) * 6.2 + 2 * (22 + 10) * 6.2;
  expect(facades.reduce((sum, f) => sum + f.facadeM2 + f.partyM2, 0)).toBeCloseTo(walls, 6);
});

test('openings of the sample: by rule, with area, none on party walls', () => {
  const { bodies } = JSON.parse(dial('openings', SAMPLE, '--option', 'a').stdout);
  const bar = bodies.find((b: { owner: string }) => b.owner === 'bar');
  const treatment = bar.openings.filter((o: { rule: string }) => o.rule === 'treatment');
  // 40 % of the south and west walls of the ground floor: 34 and 12 m by 3.8 m.
  const area = treatment.reduce((sum: number, o: { areaM2: number }) => sum + o.areaM2, 0);
  expect(area).toBeCloseTo(0.4 * (34 + 12) * 3.8, 6);
  const terrace = bodies.filter((b: { option: string | null }) => b.option === null);
  expect(terrace).toHaveLength(5);
  expect(terrace[0].parties['wall/0/1/0'][0].by).toBe('Terrace house 2');
});

test('an option goes out, is looked at, and comes into another project', () => {
  const obj = join(folder, 'a.obj');
  expect(dial('send-out', SAMPLE, '--option', 'A', '--out', obj).status).toBe(0);
  const model = JSON.parse(dial('model', obj).stdout);
  expect(model).toMatchObject({ format: 'obj', unit: null });
  expect(model.groups.map((g: { name: string }) => g.name)).toContain('Bar');
  const out = join(folder, 'with.json');
  const { status, stdout } = dial(
    'bring-in',
    SAMPLE,
    obj,
    '--out',
    out,
    '--as',
    'leave',
    '--part',
    `group:${model.groups.findIndex((g: { name: string }) => g.name === 'Bar')}=option`,
    '--option',
    'b',
  );
  expect(status).toBe(0);
  expect(stdout.trim().split('\n')).toEqual([
    expect.stringMatching(/^In metres \(guessed by size\): [\d.]+ × [\d.]+ m in plan, 26.852 m high\.$/),
    '1 thing brought in: bar-2',
  ]);
  const project = JSON.parse(readFileSync(out, 'utf8'));
  expect(project.options[2].models[0]).toMatchObject({ id: 'bar-2', name: 'Bar' });
  expect(Object.keys(project.meshes)).toHaveLength(1);
  expect(dial('check', out).status).toBe(0);
  for (const [args, sentence] of [
    [['send-out', SAMPLE, '--out', join(folder, 'a.pdf')], '“pdf” is no format that can be written'],
    [['model', SAMPLE], 'its “type” is not “CityJSON”'],
    [['bring-in', SAMPLE, obj, '--out', out, '--as', 'lamp'], '“lamp” is nothing that a part can become'],
    [['bring-in', SAMPLE, obj, '--out', out, '--unit', 'ell'], '“ell” is no unit'],
    [
      ['bring-in', SAMPLE, obj, '--out', out, '--as', 'rooms'],
      'cannot become rooms; it may become neighbour',
    ],
    [
      ['bring-in', SAMPLE, obj, '--out', out, '--part', 'gruop:1=option'],
      'The file has no part “gruop:1”; there are group:0',
    ],
    [['bring-in', SAMPLE, obj, '--out', out, '--height-property', 'H'], 'No outline has a property “H”'],
    [['bring-in', SAMPLE, obj, '--out', out, '--origin', 'here'], '“here” is no point'],
  ] as const) {
    const answer = dial(...args);
    expect(answer.status).toBe(1);
    expect(answer.stderr).toContain(sentence);
  }
});

test('moments of a set: sun, shadow angles to a wall, shadow of a stick, sun at a point', () => {
  const found = JSON.parse(
    dial(
      ...['moments', SAMPLE, '--set', 'seasons', '--facade', 'bar/0/0', '--option', 'a'],
      ...['--point', '19,17,15', '--stick', '2', '--json'],
    ).stdout,
  );
  expect(found).toMatchObject({ set: 'Solstices and equinoxes', basis: 'clock', stickM: 2 });
  expect(found.moments).toHaveLength(12);
  // The first wall of the bar faces drawing south; the sample is turned against true north.
  const { site } = JSON.parse(readFileSync(SAMPLE, 'utf8'));
  expect(found.facadeAzimuthDeg).toBeCloseTo(180 - site.north.trueNorthDeg, 9);
  for (const moment of found.moments) {
    const { altitudeDeg, azimuthDeg, hsaDeg, vsaDeg, shadowM, clock, sun } = moment;
    expect(['09:00', '12:00', '15:00']).toContain(clock);
    const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);
    expect(shadowM * tan(altitudeDeg)).toBeCloseTo(2, 9);
    expect(Math.cos(((azimuthDeg - found.facadeAzimuthDeg - hsaDeg) * Math.PI) / 180)).toBeCloseTo(1, 12);
    if (vsaDeg !== null)
      expect(tan(vsaDeg) * Math.cos((hsaDeg * Math.PI) / 180)).toBeCloseTo(tan(altitudeDeg), 9);
    // North of a bar that is five storeys high, near its wall.
    if (clock === '12:00') expect({ sun, by: moment.shadedBy }).toEqual({ sun: 0, by: 'Bar' });
  }
  const csv = join(folder, 'moments.csv');
  expect(dial('moments', SAMPLE, '--set', 'Solstices and equinoxes', '--csv', csv).status).toBe(0);
  expect(readFileSync(csv, 'utf8').trimEnd().split('\n')).toHaveLength(13);
  expect(dial('moments', SAMPLE, '--set', 'none').stderr).toContain('There is no moment set “none”');
  expect(
    dial('moments', SAMPLE, '--set', 'seasons', '--facade', 'bar/0/9', '--option', 'a').stderr,
  ).toContain('“Bar” has no wall 0/9');
  expect(dial('moments', SAMPLE, '--set', 'seasons', '--point', '1,2').stderr).toContain('is not a point');
});

test('shadows at moments: areas, outlines in both frames, drawings in true scale', () => {
  const out = (name: string) => join(folder, name);
  const read = (name: string, file: string) => readFileSync(join(out(name), file), 'utf8');
  const at = ['--at', '2026-03-21T09:30', '--at', '2026-03-21T15:00', '--at', '2026-03-21T02:00'];
  const first = dial('shadows', SAMPLE, '--option', 'B', ...at, '--metres', '--out', out('metres'));
  expect(first).toMatchObject({ status: 0, stdout: expect.stringContaining('below the horizon') });
  const rows = read('metres', 'areas.csv')
    .trimEnd()
    .split('\n')
    .map((line) => line.split(','));
  expect(rows[0]).toEqual(['moment', 'target', 'owner', 'total_m2', 'shaded_m2', 'newly_m2']);
  // Three areas at three moments; at night nothing is measured.
  expect(rows).toHaveLength(10);
  expect(rows.slice(1).map(([moment, target]) => `${moment} ${target}`)).toContain('2026-03-21T09:30 yards');
  for (const [moment, , owner, total, shaded, newly] of rows.slice(1)) {
    expect(owner).toBe('');
    if (moment === '2026-03-21T02:00') expect([shaded, newly]).toEqual(['', '']);
    else {
      expect(Number(shaded)).toBeLessThanOrEqual(Number(total));
      expect(Number(newly)).toBeLessThanOrEqual(Number(shaded));
    }
  }
  const json = JSON.parse(read('metres', 'shadows.geojson'));
  const areaOf = (feature: { geometry: { coordinates: number[][][][] } }) => {
    let sum = 0;
    for (const polygon of feature.geometry.coordinates)
      for (const ring of polygon)
        for (let i = 0; i + 1 < ring.length; i++)
          sum += (ring[i]![0]! * ring[i + 1]![1]! - ring[i + 1]![0]! * ring[i]![1]!) / 2;
    return sum;
  };
  // Outlines enclose what is said, in plan: the plot slopes by 2.5°.
  const slope = Math.cos((2.5 * Math.PI) / 180);
  const shaded = json.features.filter(
    (f: { properties: { kind: string } }) => f.properties.kind === 'shaded',
  );
  expect(shaded.length).toBeGreaterThan(2);
  for (const feature of shaded) expect(areaOf(feature) / slope).toBeCloseTo(feature.properties.area_m2, 1);
  expect(dial('shadows', SAMPLE, '--option', 'B', ...at, '--out', out('degrees')).status).toBe(0);
  const [longitude, latitude] = JSON.parse(read('degrees', 'shadows.geojson')).features[0].geometry
    .coordinates[0][0][0];
  expect(Math.hypot(longitude + 4.32, latitude - 55.87)).toBeLessThan(0.01);

  expect(
    dial(
      'shadows',
      SAMPLE,
      '--set',
      'seasons',
      '--on',
      'ground',
      '--owners',
      '--scale',
      '200',
      '--out',
      out('ground'),
    ).status,
  ).toBe(0);
  const svg = read('ground', 'shadows.svg');
  expect(svg).toMatch(/^<svg [^>]*width="[\d.]+mm"/);
  expect(svg).toContain('id="shade_2026-06-21T12:00_ground"');
  expect(svg).toContain('1:200');
  const dxf = read('ground', 'shadows.dxf');
  expect(dxf).toContain('SHADED_2026-06-21T1200');
  const counts = JSON.parse(read('ground', 'shadows.geojson')).features.filter(
    (f: { properties: { kind: string } }) => f.properties.kind === 'count',
  );
  expect(counts[0].properties).toMatchObject({ at_least: 1, of: 12 });

  const refused = (...args: string[]) => dial('shadows', SAMPLE, ...args, '--out', out('none')).stderr;
  expect(refused()).toContain('Name either a moment set');
  expect(refused('--at', '2026-03-21 09:30')).toContain('is not a moment');
  expect(refused('--at', '2026-02-30T09:30')).toContain('is not a moment');
  expect(refused('--at', '2026-03-21T09:30', '--on', 'walls')).toContain('not on “walls”');
  expect(refused('--at', '2026-03-21T09:30', '--scale', '0')).toContain('The scale goes from');
});

test('rooms at moments and the deepest over them agree with one another; what cannot be asked is said', () => {
  const rooms = (...args: string[]) => dial('rooms', SAMPLE, '--option', 'A', ...args);
  const one = JSON.parse(
    rooms('--at', '2026-03-21T12:00', '--at', '2026-12-21T12:00', '--at', '2026-12-21T02:00', '--json')
      .stdout,
  );
  expect(one.option).toBe('a');
  expect(one.moments.map(({ moment }: { moment: string }) => moment)).toEqual([
    '2026-03-21T12:00',
    '2026-12-21T12:00',
    '2026-12-21T02:00',
  ]);
  expect(one.moments[2].rooms).toEqual([]);
  type Row = { key: string; floor: { areaM2: number; sunlitM2: number }; depth: { depthM: number } | null };
  const rows: Row[] = one.moments[1].rooms;
  const lit = rows.filter(({ depth }) => depth);
  expect(lit.length).toBeGreaterThan(3);
  for (const { floor } of rows) expect(floor.sunlitM2).toBeLessThanOrEqual(floor.areaM2);
  const key = lit[0]!.key;
  const deepest = JSON.parse(
    rooms('--at', '2026-03-21T12:00', '--at', '2026-12-21T12:00', '--room', key, '--deepest', '--json')
      .stdout,
  ).rooms;
  expect(deepest).toHaveLength(1);
  const depths = one.moments
    .slice(0, 2)
    .map(({ rooms: at }: { rooms: Row[] }) => at.find((row) => row.key === key)!.depth?.depthM ?? 0);
  expect(deepest[0].deepest.depthM).toBeCloseTo(Math.max(...depths), 9);
  expect(rooms('--at', '2026-12-21T12:00').stdout).toMatch(/floor \d+\.\d\d of \d+\.\d\d m²/);
  expect(rooms('--at', '2026-12-21T12:00', '--room', 'Cellar').stderr).toContain('There is no room “Cellar”');
  expect(rooms().stderr).toContain('Name either a moment set');
});

test('rays in a room: shares sum to what enters; a strip is read, and what is none is said', () => {
  const rays = (...args: string[]) =>
    dial(
      'rays',
      SAMPLE,
      '--option',
      'A',
      '--room',
      'Treatment room 2',
      '--at',
      '2026-03-21T14:00',
      '--spacing',
      '0.4',
      ...args,
    );
  type Count = { surface: string; stays: number[] };
  const sum = (list: number[]) => list.reduce((all, one) => all + one, 0);
  for (const strip of [[], ['--strip', '11,3.6,15.6,11,3.95,15.6,3']]) {
    const [found] = JSON.parse(rays('--json', ...strip).stdout).moments;
    expect(found).toMatchObject({ moment: '2026-03-21T14:00' });
    const stays = (found.counts as Count[]).reduce((all, count) => all + sum(count.stays), 0);
    expect(stays + sum(found.leaves) + found.unfollowed).toBeCloseTo(found.enters, 9);
    expect(found.enters).toBeGreaterThan(0.5);
  }
  expect(rays().stdout).toMatch(/floor +\d+\.\d %/);
  expect(rays('--strip', '1,2').stderr).toContain('is not a strip');
  expect(rays('--bounces', '9').stderr).toContain('0 to 3 reflections');
});

test('a process of its own: what it says, where, and how it ends', () => {
  const alone = (...args: string[]) =>
    spawnSync(process.execPath, ['dist/cli/dial.js', ...args], { encoding: 'utf8' });
  const sound = alone('check', SAMPLE);
  expect([sound.status, sound.stderr]).toEqual([0, '']);
  expect(sound.stdout).toBe(dial('check', SAMPLE).stdout);
  const unsound = alone('run', SAMPLE, '--study', 'none', '--out', join(folder, 'none'));
  expect([unsound.status, unsound.stdout]).toEqual([1, '']);
  expect(unsound.stderr.trim()).toBe(
    dial('run', SAMPLE, '--study', 'none', '--out', join(folder, 'none')).stderr,
  );
  expect(alone('--help').stdout).toContain('bring-in');
  expect(alone().status).toBe(1);
  // IFC is read in another process still.
  const ifc = join(folder, 'small.ifc');
  writeFileSync(ifc, SMALL_IFC);
  expect(JSON.parse(alone('model', ifc).stdout).format).toBe('ifc');
});
