import { LIME } from '../../testing/lime';
import { RAD } from '../civil';
import { areaWithHoles, containsWithHoles, type Point2, type Polygon } from '../geometry';
import { type Area, defaultMass, emptyProject, type Ground, type Mass, type Project } from '../project';
import { assembleScene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { firstObstruction, sceneObstacles } from '../trace';
import { shadeCounts, type ShadeRow, shadowStudy } from './shadow-study';

const NONE = new Map();
const MORNING = Date.UTC(2026, 2, 21, 9, 30);
const AFTERNOON = Date.UTC(2026, 2, 21, 15);
const NIGHT = Date.UTC(2026, 2, 21, 1);

const rectangle = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];
const area = (outline: [number, number][], on: Area['on'] = { kind: 'ground' }): Area => ({
  id: 'area',
  name: 'Garden',
  use: 'garden',
  outline,
  on,
});
const block = (outline: [number, number][], heightM: number, id = 'm'): Mass =>
  defaultMass(id, id, outline, 1, heightM);

function project(masses: Mass[], outline = rectangle(-200, -200, 200, 200), ground?: Ground): Project {
  const made = emptyProject('P', 2026);
  made.options[1]!.masses = masses;
  made.areas = [area(outline)];
  if (ground) made.site.ground = ground;
  return made;
}

const areaOf = (polygons: readonly Polygon[]) =>
  polygons.reduce((sum, polygon) => sum + areaWithHoles(polygon), 0);

function sunAt(p: Project, atMs: number) {
  const sun = sunPosition(atMs, p.site.place);
  return { ...sun, vector: sunVector(sun.altitudeDeg, sun.azimuthDeg, p.site.north.trueNorthDeg) };
}

/**
 * Shade of a box on level ground, beyond the box: what the footprint sweeps along the shadow of its height,
 * = height / tan h × (width across the way of the shadow).
 */
function boxShade(p: Project, atMs: number, width: number, depth: number, height: number): number {
  const { altitudeDeg, vector } = sunAt(p, atMs);
  const reach = height / Math.tan(altitudeDeg * RAD);
  const [x, y] = [vector[0], vector[1]].map((v) => Math.abs(v) / Math.hypot(vector[0], vector[1]));
  return reach * (width * y! + depth * x!);
}

test.each([
  ['morning', MORNING],
  ['afternoon', AFTERNOON],
])('a prism on level ground, in the %s: closed form within 0.1 %%', (_, at) => {
  const p = project([block(rectangle(0, 0, 12, 8), 10)]);
  const [row] = shadowStudy(p, 'a', NONE, [at], 'areas').rows;
  expect(row!.totalM2).toBeCloseTo(400 * 400 - 96, 3);
  expect(Math.abs(row!.shadedM2! / boxShade(p, at, 12, 8, 10) - 1)).toBeLessThan(1e-4);
  // Nothing stands today: all of it is new.
  expect(row!.newlyM2).toBeCloseTo(row!.shadedM2!, 3);
});

test('the same site drawn turned against true north has the same shade', () => {
  const plain = project([block(rectangle(0, 0, 12, 8), 10)]);
  const turned = project([block(rectangle(0, 0, 12, 8), 10)]);
  turned.site.north.trueNorthDeg = 90;
  // Turning the site by a right angle swaps width and depth of the box.
  const swapped = project([block(rectangle(0, 0, 8, 12), 10)]);
  const shade = (p: Project) => shadowStudy(p, 'a', NONE, [MORNING], 'areas').rows[0]!.shadedM2!;
  expect(shade(turned)).toBeCloseTo(shade(swapped), 2);
  expect(shade(plain)).not.toBeCloseTo(shade(swapped), 0);
});

test('a pole is as long in its shadow as its height over the tangent of the altitude', () => {
  const p = project([block(rectangle(-0.01, -0.01, 0.01, 0.01), 10)]);
  const { altitudeDeg, vector } = sunAt(p, AFTERNOON);
  const { shaded } = shadowStudy(p, 'a', NONE, [AFTERNOON], 'areas').rows[0]!;
  const ends = shaded.flatMap(({ outer }) => outer.map(([x, y]) => Math.hypot(x, y)));
  expect(Math.max(...ends)).toBeCloseTo(10 / Math.tan(altitudeDeg * RAD), 1);
  const tip = shaded[0]!.outer.reduce((a, b) => (Math.hypot(...b) > Math.hypot(...a) ? b : a));
  const away =
    (tip[0] * vector[0] + tip[1] * vector[1]) / (Math.hypot(...tip) * Math.hypot(vector[0], vector[1]));
  expect(away).toBeCloseTo(-1, 3);
});

test('on a slope that falls away from the sun a wall throws farther, by h / (tan a − tan s)', () => {
  const at = Date.UTC(2026, 2, 21, 12, 7);
  const flat = project([block(rectangle(-50, 0, 50, 0.02), 6)], rectangle(-5, 0.1, 5, 90));
  const { altitudeDeg, azimuthDeg } = sunAt(flat, at);
  // The sun stands within a degree of south; the slope falls away from it.
  const slopeDeg = 10;
  const sloping = project([block(rectangle(-50, 0, 50, 0.02), 6)], rectangle(-5, 0.1, 5, 90), {
    kind: 'plane',
    levelM: 0,
    slopeDeg,
    fallsTowardsDeg: 0,
  });
  const far = (p: Project) => {
    const { shaded } = shadowStudy(p, 'a', NONE, [at], 'areas').rows[0]!;
    return Math.max(...shaded.flatMap(({ outer }) => outer.map(([, y]) => y)));
  };
  const profile = Math.atan(Math.tan(altitudeDeg * RAD) / Math.cos((azimuthDeg - 180) * RAD));
  expect(far(flat)).toBeCloseTo(0.02 + 6 / Math.tan(profile), 2);
  // Its top is 6 m over the highest ground under it, at y = 0.
  expect(far(sloping)).toBeCloseTo(
    (6 + 0.02 * Math.tan(profile)) / (Math.tan(profile) - Math.tan(slopeDeg * RAD)),
    2,
  );
  const [row] = shadowStudy(sloping, 'a', NONE, [at], 'areas').rows;
  // Measured on the slope.
  expect(row!.totalM2).toBeCloseTo((10 * 89.9) / Math.cos(slopeDeg * RAD), 2);
});

test('shadows that overlap count once; sunlit and shaded make the whole; more moments shade no less', () => {
  const near = [block(rectangle(0, 0, 12, 8), 10, 'n'), block(rectangle(14, 0, 26, 8), 10, 'o')];
  const p = project(near);
  const times = [MORNING, Date.UTC(2026, 2, 21, 11), AFTERNOON];
  const study = shadowStudy(p, 'a', NONE, times, 'areas', true);
  for (const moment of [0, 1, 2]) {
    const all = study.rows.find((row) => row.moment === moment && row.owner === null)!;
    const each = study.rows.filter((row) => row.moment === moment && row.owner !== null);
    expect(each).toHaveLength(2);
    const sum = each.reduce((total, row) => total + row.shadedM2!, 0);
    expect(all.shadedM2!).toBeLessThan(sum);
    for (const row of each) expect(row.shadedM2!).toBeLessThanOrEqual(all.shadedM2! + 1e-6);
    expect(all.shadedM2!).toBeLessThan(all.totalM2);
  }
  const regions = study.rows.filter((row) => row.owner === null).map(({ shaded }) => shaded);
  const bands = shadeCounts(regions);
  // Each spot is counted once for every moment that shades it.
  expect(bands.reduce((total, band) => total + areaOf(band), 0)).toBeCloseTo(
    regions.reduce((total, region) => total + areaOf(region), 0),
    1,
  );
  bands.slice(1).forEach((band, k) => expect(areaOf(band)).toBeLessThanOrEqual(areaOf(bands[k]!) + 1e-6));
});

test('newly shaded and shaded today make what is shaded with the proposal, where both have the ground', () => {
  const p = project([block(rectangle(30, 0, 42, 8), 14)]);
  p.options[0]!.masses = [block(rectangle(0, 0, 12, 8), 10, 'today')];
  for (const at of [MORNING, AFTERNOON]) {
    const proposal = shadowStudy(p, 'a', NONE, [at], 'areas').rows[0]!;
    const before = shadowStudy(p, 'today', NONE, [at], 'areas').rows[0]!;
    expect(before.newlyM2).toBe(0);
    // What is shaded today stays shaded, but for the ground that the proposal now stands on.
    const under = before.totalM2 - proposal.totalM2;
    expect(under).toBeCloseTo(96, 3);
    const taken = before.shadedM2! + proposal.newlyM2! - proposal.shadedM2!;
    // Outlines lie on a grid of a tenth of a millimetre.
    expect(taken).toBeGreaterThanOrEqual(-1e-2);
    expect(taken).toBeLessThanOrEqual(under + 1e-2);
  }
});

test('at night nothing is measured; an option without areas is refused with a sentence', () => {
  const p = project([block(rectangle(0, 0, 12, 8), 10)]);
  expect(shadowStudy(p, 'a', NONE, [NIGHT], 'areas').rows[0]).toMatchObject({
    shadedM2: null,
    newlyM2: null,
  });
  p.areas = [];
  expect(() => shadowStudy(p, 'a', NONE, [MORNING], 'areas')).toThrow('has no areas');
});

test('an area on a roof lies in the shade of what is higher only', () => {
  const p = project([block(rectangle(0, 0, 30, 30), 5, 'low'), block(rectangle(0, -10, 30, 0), 12, 'high')]);
  p.areas = [area(rectangle(0, 0, 30, 30), { kind: 'level', levelM: 5 })];
  const [row] = shadowStudy(p, 'a', NONE, [Date.UTC(2026, 2, 21, 12, 7)], 'areas').rows;
  const { altitudeDeg, azimuthDeg } = sunAt(p, Date.UTC(2026, 2, 21, 12, 7));
  const depth = (7 * Math.cos((azimuthDeg - 180) * RAD)) / Math.tan(altitudeDeg * RAD);
  // Nearly square from the south: a strip as deep as that, less the slant at its end.
  expect(Math.abs(row!.shadedM2! - 30 * depth)).toBeLessThan(
    7 * 7 * Math.abs(Math.sin((azimuthDeg - 180) * RAD)) + 0.5,
  );
  expect(row!.totalM2).toBeCloseTo(900, 6);
});

test('roofs and facades: a facade turned away lies in shade, one in the open in sun', () => {
  const p = project([block(rectangle(0, 0, 12, 8), 10)]);
  const rows = shadowStudy(p, 'a', NONE, [Date.UTC(2026, 2, 21, 12, 7)], 'facades').rows;
  const facing = (deg: number) => rows.find(({ receiver }) => receiver.id === `m/${deg}`)!;
  expect(facing(180)).toMatchObject({ shadedM2: 0 });
  expect(facing(0).shadedM2).toBeCloseTo(120, 6);
  expect(facing(0).totalM2).toBeCloseTo(120, 6);
  const roofs = shadowStudy(p, 'a', NONE, [MORNING], 'roofs').rows;
  expect(roofs).toHaveLength(1);
  expect(roofs[0]!.totalM2).toBeCloseTo(96, 6);
  expect(roofs[0]!.shadedM2).toBe(0);
});

/** Every point of a fine grid, in shade by polygon or by ray; those within a hair of an outline are left to either. */
function disagreements(p: Project, atMs: number): { differing: number; asked: number } {
  const { vector } = sunAt(p, atMs);
  const scene = assembleScene(p, 'a', NONE);
  const obstacles = sceneObstacles(scene);
  const { shaded, receiver } = shadowStudy(p, 'a', NONE, [atMs], 'areas').rows[0]!;
  const regions = receiver.parts.flatMap((part) => part.regions);
  const inAny = (polygons: readonly Polygon[], at: Point2) =>
    polygons.some((polygon) => containsWithHoles(polygon, at));
  const nearEdge = (at: Point2) =>
    [-0.02, 0.02].some((d) =>
      (
        [
          [d, 0],
          [0, d],
        ] as const
      ).some(([dx, dy]) => inAny(shaded, [at[0] + dx, at[1] + dy]) !== inAny(shaded, at)),
    );
  let differing = 0;
  let asked = 0;
  const { normal, offset } =
    scene.ground.normal[2] > 0 ? scene.ground : { normal: [0, 0, 1] as const, offset: 0 };
  for (let x = -39.7; x < 40; x += 1.37)
    for (let y = -39.3; y < 40; y += 1.41) {
      if (!inAny(regions, [x, y]) || nearEdge([x, y])) continue;
      const z = (offset - normal[0] * x - normal[1] * y) / normal[2] + 0.001;
      asked++;
      if (inAny(shaded, [x, y]) !== firstObstruction(obstacles, x, y, z, ...vector) >= 0) differing++;
    }
  return { differing, asked };
}

test.each([1, 2, 3, 4, 5, 6])(
  'seed %d: outlines agree with rays on a fine grid, on level and sloping ground',
  (seed) => {
    let state = seed * 2654435761;
    const random = () => (state = (state * 1664525 + 1013904223) >>> 0) / 2 ** 32;
    const masses = Array.from({ length: 5 }, (_, i) => {
      const [x, y] = [random() * 50 - 30, random() * 50 - 30];
      const turn = random() * 3;
      const [w, d] = [3 + random() * 10, 3 + random() * 10];
      const outline = rectangle(0, 0, w, d).map(([a, b]): [number, number] => [
        x + a * Math.cos(turn) - b * Math.sin(turn),
        y + a * Math.sin(turn) + b * Math.cos(turn),
      ]);
      const roof = (
        [
          { kind: 'flat', parapetM: 0.6 },
          { kind: 'gable', riseM: 2 },
          { kind: 'pyramid', riseM: 3 },
        ] as const
      )[i % 3]!;
      return { ...block(outline, 3 + random() * 12, `m${i}`), roof };
    });
    const ground: Ground | undefined =
      seed % 2 ? undefined : { kind: 'plane', levelM: 3, slopeDeg: 6, fallsTowardsDeg: random() * 360 };
    const p = project(masses, rectangle(-40, -40, 40, 40), ground);
    for (const at of [MORNING, AFTERNOON]) {
      const { differing, asked } = disagreements(p, at);
      expect(asked).toBeGreaterThan(1500);
      expect(differing).toBe(0);
    }
  },
);

test('walls with windows: the outline of a face may come after its holes; outlines agree with rays on the ground', () => {
  const windows = Array.from({ length: 4 }, (_, i) => ({
    id: `w${i}`,
    name: '',
    kind: 'window' as const,
    host: { on: 'wall' as const, ring: i > 1 ? 1 : 0, edge: i % 2 ? 0 : 2, storey: 0 },
    outline: { kind: 'rectangle' as const, u: 1, v: 0.9, widthM: 1.4, heightM: 1.6 },
    glazing: 'double',
    revealM: 0.15,
    openable: true,
    grid: null,
  }));
  const court = rectangle(4, 4, 12, 9);
  const mass: Mass = {
    ...block(rectangle(0, 0, 16, 13), 9),
    footprint: { outer: rectangle(0, 0, 16, 13), holes: [court] },
    openings: windows,
  };
  const p = project([mass], rectangle(-40, -40, 40, 40));
  for (const at of [MORNING, AFTERNOON]) {
    const { differing, asked } = disagreements(p, at);
    expect(asked).toBeGreaterThan(1500);
    expect(differing).toBe(0);
  }
});

test('bodies of the same id in different options keep roofs of their own', () => {
  const p = project([block(rectangle(30, 0, 42, 8), 14, 'same')]);
  p.options[0]!.masses = [block(rectangle(0, 0, 10, 10), 5, 'same')];
  const areas = shadowStudy(p, 'a', NONE, [MORNING], 'roofs').rows.map(({ totalM2 }) => Math.round(totalM2));
  expect(areas.sort()).toEqual([100, 96]);
});

describe('what lets light pass throws regions with a transmittance of their own', () => {
  const fence = (heightM: number, openness: number): Project['neighbours'][number] => ({
    kind: 'fence',
    id: 'f',
    name: 'Fence',
    path: [
      [-5, 0],
      [5, 0],
    ],
    heightM,
    openness,
    demolished: false,
  });

  test('a fence: as large as the shade of a wall of its size, outside of full shade', () => {
    const p = project([]);
    p.neighbours = [fence(2, 0.3)];
    const at = Date.UTC(2026, 2, 21, 12, 7);
    const [row] = shadowStudy(p, 'a', NONE, [at], 'areas').rows;
    expect(row!.shadedM2).toBe(0);
    const { altitudeDeg, vector } = sunAt(p, at);
    const square = Math.abs(vector[1]) / Math.hypot(vector[0], vector[1]);
    const [passing] = row!.passing;
    expect(passing!.transmittance).toBe(0.3);
    expect(passing!.areaM2).toBeCloseTo((10 * 2 * square) / Math.tan(altitudeDeg * RAD), 2);
    // A block that shades all of it leaves nothing of the paler region.
    p.options[1]!.masses = [block(rectangle(-20, -30, 20, -20), 60)];
    expect(shadowStudy(p, 'a', NONE, [at], 'areas').rows[0]!.passing).toEqual([]);
  });

  test('a crown: its share in leaf and bare by the date, as large as the shadow of its ellipsoid', () => {
    const p = project([]);
    p.neighbours = [{ ...LIME, at: [0, 0] }];
    const shares = [Date.UTC(2026, 2, 21, 12), Date.UTC(2026, 5, 21, 12)].map((at) => {
      const [row] = shadowStudy(p, 'a', NONE, [at], 'areas').rows;
      expect(row!.passing).toHaveLength(1);
      const [{ areaM2, transmittance, regions }] = row!.passing as [ShadeRow['passing'][number]];
      // Half axes 3 m across and 3.5 m up: π a √(a² + c² / tan² h); the crown is drawn with facets inside of it.
      const { altitudeDeg, vector } = sunAt(p, at);
      const ellipse = Math.PI * 3 * Math.hypot(3, 3.5 / Math.tan(altitudeDeg * RAD));
      expect(areaM2 / ellipse).toBeGreaterThan(0.8);
      expect(areaM2 / ellipse).toBeLessThan(1.001);
      // Its middle lies where the middle of the crown, 6.5 m up, is carried along the sun.
      const way = 6.5 / vector[2];
      const middle: Point2 = [-vector[0] * way, -vector[1] * way];
      expect(regions.some((region) => containsWithHoles(region, middle))).toBe(true);
      return transmittance;
    });
    expect(shares).toEqual([0.6, 0.2]);
  });
});
