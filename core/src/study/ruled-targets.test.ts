import { block, opening, rect, rule } from '../../testing/blocks';
import { add, addMass } from '../document';
import { bounds, cross, type Point3 } from '../geometry';
import { emptyProject, type Mass, type Project, type RuledTarget, type Study } from '../project';
import { type FlatTarget, flatTargets, partsOfTarget } from './flat-target';
import { planStudy } from './run-study';
import { signature, signatureChanges } from './signature';

const NONE = new Map();
const ANYWHERE = { owners: null, sectors: null, storeys: null, walls: null, except: [] };
const openings = (more: Partial<Extract<RuledTarget, { kind: 'openings' }>> = {}): RuledTarget => ({
  id: 'w',
  name: 'Windows',
  kind: 'openings',
  among: 'neighbours',
  scope: ANYWHERE,
  withinM: null,
  facing: false,
  at: 'centre',
  spacingM: 0.5,
  offsetM: 0.01,
  ...more,
});

/** A house north of the plot with a window to the south and one to the north, and a proposal. */
function project(distanceM = 20): Project {
  const house = {
    ...block('house', 0, 0, 10, 8),
    openings: [
      opening('south', rect(4, 0.9, 1.2, 1.4)),
      opening('north', rect(4, 0.9, 1.2, 1.4), { host: { on: 'wall', ring: 0, edge: 2, storey: 1 } }),
      opening('door', rect(1, 0, 1, 2.1), { kind: 'door', glazing: null }),
    ],
  };
  const made = { ...emptyProject('P', 2026), neighbours: [{ kind: 'building' as const, ...house }] };
  return addMass('a', block('new', 0, -distanceM - 6, 10, 6))(made);
}

const parts = (p: Project, target: RuledTarget, option = 'a') => partsOfTarget(p, option, target, NONE);
const placeOf = (target: FlatTarget, [u, v]: readonly [number, number]): Point3 => {
  if (target.kind !== 'plane') throw new Error('not a plane');
  return [0, 1, 2].map((k) => target.origin[k]! + target.u[k]! * u + target.v[k]! * v) as unknown as Point3;
};

test('every glazed opening is a target of its own where its pane stands, facing outwards', () => {
  const [south, north, ...rest] = parts(project(), openings());
  expect(rest).toEqual([]);
  expect(south!.name).toBe('HOUSE · south · storey 1 · south');
  expect(north!.name).toBe('HOUSE · north · storey 2 · north');
  // Middle of the pane, 0.1 m behind the wall at y = 0.
  expect(placeOf(south!, south!.sensorAt!).map((x) => Number(x.toFixed(6)))).toEqual([4.6, 0.1, 1.6]);
  if (south!.kind !== 'plane') throw new Error();
  cross(south!.u, south!.v).forEach((n, k) => expect(n).toBeCloseTo([0, -1, 0][k]!, 12));
  expect(south!.glass).toMatchObject({ gValue: 0.72, frameShare: 0.25, panes: 2, categoryQ: 4 });
  expect(new Set([south!.id, north!.id]).size).toBe(2);
});

test('the reference point of a room lies 0.3 m above the sill and 1.2 m above the floor, in the opening', () => {
  const heights = [
    [0.2, 2],
    [1.1, 1],
    [0.1, 0.8],
  ].map(([sill, height]) => {
    const p = project();
    const house = { ...p.neighbours[0]!, openings: [opening('s', rect(4, sill!, 1.2, height!))] };
    const [pane] = parts(
      { ...p, neighbours: [house as Project['neighbours'][number]] },
      openings({ at: 'reference' }),
    );
    return pane!.sensorAt![1];
  });
  expect(heights.map((z) => Number(z.toFixed(9)))).toEqual([1.2, 1.4, 0.9]);
});

test('those before which a proposal stands, and within a distance, whatever the option', () => {
  const named = (target: RuledTarget, p = project(), option = 'today') =>
    parts(p, target, option).map(({ name }) => name.split(' ').at(-1));
  expect(named(openings({ facing: true }))).toEqual(['south']);
  expect(named(openings({ withinM: 20.2 }))).toEqual(['south']);
  expect(named(openings({ withinM: 19.9 }))).toEqual([]);
  expect(named(openings({ withinM: 40 }))).toEqual(['south', 'north']);
  expect(named(openings({ scope: { ...ANYWHERE, sectors: ['north'] } }))).toEqual(['north']);
  expect(named(openings({ scope: { ...ANYWHERE, storeys: [0] } }))).toEqual(['south']);
});

test('facades follow the mass, storey by storey, with roofs on request', () => {
  const target: RuledTarget = {
    id: 'f',
    name: 'Walls',
    kind: 'facades',
    among: 'option',
    scope: { ...ANYWHERE, sectors: ['south', 'west'] },
    roofs: false,
    spacingM: 1,
    offsetM: 0.01,
  };
  const p = project();
  expect(parts(p, target).map(({ name }) => name)).toEqual([
    'NEW · south · storey 1',
    'NEW · west · storey 1',
    'NEW · south · storey 2',
    'NEW · west · storey 2',
  ]);
  expect(parts(p, { ...target, roofs: true })).toHaveLength(5);
  // Walls of a court are told from those outside that face the same way.
  const ringed = project();
  const mass = ringed.options.find(({ id }) => id === 'a')!.masses[0]!;
  const { minX, minY, maxX, maxY } = bounds(mass.footprint.outer);
  const [cx, cy] = [(minX + maxX) / 2, (minY + maxY) / 2];
  mass.footprint.holes = [
    [
      [cx - 1, cy - 1],
      [cx + 1, cy - 1],
      [cx + 1, cy + 1],
      [cx - 1, cy + 1],
    ],
  ];
  const names = parts(ringed, target).map(({ name }) => name);
  expect(names).toContain('NEW · south · court · storey 1');
  expect(new Set(names).size).toBe(8);
  const moved = project(30);
  const [before, after] = [p, moved].map((one) => placeOf(parts(one, target)[0]!, [0, 0]));
  expect(after![1] - before![1]).toBeCloseTo(-10, 9);
});

test('working planes of rooms lie above their floor', () => {
  const mass: Mass = {
    ...block('new', 0, -30, 10, 6),
    partitions: [
      {
        id: 'p',
        storey: 1,
        path: [
          [4, -30],
          [4, -24],
        ],
      },
    ],
    rooms: [
      { id: 'ward', name: 'Ward', storey: 1, at: [2, -27], doubleHeight: false },
      { id: 'hall', name: 'Hall', storey: 0, at: [2, -27], doubleHeight: false },
    ],
  };
  const p = addMass('a', mass)(emptyProject('P', 2026));
  const target: RuledTarget = {
    id: 'r',
    name: 'Rooms',
    kind: 'rooms',
    among: 'option',
    mass: 'new',
    rooms: null,
    heightM: 0.85,
    spacingM: 0.5,
    offsetM: 0.01,
  };
  expect(parts(p, target).map(({ name }) => name)).toEqual(['NEW · Hall', 'NEW · Ward']);
  const [ward] = parts(p, { ...target, rooms: ['ward'] });
  expect(placeOf(ward!, [0, 0])[2]).toBeCloseTo(3.85, 9);
  expect(parts(p, { ...target, mass: 'gone' })).toEqual([]);
});

function withStudy(p: Project, target: RuledTarget): { p: Project; study: Study } {
  const study: Study = {
    id: 's',
    name: 'Study',
    kind: 'vsc',
    targets: [target.id],
    window: { from: '2026-03-21', to: '2026-03-21', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 10,
    criterion: { atLeast: 27, share: 1, source: '' },
    scale: null,
  };
  return { p: add('studies', study)(add('targets', target)(p)), study };
}

test('a pane has one sensor at its middle, or a grid; nothing meant is said', () => {
  const one = withStudy(project(), openings());
  const { grid } = planStudy(one.p, 'a', one.study, NONE);
  expect(grid.count).toBe(2);
  expect(Array.from(grid.areas)).toEqual([expect.closeTo(1.68, 9), expect.closeTo(1.68, 9)]);
  // 0.01 m before the pane.
  expect(grid.positions[1]).toBeCloseTo(0.09, 9);
  const many = withStudy(project(), openings({ at: 'grid', spacingM: 0.2 }));
  expect(planStudy(many.p, 'a', many.study, NONE).grid.count).toBe(2 * 6 * 7);
  const none = withStudy(project(), openings({ among: 'option' }));
  expect(() => flatTargets(none.p, 'a', none.study, NONE)).toThrow(
    '“Windows” means nothing that stands in this option',
  );
});

test('openings by a rule count as well, and a result knows when what it means has changed', () => {
  const p = project();
  const ruled = {
    ...p,
    neighbourRules: [rule({ by: 'size', widthM: 1, heightM: 1, spacingM: 3, sillM: 0.9, jambM: 0.5 })],
  };
  expect(parts(ruled, openings()).length).toBeGreaterThan(parts(p, openings()).length);
  const near = withStudy(p, openings({ withinM: 20.2 }));
  const before = signature(near.p, 'today', near.study);
  const further = { ...near.p, options: project(25).options };
  expect(signatureChanges(before, signature(further, 'today', near.study))).toEqual([
    'The target “Windows” was changed.',
  ]);
});
