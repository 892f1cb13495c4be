import fc from 'fast-check';
import { instantOf, RAD } from '../civil';
import { contains, type Point2, type Point3 } from '../geometry';
import type { Envelope, Project, WindowOfTime } from '../project';
import { groundLevel } from '../site';
import { sunDay, sunPosition, sunVector } from '../sun';
import { firstBlock, TriangleTree } from '../trace';
import { envelopeField, envelopeFigures, EnvelopeSolver, placeOf } from './envelope-field';
import { envelopeCsv, envelopeObj } from './envelope-files';
import { sunHull } from './sun-hull';
import { box, DAY, envelope, keeping, outlines, site, windows } from '../../testing/envelope-sites';

const levelAt = ({ project, asked }: { project: Project; asked: Envelope }, place: Point2) =>
  new EnvelopeSolver(project, asked).at(place);

/** Unit vector towards the sun at minutes of a window. */
function sunsOf({ site: { place, north } }: Project, { from, startMinutes, endMinutes }: WindowOfTime) {
  return Array.from({ length: endMinutes - startMinutes + 1 }, (_, i) => {
    const atMs = instantOf(from, startMinutes + i, place.zone);
    const { altitudeDeg, azimuthDeg } = sunPosition(atMs, place);
    return sunVector(altitudeDeg, azimuthDeg, north.trueNorthDeg);
  }).filter(([, , z]) => z > 0);
}

/** Of a flat outline, whether the ray from a place away from the sun falls on it from its front. */
function fallsOn(corners: readonly Point3[], normal: Point3, from: Point3, sun: Point3): boolean {
  const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const facing = dot(normal, sun);
  if (facing <= 0) return false;
  const way =
    dot(
      from.map((v, k) => v - corners[0]![k]!),
      normal,
    ) / facing;
  if (way < 0) return false;
  const at = from.map((v, k) => v - way * sun[k]!);
  // Looked at along the greatest part of its normal.
  const drop = [0, 1, 2].sort((a, b) => Math.abs(normal[b]!) - Math.abs(normal[a]!))[0]!;
  const flat = (p: readonly number[]) => p.filter((_, k) => k !== drop) as unknown as Point2;
  return contains(corners.map(flat), flat(at));
}

test('one area to the north and one sun: the distance along its shade × tan h, to the level of the area', () => {
  // Wider than any shade of the place goes aside; the sun of half past nine and of noon.
  for (const levelM of [0, 1.5]) {
    const of = keeping([
      { outline: box(-200, 30, 200, 60), levelM, windows: [DAY('2026-03-21', 9.5, 9.5 + 1 / 60)] },
    ]);
    const sun = sunsOf(of.project, of.asked.keep[0]!.windows[0]!);
    const expected = Math.min(...sun.map(([, y, z]) => levelM + ((30 - 4) / -y) * z));
    expect(levelAt(of, [10, 4]).levelM).toBeCloseTo(expected, 3);
  }
});

test('at the equinox noon the envelope of a long garden is a plane that rises by 90° less the latitude', () => {
  const noon = 12 + 7 / 60;
  const of = keeping([
    { outline: box(-300, 20, 300, 50), windows: [DAY('2026-03-20', noon, noon + 1 / 60)] },
  ]);
  const [near, far] = [levelAt(of, [10, 12]), levelAt(of, [10, 2])].map(({ levelM }) => levelM) as [
    number,
    number,
  ];
  expect(Math.atan((far - near) / 10) / RAD).toBeCloseTo(90 - 47, 0);
  expect(near / 8).toBeCloseTo((far - near) / 10, 2);
});

test('hours by the sun: its noon is the transit of the day, and its hours lie even about it', () => {
  const of = keeping([{ outline: box(-300, 30, 300, 60), levelM: 0, windows: [DAY('2026-07-01', 12, 12)] }]);
  of.asked.keep[0]!.basis = 'solar';
  const { place } = of.project.site;
  const { transitMs } = sunDay('2026-07-01', place, place.zone);
  const { levelM, atMs } = levelAt(of, [10, 4]);
  expect(levelM).toBeCloseTo(26 * Math.tan(sunPosition(transitMs, place).altitudeDeg * RAD), 3);
  expect(Math.abs(atMs - transitMs)).toBeLessThanOrEqual(30_000);
  // By the clock the sun stands elsewhere at twelve.
  of.asked.keep[0]!.basis = 'clock';
  expect(Math.abs(levelAt(of, [10, 4]).atMs - transitMs)).toBeGreaterThan(60_000);
  // From 10 to 14 by the sun both ends have the same altitude, however far the clock is from it.
  const windows = [DAY('2026-06-21', 10, 14)];
  const { bearing, rise } = sunHull(of.project.site, { windows, basis: 'solar' });
  const [first, last] = [rise[0]!, rise.at(-1)!];
  expect(first / last).toBeCloseTo(1, 2);
  expect(bearing[0]! + bearing.at(-1)!).toBeCloseTo(Math.PI, 2);
});

test('what stands to the sunny side of nothing is unlimited; on the area itself there is its level', () => {
  const south = keeping([{ outline: box(0, -30, 20, -20), windows: [DAY('2026-06-21')] }]);
  expect(levelAt(south, [10, 7])).toMatchObject({ levelM: Infinity, decidedBy: -1 });
  const within = keeping([{ outline: box(5, 5, 9, 9), levelM: 0.4, windows: [DAY('2026-06-21')] }]);
  expect(levelAt(within, [7, 7]).levelM).toBe(0.4);
  expect(new EnvelopeSolver(within.project, within.asked).notes.join(' ')).toContain('reaches into');
  const night = keeping([{ outline: box(0, 20, 20, 30), windows: [DAY('2026-06-21', 0, 1)] }]);
  expect(levelAt(night, [10, 7]).levelM).toBe(Infinity);
  expect(new EnvelopeSolver(night.project, night.asked).notes.join(' ')).toContain('No sun stands before');
});

/** How high over a level area a line may go for one sun: along its shade to where that first enters the area, × tan h. */
function extruded(outline: readonly Point2[], [x, y]: Point2, [sx, sy, sz]: readonly number[]): number {
  const flat = Math.hypot(sx!, sy!);
  const [dx, dy] = [-sx! / flat, -sy! / flat];
  let least = Infinity;
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length]!;
    // Which side of the ray each end lies on, and how far along it.
    const side = (px: number, py: number) => dx * (py - y) - dy * (px - x);
    const [a, b] = [side(ax, ay), side(bx, by)];
    if (a * b > 0 || a === b) return;
    const t = a / (a - b);
    const along = dx * (ax + t * (bx - ax) - x) + dy * (ay + t * (by - ay) - y);
    if (along >= 0) least = Math.min(least, along);
  });
  return (least * sz!) / flat;
}

const RUNS = 40;
test('nowhere higher than an extrusion for every minute has it, and no lower than it must be, on random sites', () => {
  fc.assert(
    fc.property(
      outlines,
      windows,
      fc.double({ min: -2, max: 3, noNaN: true }),
      fc.integer({ min: -60, max: 60 }),
      (outline, window, levelM, latitude) => {
        const of = keeping([{ outline, levelM, windows: [window] }], site(latitude));
        const solver = new EnvelopeSolver(of.project, of.asked);
        const suns = sunsOf(of.project, window);
        for (const place of [
          [3, 3],
          [10, 12],
          [18, 5],
        ] as Point2[]) {
          const { levelM: found, atMs } = solver.at(place);
          const plain = Math.min(...suns.map((sun) => levelM + extruded(outline, place, sun)));
          expect(found).toBeLessThanOrEqual(plain + 1e-3);
          // And no lower than it must be: a sun about the minute that decides has it 5 cm higher at the most.
          // High up the sun stands near the zenith, and a minute of it moves much.
          if (found > 50) continue;
          const near = Array.from({ length: 121 }, (_, k) => {
            const { altitudeDeg, azimuthDeg } = sunPosition(atMs + (k - 60) * 1000, of.project.site.place);
            return levelM + extruded(outline, place, sunVector(altitudeDeg, azimuthDeg, 0));
          });
          expect(Math.min(...near)).toBeLessThanOrEqual(found + 0.05);
        }
      },
    ),
    { numRuns: RUNS, endOnFailure: true },
  );
});

test('over several days, at every place as a sweep by half minutes has it: window ends among them', () => {
  fc.assert(
    fc.property(
      outlines,
      fc.integer({ min: 8, max: 13 }),
      fc.integer({ min: -60, max: 60 }),
      (outline, hour, latitude) => {
        const window = { ...DAY('2026-03-10', hour, hour + 1), to: '2026-03-14' };
        const of = keeping([{ outline, levelM: 0, windows: [window] }], site(latitude));
        const solver = new EnvelopeSolver(of.project, of.asked);
        const { place } = of.project.site;
        const suns = Array.from({ length: 5 * 121 }, (_, k) => {
          const date = `2026-03-${10 + Math.floor(k / 121)}`;
          const atMs = instantOf(date, hour * 60, place.zone) + (k % 121) * 30_000;
          const { altitudeDeg, azimuthDeg } = sunPosition(atMs, place);
          return sunVector(altitudeDeg, azimuthDeg, 0);
        }).filter(([, , z]) => z > 0);
        for (const [x, y] of [
          [2, 14],
          [9, 6],
          [17, 11],
        ] as Point2[]) {
          const { levelM } = solver.at([x, y]);
          const plain = Math.min(Infinity, ...suns.map((sun) => extruded(outline, [x, y], sun)));
          expect(levelM).toBeLessThanOrEqual(plain + 1e-3);
          // Half a minute turns the sun by 0.13° or a little more: so much aside a corner may be met between two.
          if (plain < 30) expect(levelM).toBeGreaterThan(plain - 0.03 * plain - 0.05);
        }
      },
    ),
    { numRuns: 40, endOnFailure: true },
  );
});

test('more that is kept is never higher, and the envelope of all is the least of those of each', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(outlines, windows), { minLength: 2, maxLength: 4 }), (list) => {
      const areas = list.map(([outline, window]) => ({ outline, levelM: 0, windows: [window] }));
      const all = keeping(areas);
      const each = areas.map((area) => keeping([area]));
      for (const place of [
        [4, 3],
        [15, 11],
      ] as Point2[]) {
        const least = Math.min(...each.map((one) => levelAt(one, place).levelM));
        // To rounding: one ray may be met at either of two edges.
        expect(levelAt(all, place).levelM).toBeCloseTo(least, 8);
      }
    }),
    { numRuns: 15 },
  );
});

test('a site mirrored over the equator has the mirrored envelope', () => {
  const north = keeping([{ outline: box(3, 20, 12, 30), levelM: 0, windows: [DAY('2026-03-20', 9, 15)] }]);
  const south = keeping(
    [{ outline: box(3, -30, 12, -20), levelM: 0, windows: [DAY('2026-03-20', 9, 15)] }],
    site(-47),
  );
  south.project.site.boundary = box(0, -15, 20, 0);
  for (const [x, y] of [
    [5, 10],
    [14, 3],
  ] as Point2[]) {
    const [a, b] = [levelAt(north, [x, y]).levelM, levelAt(south, [x, -y]).levelM];
    expect(Math.abs(a - b)).toBeLessThan(0.02 * a);
  }
});

test('a window in a wall keeps its sun: the least height at which the line shades any of it, by trying every height', () => {
  const project = site();
  project.targets = [
    {
      ...{ id: 'w', name: 'Window', kind: 'plane', origin: [8, 22, 1], u: [1, 0, 0], v: [0, 0, 1] },
      ...{ outline: box(0, 0, 3, 1.5), holes: [], spacingM: 0.5, offsetM: 0.01, of: null },
    },
  ] as unknown as Project['targets'];
  const window = DAY('2026-03-21', 11, 13);
  const asked = envelope({
    keep: [{ on: 'target', id: 'w', option: null, basis: 'clock' as const, windows: [window] }],
  });
  const corners: Point3[] = [
    [8, 22, 1],
    [11, 22, 1],
    [11, 22, 2.5],
    [8, 22, 2.5],
  ];
  const suns = sunsOf(project, window);
  for (const place of [
    [9, 12],
    [4, 6],
    [16, 14],
  ] as Point2[]) {
    let tried = Infinity;
    for (let z = 0; z < 40 && tried === Infinity; z += 0.02)
      if (suns.some((sun) => fallsOn(corners, [0, -1, 0], [...place, z], sun))) tried = z;
    const { levelM } = levelAt({ project, asked }, place);
    if (tried === Infinity) expect(levelM).toBe(Infinity);
    else {
      expect(levelM).toBeLessThanOrEqual(tried + 1e-3);
      expect(levelM).toBeGreaterThan(tried - 0.1);
    }
  }
});

test('filled to the field nothing is taken, by tracing; 0.2 m higher where it is limited, something is', () => {
  const outline = box(2, 19, 16, 29);
  const window = DAY('2026-04-10', 9, 16);
  const of = keeping([{ outline, levelM: 0, windows: [window] }]);
  const field = envelopeField(of.project, of.asked);
  const solver = new EnvelopeSolver(of.project, of.asked);
  const tops = Array.from(field.levelM, (_, i) => {
    const [x, y] = placeOf(field, i);
    let least = Infinity;
    for (const dx of [-0.499, 0, 0.499])
      for (const dy of [-0.499, 0, 0.499]) least = Math.min(least, solver.at([x + dx, y + dy]).levelM);
    return Math.min(30, least) - 0.01;
  });
  const tree = TriangleTree.build(
    Float64Array.from(tops.flatMap((top, i) => column(placeOf(field, i), top))),
  );
  const suns = sunsOf(of.project, window);
  let taken = 0;
  for (let x = 2.05; x < 16; x += 1.9)
    for (let y = 19.01; y < 29; y += 2.1)
      for (const [dx, dy, dz] of suns) if (firstBlock(tree, x, y, 1e-6, dx, dy, dz) >= 0) taken++;
  expect(taken).toBe(0);
  let limited = 0;
  const corners = outline.map(([x, y]): Point3 => [x, y, 0]);
  const missed: number[] = [];
  field.levelM.forEach((level, i) => {
    if (!Number.isFinite(level) || i % 3 > 0) return;
    limited++;
    const { altitudeDeg, azimuthDeg } = sunPosition(field.atMs[i]!, of.project.site.place);
    // The sun that decides, or one of the next minutes: between them lies the bearing.
    const deciding = sunVector(altitudeDeg, azimuthDeg, 0);
    const near = suns.filter((sun) => Math.hypot(...deciding.map((v, k) => v - sun[k]!)) < 0.012);
    const [x, y] = placeOf(field, i);
    if (!near.some((sun) => fallsOn(corners, [0, 0, 1], [x, y, level + 0.2], sun))) missed.push(i);
  });
  expect(missed).toEqual([]);
  expect(limited).toBeGreaterThan(50);
});

/** A square metre of column about a place, as triangles. */
function column([x, y]: Point2, top: number): number[] {
  const ring = box(x - 0.5, y - 0.5, x + 0.5, y + 0.5);
  const quads: Point3[][] = ring.map((a, i) => {
    const b = ring[(i + 1) % 4]!;
    return [
      [...a, 0],
      [...b, 0],
      [...b, top],
      [...a, top],
    ] as Point3[];
  });
  quads.push(ring.map((p): Point3 => [...p, top]));
  return quads.flatMap(([a, b, c, d]) => [...a!, ...b!, ...c!, ...a!, ...c!, ...d!]);
}

test('limits of height, a line of slope, setbacks and strips, on ground that slopes', () => {
  const project = site();
  project.site.ground = { kind: 'plane', levelM: 2, slopeDeg: 5, fallsTowardsDeg: 180 };
  const asked = envelope({
    setbacksM: [2, 3, 1, 4],
    noBuild: [box(6, 0, 9, 20)],
    limit: { over: 'ground', heightM: 12 },
    slope: { fromM: 3, rise: 1.5 },
  });
  const field = envelopeField(project, asked, 0.5);
  const figures = envelopeFigures(field, asked);
  // The first edge runs along the south: 2 m from it, 3 from the east, 1 from the north, 4 from the west; less the strip.
  expect(figures.areaM2).toBeCloseTo((13 - 3) * 12, 6);
  // Whichever way round the outline was drawn.
  const turned = { ...asked, build: [...box(0, 0, 20, 15)].reverse(), setbacksM: [2], noBuild: [] };
  expect(envelopeFigures(envelopeField(project, turned, 0.5), turned).areaM2).toBeCloseTo(16 * 11, 6);
  const { levelM } = levelAt({ project, asked }, [10, 4]);
  expect(levelM).toBeCloseTo(groundLevel(project.site.ground, [10, 4]) + 3 + 1.5 * 4, 6);
  expect(levelAt({ project, asked }, [10, 7.5])).toMatchObject({ decidedBy: 0 });
  expect(figures.highest!.heightM).toBeCloseTo(12, 6);
  expect(figures.unlimitedM2).toBe(0);
  expect(figures.reasons.map(({ name }) => name)).toEqual(['height limit', 'slope']);
  expect(figures.floorAreaM2).toBeLessThan(figures.volumeM3 / asked.storeyM);
});

test('the files: a line a point, and a surface between what is limited', () => {
  const of = keeping([{ outline: box(0, 20, 9, 30), levelM: 0, windows: [DAY('2026-03-21', 11, 13)] }]);
  const field = envelopeField(of.project, of.asked, 5);
  const [head, ...rows] = envelopeCsv(field, 'Etc/UTC').trim().split(/\r?\n/);
  expect(head).toBe('x,y,height_m,decided_by,at');
  expect(rows).toHaveLength(12);
  expect(rows.every((row) => /^[\d.]+,[\d.]+,([\d.]+,Area 0,2026-03-21T1[123]:\d\d|,,)$/.test(row))).toBe(
    true,
  );
  const obj = envelopeObj(field, 'My envelope');
  expect(obj).toMatch(/^o My_envelope\n/);
  expect(obj.match(/^v /gm)!.length).toBe(rows.filter((row) => !row.endsWith(',,,')).length);
});

test('what cannot be is said', () => {
  const project = site();
  project.site.boundary = null;
  expect(() => envelopeField(project, envelope())).toThrow('nothing to build on');
  expect(() => envelopeField(site(), envelope({ setbacksM: [20] }))).toThrow('leave nothing to build on');
  expect(() => envelopeField(site(), envelope({ setbacksM: [1, 2] }))).toThrow('2 setbacks for 4 edges');
  expect(() => envelopeField(site(), envelope(), 0.01)).toThrow('A spacing of');
  const year: WindowOfTime = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
  const many = keeping([{ outline: box(0, 20, 9, 30), windows: [year, year, year, year] }]);
  expect(() => envelopeField(many.project, many.asked)).toThrow('suns, minute by minute');
  const gone = envelope({
    keep: [{ on: 'area', id: 'no', option: null, basis: 'clock' as const, windows: [DAY('2026-06-21')] }],
  });
  expect(envelopeField(site(), gone).notes.join(' ')).toContain('is gone');
});
