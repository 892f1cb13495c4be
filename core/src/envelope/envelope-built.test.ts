import fc from 'fast-check';
import { box, DAY, envelope, keeping, outlines, site, windows } from '../../testing/envelope-sites';
import { meshFaults, readModelFile, weldMesh } from '../files';
import { areaWithHoles, growPolygons, type Mesh, type Point2 } from '../geometry';
import { storeyPlate } from '../form';
import { type Envelope, type Mass, type Option, type Project, TODAY } from '../project';
import { breachesCsv, ENVELOPE_FORMATS, envelopeFile } from './envelope-files';
import { envelopeBreaches } from './breaches';
import { cutToFit } from './cut-to-fit';
import { envelopeField, envelopeFigures, EnvelopeSolver } from './envelope-field';
import { contourLines, envelopeLattice, levelOn, nodePlace, openAbove } from './envelope-lattice';
import { envelopeBody, envelopeShell } from './envelope-shell';
import { fillEnvelope } from './fill';
import { placesWithin } from './plates-under';
import { proveEnvelope } from './proof';
import { fillSloped } from './sloped-fill';

const NONE = new Map<string, Mesh>();

function mass(outer: [number, number][], storeys: number, heightM: number, more: Partial<Mass> = {}): Mass {
  return {
    ...{ id: 'm', name: 'Block', footprint: { outer, holes: [] }, base: { on: 'ground', offsetM: 0 } },
    ...{ storeys: Array.from({ length: storeys }, () => ({ heightM })), roof: { kind: 'flat', parapetM: 0 } },
    ...{ openings: [], partitions: [], rooms: [], furniture: [], demolished: false },
    ...more,
  };
}

function proposing(project: Project, masses: Mass[]): Project {
  const option: Option = {
    ...{ id: 'a', name: 'A', letter: 'A', hue: 0, note: '', masses, models: [], rules: [] },
    ...{ schemes: [], scheme: null },
  };
  return { ...project, options: [...project.options.filter(({ id }) => id !== 'a'), option] };
}

const limited = (heightM: number, more: Partial<Envelope> = {}) =>
  envelope({ limit: { over: 'ground', heightM }, ...more });

test('what stands over a limit and over the edge, by its volume and how far', () => {
  const project = proposing(site(), [
    mass(box(4, 3, 14, 13), 4, 3),
    mass(box(16, 2, 22, 6), 1, 3, { id: 'n' }),
  ]);
  const { by, builtM3, overM3, outsideM3, owners } = envelopeBreaches(project, 'a', limited(9), NONE);
  expect(builtM3).toBeCloseTo(1200 + 72, 6);
  expect(overM3).toBeCloseTo(300, 6);
  expect(outsideM3).toBeCloseTo(2 * 4 * 3, 6);
  expect(by.map(({ name }) => name)).toEqual(['height limit', 'outside of what may be built on']);
  expect(by[0]!.worst).toMatchObject({ levelM: 12, overM: 3 });
  expect(owners.map(({ id, volumeM3 }) => [id, Math.round(volumeM3)])).toEqual([
    ['m', 300],
    ['n', 24],
  ]);
  const lines = breachesCsv({ by } as ReturnType<typeof envelopeBreaches>, 'Etc/UTC')
    .trim()
    .split(/\r?\n/);
  expect(lines[0]).toBe('reason,volume_m3,furthest_m,x,y,level_m,at');
  expect(lines[1]).toMatch(/^height limit,300,3,[\d.]+,[\d.]+,12,$/);
  // A bridge is not counted for what lies beneath it, and Today is held against it as it stands.
  const bridge = mass(box(4, 3, 14, 13), 1, 3, { base: { on: 'level', levelM: 8 } });
  expect(envelopeBreaches(proposing(site(), [bridge]), 'a', limited(9), NONE).builtM3).toBeCloseTo(300, 6);
  expect(envelopeBreaches(project, TODAY, limited(9), NONE).builtM3).toBe(0);
});

test('the lattice is the field within 5 cm, its contours lie on it, its body is closed and holds what figures say', () => {
  fc.assert(
    fc.property(outlines, windows, (outline, window) => {
      const { project, asked } = keeping([{ outline, levelM: 0, windows: [window] }], site(), {
        limit: { over: 'ground', heightM: 25 },
      });
      const solver = new EnvelopeSolver(project, asked);
      const lattice = envelopeLattice(solver, asked, 0.25);
      const off = Array.from({ length: 300 }, (_, k) => (k * 7919) % lattice.levelM.length).filter(
        (i) => Math.abs(lattice.levelM[i]! - solver.at(nodePlace(lattice, i)).levelM) > 0.05,
      );
      expect(off).toEqual([]);
      for (const { levelM, points } of contourLines(lattice, 2))
        expect(
          points.filter(
            (p) => !(levelOn(lattice, p, true) <= levelM + 1e-6 && levelOn(lattice, p) > levelM - 0.4),
          ),
        ).toEqual([]);
      const body = weldMesh(envelopeBody(solver, envelopeShell(solver, lattice)), 1e-6);
      // Where the field comes down to the ground the body has no thickness, and its two sides share their edges.
      expect(meshFaults(body)).toMatchObject({ openEdges: 0, insideOut: false });
      const { volumeM3 } = envelopeFigures(envelopeField(project, asked, 0.25), asked);
      expect(Math.abs(volumeOf(body) / volumeM3 - 1)).toBeLessThan(0.01);
    }),
    { numRuns: 6, endOnFailure: true },
  );
});

function volumeOf({ positions: p, triangles }: Mesh): number {
  let six = 0;
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => triangles[i + k]! * 3) as [number, number, number];
    six +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) -
      p[a + 1]! * (p[b]! * p[c + 2]! - p[b + 2]! * p[c]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!);
  }
  return six / 6;
}

test('where it may be built up to a level shrinks as the level rises', () => {
  const { project, asked } = keeping([
    { outline: box(2, 19, 16, 29), levelM: 0, windows: [DAY('2026-04-10')] },
  ]);
  const lattice = envelopeLattice(new EnvelopeSolver(project, asked), asked, 0.25);
  const area = (levelM: number) =>
    openAbove(lattice, levelM).reduce((sum, one) => sum + areaWithHoles(one), 0);
  expect(area(0.5)).toBeCloseTo(300, 3);
  const areas = [0.5, 4, 8, 12, 16].map(area);
  expect(areas).toEqual([...areas].sort((a, b) => b - a));
  expect(areas.at(-1)).toBeLessThan(200);
});

/** Gardens somewhere to the north, turned any way. */
const gardens = fc
  .tuple(
    fc.double({ min: -20, max: 40, noNaN: true }),
    fc.double({ min: 30, max: 45, noNaN: true }),
    fc.double({ min: 4, max: 20, noNaN: true }),
    fc.double({ min: 4, max: 12, noNaN: true }),
    fc.double({ min: 0, max: Math.PI, noNaN: true }),
  )
  .map(([x, y, width, depth, turn]) =>
    box(-width / 2, -depth / 2, width / 2, depth / 2).map(([u, v]): [number, number] => [
      x + u * Math.cos(turn) - v * Math.sin(turn),
      y + u * Math.sin(turn) + v * Math.cos(turn),
    ]),
  );

const WISH = { storeyM: 3, leastDepthM: 3, coreM: 8 };

test('filled with whole storeys nothing stands out, none is narrower than asked, and a core is near everywhere', () => {
  fc.assert(
    fc.property(outlines, windows, (outline, window) => {
      const { project, asked } = keeping([{ outline, levelM: 0, windows: [window] }], site(), {
        limit: { over: 'ground', heightM: 20 },
      });
      const solver = new EnvelopeSolver(project, asked);
      const lattice = envelopeLattice(solver, asked, 0.25);
      let filled;
      try {
        filled = fillEnvelope(project, asked, solver, lattice, WISH);
      } catch (error) {
        expect((error as Error).message).toContain('Not one storey');
        return;
      }
      const { masses, cores, floorAreaM2, storeys } = filled;
      const built = envelopeBreaches(proposing(project, masses), 'a', asked, NONE, 0.25);
      expect(built.overM3 + built.outsideM3).toBe(0);
      expect(Math.abs(built.builtM3 / (floorAreaM2 * 3) - 1)).toBeLessThan(0.05);
      expect(storeys).toBeLessThanOrEqual(6);
      // No more than the storeys that the field holds point by point.
      const most = envelopeFigures(envelopeField(project, asked, 0.25), { storeyM: 3 }).floorAreaM2;
      expect(floorAreaM2).toBeLessThanOrEqual(most * 1.01);
      for (const one of masses) {
        const plate = storeyPlate(one, 0)!;
        expect(growPolygons([plate], -(WISH.leastDepthM / 2 - 0.05)).length).toBeGreaterThan(0);
        const far = placesWithin(plate, 1).filter(
          ([x, y]) =>
            !cores.some(({ at, storeys: up }) => up > 0 && Math.hypot(at[0] - x, at[1] - y) <= WISH.coreM),
        );
        expect(far).toEqual([]);
      }
    }),
    { numRuns: 8, endOnFailure: true },
  );
});

test('filled up to the surface it is one closed body, under the field everywhere', () => {
  fc.assert(
    fc.property(gardens, windows, (outline, window) => {
      const { project, asked } = keeping([{ outline, levelM: 0, windows: [window] }], site(), {
        limit: { over: 'ground', heightM: 15 },
      });
      const solver = new EnvelopeSolver(project, asked);
      const lattice = envelopeLattice(solver, asked, 0.5);
      const { mesh, floorAreaM2, storeys } = fillSloped(project, asked, solver, lattice, 3);
      expect(meshFaults(weldMesh(mesh, 1e-6))).toMatchObject({ openEdges: 0, insideOut: false });
      expect(storeys).toBeLessThanOrEqual(5);
      const { positions: p } = mesh;
      let over = 0;
      for (let i = 0; i < p.length; i += 3)
        if (p[i + 2]! > solver.at([p[i]!, p[i + 1]!]).levelM + 1e-6) over++;
      expect(over).toBe(0);
      const openM2 = openAbove(lattice, 3).reduce((sum, one) => sum + areaWithHoles(one), 0);
      expect(volumeOf(mesh)).toBeGreaterThan(openM2 * 3 * 0.8);
      expect(floorAreaM2).toBeCloseTo(
        Array.from({ length: storeys }, (_, k) => openAbove(lattice, (k + 1) * 3))
          .flat()
          .reduce((sum, one) => sum + areaWithHoles(one), 0),
        6,
      );
    }),
    { numRuns: 3, endOnFailure: true },
  );
});

test('a limit of height alone is filled to the edge: as many storeys as go under it', () => {
  const asked = limited(10);
  const solver = new EnvelopeSolver(site(), asked);
  const filled = fillEnvelope(site(), asked, solver, envelopeLattice(solver, asked, 0.5), WISH);
  expect(filled).toMatchObject({ storeys: 3 });
  expect(filled.floorAreaM2).toBeCloseTo(3 * 300, 1);
  expect(filled.masses).toHaveLength(1);
  expect(filled.cores.length).toBeLessThan(8);
  expect(() => {
    fillEnvelope(site(), asked, solver, envelopeLattice(solver, asked, 0.5), { ...WISH, storeyM: 11 });
  }).toThrow('Not one storey of 11 m');
});

test('cut to fit, nothing stands out, and what fitted is left as it was', () => {
  const corner = fc.integer({ min: 1, max: 8 });
  fc.assert(
    fc.property(outlines, windows, corner, corner, (outline, window, x, y) => {
      const { project, asked } = keeping([{ outline, levelM: 0, windows: [window] }], site(), {
        limit: { over: 'ground', heightM: 14 },
      });
      const of = proposing(project, [
        mass(box(x, y, x + 11, y + 6), 6, 3, { roof: { kind: 'flat', parapetM: 0.9 } }),
        mass(box(0.5, 0.5, 1, 14), 1, 0.2, { id: 'low' }),
      ]);
      for (const manner of ['set back', 'lower'] as const) {
        const cut = cutToFit(of, 'a', asked, NONE, manner, 3);
        const after = envelopeBreaches(proposing(of, cut.masses), 'a', asked, NONE, 0.25);
        expect(after.overM3 + after.outsideM3).toBe(0);
        expect(cut.floorAreaM2).toBeLessThan(cut.floorAreaBeforeM2);
        expect(cut.said.join(' ')).toContain('“Block”');
        if (manner === 'lower')
          for (const one of cut.masses)
            expect(one.storeys.every((s) => s.setbacksM === undefined)).toBe(true);
      }
    }),
    { numRuns: 10, endOnFailure: true },
  );
  const fine = proposing(site(), [mass(box(4, 3, 14, 13), 2, 3)]);
  const { masses, said } = cutToFit(fine, 'a', limited(9), NONE, 'set back', 3);
  expect(masses[0]).toBe(fine.options.at(-1)!.masses[0]);
  expect(said).toEqual([]);
  // A roof alone that stands out becomes flat.
  const pitched = mass(box(4, 3, 14, 13), 2, 3, { roof: { kind: 'gable', riseM: 4 } });
  expect(cutToFit(proposing(site(), [pitched]), 'a', limited(9), NONE, 'lower', 3).said).toEqual([
    '“Block” has a flat roof.',
  ]);
});

test('setting back costs less floor than lowering where only an edge is over a line of slope', () => {
  const asked = envelope({ slope: { fromM: 4, rise: 1 } });
  const of = proposing(site(), [mass(box(0.5, 0.5, 19.5, 14.5), 3, 3)]);
  const back = cutToFit(of, 'a', asked, NONE, 'set back', 4);
  const lower = cutToFit(of, 'a', asked, NONE, 'lower', 4);
  expect(back.masses[0]!.storeys).toHaveLength(3);
  expect(lower.masses[0]!.storeys).toHaveLength(1);
  expect(back.floorAreaM2).toBeGreaterThan(lower.floorAreaM2 * 1.5);
  // The second storey ends 6 m up, so 2 m in; the third 9 m up, 5 m in.
  expect(areaWithHoles(storeyPlate(back.masses[0]!, 1)!)).toBeCloseTo(16 * 11, -1.3);
});

test('proof by tracing on random sites: nothing is taken under the field, something 0.2 m over it', () => {
  fc.assert(
    fc.property(gardens, windows, (outline, window) => {
      const { project, asked } = keeping([{ outline, levelM: 0, windows: [window] }]);
      const proof = proveEnvelope(project, asked, NONE)!;
      expect(proof.rays).toBeGreaterThan(0);
      expect(proof.blocked).toBe(0);
      // At the end of a window a sun may touch a corner and no more.
      expect(proof.raised - proof.shading).toBeLessThanOrEqual(1);
    }),
    { numRuns: 8, endOnFailure: true },
  );
  const { project, asked } = keeping([{ outline: box(2, 19, 16, 29), windows: [DAY('2026-04-10')] }]);
  expect(proveEnvelope(project, asked, NONE, () => false)).toBeNull();
});

test('sun that a wall takes from all of an area already need not be kept, when that is asked', () => {
  const { project, asked } = keeping([
    { outline: box(4, 20, 14, 24), levelM: 0, windows: [DAY('2026-12-21')] },
  ]);
  const wall = {
    kind: 'wall' as const,
    id: 'w',
    name: 'Wall',
    path: [[-60, 18] as [number, number], [80, 18] as [number, number]],
  };
  project.neighbours = [{ ...wall, heightM: 12, thicknessM: 0.3, demolished: false }];
  const at = (lost: 'keep' | 'leave', of = project) =>
    new EnvelopeSolver(of, { ...asked, lost }).at([10, 8] as Point2).levelM;
  expect(at('keep')).toBeLessThan(10);
  expect(at('leave')).toBe(Infinity);
  // A wall that goes takes nothing, and one that leaves a part of the area in sun leaves all of it to be kept.
  const gone = { ...project, neighbours: [{ ...project.neighbours[0]!, demolished: true }] };
  expect(at('leave', gone)).toBe(at('keep'));
  const low = {
    ...project,
    neighbours: [{ ...project.neighbours[0]!, heightM: 1 } as Project['neighbours'][number]],
  };
  expect(at('leave', low)).toBe(at('keep'));
});

test('the facade of a neighbour keeps its sun by rule, from a storey up', () => {
  const project = site();
  const house = mass(box(2, 22, 14, 30), 2, 3, { id: 'house', name: 'House' });
  project.neighbours = [{ ...house, kind: 'building' }];
  const facade = {
    ...{ id: 'f', name: 'South side', kind: 'facades' as const, among: 'neighbours' as const, roofs: false },
    scope: { owners: null, sectors: ['south'] as const, storeys: [1], walls: null, except: [] },
    ...{ spacingM: 1, offsetM: 0.01 },
  };
  project.targets = [facade] as unknown as Project['targets'];
  const keep = [
    {
      on: 'target' as const,
      id: 'f',
      option: null,
      basis: 'clock' as const,
      windows: [DAY('2026-03-21', 11, 13)],
    },
  ];
  const asked = envelope({ keep });
  const { levelM, decidedBy } = new EnvelopeSolver(project, asked).at([8, 10]);
  // The wall from the first floor up, as a plane that is drawn there.
  project.targets = [
    {
      ...{ id: 'f', name: 'Plane', kind: 'plane', origin: [2, 22, 3], u: [1, 0, 0], v: [0, 0, 1] },
      ...{ outline: box(0, 0, 12, 3), holes: [], spacingM: 1, offsetM: 0.01, of: null },
    },
  ] as unknown as Project['targets'];
  expect(levelM).toBeCloseTo(new EnvelopeSolver(project, asked).at([8, 10]).levelM, 6);
  expect(decidedBy).toBe(0);
});

test('the facade of a proposal keeps its sun where that option is named, and is nowhere in Today', () => {
  const project = proposing(site(), [mass(box(2, 22, 14, 30), 2, 3)]);
  project.targets = [
    {
      ...{
        id: 'f',
        name: 'Own facade',
        kind: 'facades',
        among: 'option',
        roofs: false,
        spacingM: 1,
        offsetM: 0.01,
      },
      scope: { owners: null, sectors: ['south'], storeys: null, walls: null, except: [] },
    },
  ] as unknown as Project['targets'];
  const at = (option: string | null) => {
    const keep = [
      {
        on: 'target' as const,
        id: 'f',
        option,
        basis: 'clock' as const,
        windows: [DAY('2026-03-21', 11, 13)],
      },
    ];
    return new EnvelopeSolver(project, envelope({ keep }));
  };
  expect(at(null).at([8, 10]).levelM).toBe(Infinity);
  expect(at(null).notes.join(' ')).toContain('“Own facade” means nothing that stands');
  expect(at('a').at([8, 10]).levelM).toBeLessThan(20);
});

test('the files: bodies that are read back with the same volume, contours where they are in the field', async () => {
  const { project, asked } = keeping(
    [{ outline: box(2, 19, 16, 29), levelM: 0, windows: [DAY('2026-04-10')] }],
    site(),
    {
      limit: { over: 'ground', heightM: 20 },
    },
  );
  const { volumeM3 } = envelopeFigures(envelopeField(project, asked, 0.25), asked);
  for (const format of ['glb', 'stl'] as const) {
    const bytes = await envelopeFile(project, asked, NONE, format);
    const { mesh } = await readModelFile(bytes, `e.${format}`, () => Promise.reject(new Error('no IFC')));
    const z = format === 'glb' ? 1 : 2;
    expect(mesh!.positions.filter((_, i) => i % 3 === z).reduce((a, b) => Math.max(a, b), 0)).toBeCloseTo(
      20,
      3,
    );
    expect(Math.abs(Math.abs(volumeOf(mesh!)) / volumeM3 - 1)).toBeLessThan(0.02);
  }
  const text = async (format: (typeof ENVELOPE_FORMATS)[number]) =>
    new TextDecoder().decode(await envelopeFile(project, asked, NONE, format));
  const geo = JSON.parse(await text('geojson'));
  const lines = geo.features.filter((f: { properties: { kind: string } }) => f.properties.kind === 'contour');
  expect(lines.length).toBeGreaterThan(3);
  expect(
    lines.every((l: { properties: { level_m: number } }) => Number.isInteger(l.properties.level_m)),
  ).toBe(true);
  const dxf = await text('dxf');
  for (const layer of ['SURFACE', 'CONTOURS', 'OUTLINE', '3DFACE']) expect(dxf).toContain(layer);
});
