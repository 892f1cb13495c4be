import fc from 'fast-check';
import { area, block, fit, LEVEL, opening, rect, rule, south } from '../../testing/blocks';
import { onFace, outlineArea, outlinePolygon, wallFaces } from '../form';
import {
  DEFAULT_GLAZINGS,
  type Mass,
  type Opening,
  type OpeningOutline,
  type OpeningRule,
  type RuleMake,
} from '../project';
import { massSolid } from '../scene';
import { fits, nearestFit, OPENING_MARGIN_M, openingViolation } from './fit';
import { inScope, makeOnFace, sectorOf } from './rule';

describe('rules', () => {
  const wall = south(block('a', 0, 0, 10, 8));
  const ratio = (share: number, more = {}): RuleMake => ({
    by: 'ratio',
    ratio: share,
    sillM: 0.9,
    headM: 2.4,
    jambM: 0.2,
    bayM: 2.5,
    ...more,
  });
  const glass = (make: RuleMake) =>
    makeOnFace(make, wall, [], 'a').outlines.reduce((sum, { outline }) => sum + outlineArea(outline), 0);

  test('a ratio that fits is kept exactly, with sill and head', () => {
    const made = makeOnFace(ratio(0.3), wall, [], 'a');
    expect(glass(ratio(0.3))).toBeCloseTo(0.3 * 30, 9);
    expect(made.relaxed).toEqual([]);
    expect(made.outlines).toHaveLength(4);
    expect(made.outlines[0]!.outline).toMatchObject({ v: 0.9, heightM: expect.closeTo(1.5, 9) });
  });

  test('then the sill gives way, then the head, then the ratio, and each is said', () => {
    const asked = (share: number) => makeOnFace(ratio(share), wall, [], 'a').relaxed.map(({ what }) => what);
    expect(asked(0.5)).toEqual(['sill']);
    expect(glass(ratio(0.5))).toBeCloseTo(15, 9);
    expect(asked(0.75)).toEqual(['sill', 'head']);
    expect(glass(ratio(0.75))).toBeCloseTo(22.5, 9);
    const most = makeOnFace(ratio(0.95), wall, [], 'a').relaxed.find(({ what }) => what === 'ratio')!;
    // All that is left between the margins: four bays of 2.5 − 2 × 0.2 by 3 − 2 × 0.05.
    expect(most.got).toBeCloseTo((4 * 2.1 * 2.9) / 30, 9);
  });

  test('any ratio: what is made fits the wall and has the area that is said', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 0.95, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        fc.double({ min: 0.1, max: 1.5, noNaN: true }),
        fc.constantFrom(0, 1.2, 2.5, 5),
        (share, sillM, over, bayM) => {
          const make = ratio(share, { sillM, headM: sillM + over, bayM });
          const made = makeOnFace(make, wall, [], 'a');
          const placed: { name: string; outline: OpeningOutline }[] = [];
          for (const { key, outline } of made.outlines) {
            expect(fits(wall, outline, placed, [])).toBe(true);
            placed.push({ name: key, outline });
          }
          const got = made.relaxed.find(({ what }) => what === 'ratio')?.got ?? share;
          expect(glass(make)).toBeCloseTo(got * 30, 6);
          expect(got).toBeLessThanOrEqual(share + 1e-9);
        },
      ),
      { numRuns: 200 },
    );
  });

  test('lights of a size stand centred at their spacing; what does not fit is said', () => {
    const size: RuleMake = { by: 'size', widthM: 1.2, heightM: 1.5, spacingM: 2, sillM: 0.9, jambM: 0.5 };
    const made = makeOnFace(size, wall, [], 'a').outlines.map(({ outline }) => (outline as { u: number }).u);
    expect(made).toEqual([1.4, 3.4, 5.4, 7.4].map((u) => expect.closeTo(u, 9)));
    expect(made).toHaveLength(Math.floor((10 - 1 - 1.2) / 2) + 1);
    expect(makeOnFace({ ...size, widthM: 9.5 }, wall, [], 'a').relaxed[0]!.what).toBe('none fits');
    const tall = makeOnFace({ ...size, heightM: 5 }, wall, [], 'a').relaxed.map(({ what }) => what);
    expect(tall).toEqual(['sill', 'height']);
  });

  test('panels come out the same for the same seed, in about the share asked for, and are turned by hand', () => {
    const panels = (seed: number, turned: string[] = []): RuleMake => ({
      by: 'panels',
      panelWidthM: 0.5,
      panelHeightM: 0.5,
      barM: 0.05,
      density: 0.4,
      seed,
      glazed: true,
      turned,
    });
    const keys = (make: RuleMake) => makeOnFace(make, wall, [], 'a').outlines.map(({ key }) => key);
    expect(keys(panels(7))).toEqual(keys(panels(7)));
    expect(keys(panels(7))).not.toEqual(keys(panels(8)));
    let open = 0;
    for (let seed = 0; seed < 60; seed++) open += keys(panels(seed)).length;
    expect(open / 60 / (19 * 5)).toBeGreaterThan(0.36);
    expect(open / 60 / (19 * 5)).toBeLessThan(0.44);
    const first = keys(panels(7))[0]!;
    expect(keys(panels(7, [`a/0/0/0/${first.replace('-', '/')}`]))).not.toContain(first);
  });

  test('sectors, storeys, owners and picked walls choose the walls; true north turns the sectors', () => {
    expect([0, 44, 46, 134, 180, 269, 316, 359].map(sectorOf)).toEqual([
      'north',
      'north',
      'east',
      'east',
      'south',
      'west',
      'north',
      'north',
    ]);
    const faces = wallFaces(block('a', 0, 0, 10, 8), LEVEL);
    const count = (scope: Partial<OpeningRule['scope']>, north = 0, owner = 'a') =>
      faces.filter((face) => inScope(rule(ratio(0.3), scope), owner, face, north)).length;
    expect(count({})).toBe(8);
    expect(count({ sectors: ['south'] })).toBe(2);
    expect(count({ sectors: ['south'], storeys: [1] })).toBe(1);
    expect(count({ walls: ['a/0/2'] })).toBe(2);
    expect(count({ owners: ['b'] })).toBe(0);
    const isSouth = (north: number) =>
      faces.filter((face) =>
        inScope(rule(ratio(0.3), { sectors: ['south'], storeys: [0] }), 'a', face, north),
      )[0]!.key;
    expect(isSouth(0)).toBe('wall/0/0/0');
    // True north lies 90° clockwise of drawing north, so true south lies drawing west.
    expect(isSouth(90)).toBe('wall/0/3/0');
  });
});

describe('single openings', () => {
  const a = block('a', 0, 0, 10, 8);
  const face = south(a);

  test.each([
    ['off the wall', rect(9, 1, 1.5, 1.2), [], /leaves its wall/],
    ['at the edge', rect(0.02, 1, 1, 1), [], /nearer than 0\.05 m to its edge/],
    ['wider than the wall', rect(0, 1, 11, 1), [], /11\.00 m wide, the wall 10\.00 m/],
    ['higher than the storey', rect(1, 0, 1, 3), [], /3\.00 m high, the wall 3\.00 m/],
    ['over another', rect(2.5, 1, 1, 1), [{ name: 'W1', outline: rect(2, 1, 1, 1) }], /overlaps “W1”/],
  ])('one %s is refused with the reason', (_, outline, others, reason) => {
    expect(openingViolation(face, outline as OpeningOutline, others, [])!.reason).toMatch(reason);
  });

  test('the nearest place is as near as can be', () => {
    const at = (outline: OpeningOutline, others = [] as { name: string; outline: OpeningOutline }[]) =>
      nearestFit(face, outline, others, []) as { u: number; v: number } | null;
    expect(at(rect(9, 1, 1.5, 1.2))).toMatchObject({
      u: expect.closeTo(10 - 1.5 - OPENING_MARGIN_M, 9),
      v: 1,
    });
    expect(at(rect(-3, -1, 1, 1))).toMatchObject({ u: expect.closeTo(0.05, 9), v: expect.closeTo(0.05, 9) });
    expect(at(rect(2.4, 1, 1, 1), [{ name: 'W', outline: rect(2, 1, 1, 1) }])).toMatchObject({
      u: expect.closeTo(3.05, 9),
      v: 1,
    });
    expect(at(rect(0, 0, 12, 1))).toBeNull();
  });

  test('whatever is wanted, the place offered fits, and nothing offered is farther than a place on a fine grid', () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        number(-2, 12),
        number(-1, 4),
        number(0.3, 3),
        number(0.3, 2.5),
        number(0.2, 8),
        (u, v, w, h, o) => {
          const others = [{ name: 'W', outline: rect(o, 0.5, 1.5, 1.5) }];
          const wanted = rect(u, v, w, h);
          const offered = nearestFit(face, wanted, others, []) as { u: number; v: number } | null;
          if (offered) expect(fits(face, offered as unknown as OpeningOutline, others, [])).toBe(true);
          const reach = offered ? Math.hypot(offered.u - u, offered.v - v) : Infinity;
          for (let x = 0.05; x < 10; x += 0.5)
            for (let y = 0.05; y < 3; y += 0.5)
              if (fits(face, rect(x, y, w, h), others, []))
                expect(Math.hypot(x - u, y - v)).toBeGreaterThanOrEqual(reach - 1e-6);
        },
      ),
      { numRuns: 25 },
    );
  });

  test('a party wall takes none, and the exposed remainder still does', () => {
    const low = block('b', 2, -4, 4, 4, 1);
    const window = (u: number, storey = 0) =>
      opening('w', rect(u, 0.9, 1, 1.2), { host: { on: 'wall', ring: 0, edge: 0, storey } });
    const fitted = (o: Opening) => fit({ ...a, openings: [o] }, [], [low]);
    expect(fitted(window(3)).violations[0]!.violation.reason).toContain(
      '“B” stands against this part of the wall',
    );
    expect(fitted(window(3)).violations[0]!.violation.nearest).toMatchObject({ u: expect.closeTo(0.95, 9) });
    expect(fitted(window(7)).violations).toEqual([]);
    expect(fitted(window(3, 1)).violations).toEqual([]);
  });

  test('a rule leaves out what would overlap a single opening, and skips party walls', () => {
    const single = { ...a, openings: [opening('w', rect(4, 0.9, 2, 1.2))] };
    const make: RuleMake = { by: 'size', widthM: 1, heightM: 1, spacingM: 2, sillM: 1, jambM: 0.5 };
    const { byFace } = fit(single, [rule(make)], [block('b', 10, 0, 6, 8, 2)]);
    const on = (key: string) => byFace.get(key)?.map(({ rule: by }) => by) ?? [];
    // Five lights of 1 m every 2 m would fit; the middle one, from 4.5 to 5.5 m, meets the single window.
    expect(on('wall/0/0/0')).toEqual([null, 'r', 'r', 'r', 'r']);
    expect(on('wall/0/0/1')).toHaveLength(5);
    expect(on('wall/0/1/0')).toEqual([]);
    expect(on('wall/0/3/0').length).toBeGreaterThan(0);
  });

  test('an arch is as wide and high as asked, and a half round one has the area of its parts', () => {
    const arch: OpeningOutline = { kind: 'arch', u: 1, v: 0.5, widthM: 2, heightM: 2, riseM: 1 };
    const points = outlinePolygon(arch);
    expect(Math.max(...points.map((p) => p[1]))).toBeCloseTo(2.5, 9);
    // A rectangle of 2 × 1 under a half circle of radius 1, drawn with 16 pieces: sin(π/16)·16/2 for π/2.
    expect(outlineArea(arch)).toBeCloseTo(2 + 8 * Math.sin(Math.PI / 16), 6);
  });
});

describe('bodies with openings', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });

  test('wall and openings sum to the face, whatever the openings', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(number(0.1, 8), number(0.1, 1.5), number(0.3, 1.8), number(0.3, 1.3)), {
          maxLength: 6,
        }),
        (wanted) => {
          const a = block('a', 0, 0, 10, 8);
          const openings = wanted.map(([u, v, w, h], i) => opening(`w${i}`, rect(u, v, w, h)));
          const fitted = fit({ ...a, openings });
          expect(fitted.violations.length + (fitted.byFace.get('wall/0/0/0')?.length ?? 0)).toBe(
            openings.length,
          );
          const piece = massSolid(a, LEVEL, { byFace: fitted.byFace, glazings: DEFAULT_GLAZINGS });
          const glazed = (fitted.byFace.get('wall/0/0/0') ?? []).reduce(
            (sum, o) => sum + outlineArea(o.outline),
            0,
          );
          expect(area(piece, (kind, face) => kind === 'wall' && face === 'wall/0/0/0')).toBeCloseTo(
            30 - glazed,
            6,
          );
          expect(area(piece, (kind) => kind === 'glazing')).toBeCloseTo(glazed, 6);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('curtain walls are bars and panes; doors are opaque; voids are holes; rooflights sit in slopes', () => {
    const a: Mass = { ...block('a', 0, 0, 10, 8), roof: { kind: 'gable', riseM: 3 } };
    const openings = [
      opening('c', rect(1, 0.2, 4, 2.5), { grid: { columns: 4, rows: 2, barM: 0.1 } }),
      opening('d', rect(6, 0.05, 1, 2.1), { kind: 'door', glazing: null }),
      opening('v', rect(8, 1, 1, 1), { kind: 'void', glazing: null }),
      opening('r', rect(2, 1, 1, 1.4), { host: { on: 'roof', face: 0 }, revealM: 0 }),
    ];
    const fitted = fit({ ...a, openings });
    expect(fitted.violations).toEqual([]);
    const piece = massSolid(a, LEVEL, { byFace: fitted.byFace, glazings: DEFAULT_GLAZINGS });
    const panes = ((4 - 0.5) / 4) * ((2.5 - 0.3) / 2) * 8;
    expect(area(piece, (kind) => kind === 'bar')).toBeCloseTo(10 - panes, 9);
    expect(area(piece, (kind) => kind === 'glazing')).toBeCloseTo(panes + 1.4, 9);
    expect(area(piece, (kind) => kind === 'door')).toBeCloseTo(2.1, 9);
    expect(area(piece, (kind, face) => kind === 'wall' && face === 'wall/0/0/0')).toBeCloseTo(
      30 - 10 - 2.1 - 1,
      9,
    );
    const slope = 10 * Math.hypot(4, 3);
    expect(area(piece, (kind) => kind === 'roof')).toBeCloseTo(2 * slope - 1.4, 6);
  });

  test('panes stand back by the reveal', () => {
    const a = block('a', 0, 0, 10, 8);
    const face = south(a);
    expect(onFace(face, [2, 1], 0.3)).toEqual([2, 0.3, 1]);
  });

  test('openings are remembered until something they depend on changes', () => {
    const a = block('a', 0, 0, 10, 8);
    const rules = [rule({ by: 'size', widthM: 1, heightM: 1, spacingM: 2, sillM: 1, jambM: 0.5 })];
    const far = block('f', 100, 0, 5, 5);
    const near = block('n', 10, 0, 5, 8);
    const among = (others: Mass[]) => fit(a, rules, others);
    const first = among([far]);
    expect(among([block('g', 200, 0, 5, 5)])).toBe(first);
    expect(among([near])).not.toBe(first);
  });
});
