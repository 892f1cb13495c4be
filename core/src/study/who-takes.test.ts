import fc from 'fast-check';
import { block, opening, rect, onOpenGround } from '../../testing/blocks';
import { add, addMass } from '../document';
import {
  defaultMass,
  emptyProject,
  type Mass,
  type Project,
  type Study,
  STUDY_KIND_KEYS,
  type Target,
} from '../project';
import { climateAt, makeUpYear } from '../weather';
import { STUDY_KINDS } from './kinds';
import { planStudy, runStudy } from './run-study';
import { whoTakes } from './who-takes';

const NONE = new Map();
const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);

/** A window of a neighbour to the south, and a lawn before it. */
const TARGETS: Target[] = [
  {
    id: 'w',
    name: 'Windows',
    kind: 'openings',
    among: 'neighbours',
    scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
    withinM: null,
    facing: false,
    at: 'centre',
    spacingM: 0.5,
    offsetM: 0.01,
  },
  {
    id: 'lawn',
    name: 'Lawn',
    kind: 'ground',
    outline: [
      [0, -4],
      [6, -4],
      [6, -1],
      [0, -1],
    ],
    spacingM: 3,
    offsetM: 0.1,
  },
];

function project(kind: Study['kind'], masses: Mass[], targets = TARGETS): Project {
  const house = { ...block('house', 0, 0, 10, 8), openings: [opening('o', rect(4, 1, 1.2, 1.4))] };
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/GMT-1' };
  made.neighbours = [
    { kind: 'building', ...house },
    { kind: 'building', ...block('shed', 14, -12, 4, 6) },
    {
      kind: 'tree',
      id: 'tree',
      name: 'Tree',
      at: [-3, -8],
      heightM: 9,
      crownM: 5,
      clearM: 2,
      crown: 'round',
      leafOpenness: 0.2,
      bareOpenness: 0.6,
      leafFrom: '04-15',
      leafUntil: '11-01',
      demolished: false,
    },
  ];
  const study: Study = {
    id: 's',
    name: 'Study',
    kind,
    targets: targets.map(({ id }) => id),
    window: { from: '2026-04-01', to: '2026-04-02', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 20,
    criterion: { atLeast: 2, share: 0.5, source: '' },
    scale: null,
  };
  const withTargets = targets.reduce(
    (p, target) => add('targets', target)(p),
    add('studies', { ...study, targets: [] })(made),
  );
  const all = { ...onOpenGround(withTargets), studies: [study] };
  return masses.reduce((p, mass) => addMass('a', mass)(p), all);
}

const tell = (p: Project) => {
  const plan = planStudy(p, 'a', p.studies[0]!, NONE, WEATHER);
  return { plan, told: whoTakes(p, plan, NONE), values: runStudy(p, plan, NONE) };
};
const meanOf = ({ plan, values }: ReturnType<typeof tell>, key: string) => {
  const main = values[key]!;
  const { areas, covered } = plan.grid;
  let [sum, area] = [0, 0];
  main.forEach((value, i) => {
    if (covered[i]) return;
    sum += value * areas[i]!;
    area += areas[i]!;
  });
  return sum / area;
};

const told = STUDY_KIND_KEYS.filter((kind) => STUDY_KINDS[kind].weights && kind !== 'solar-gain');

test.each(told)('%s: value and losses by the first along the ray sum to the open value', (kind) => {
  const size = fc.integer({ min: 2, max: 10 });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: -12, max: 8 }), size, size, fc.integer({ min: 1, max: 4 })), {
        maxLength: 3,
      }),
      (some) => {
        const masses = some.map(([x, w, d, storeys], i) =>
          block(`m${i}`, x + 0.37, -10.29 - d - 7 * i, w, d, storeys),
        );
        const all = tell(project(kind, masses));
        const key = STUDY_KINDS[kind].measures[0].key;
        expect(all.told.value).toBeCloseTo(meanOf(all, key), 3);
        const lost = all.told.takers
          .filter(({ storey }) => storey === null)
          .reduce((sum, { takes }) => sum + takes, 0);
        expect(all.told.value + lost).toBeCloseTo(all.told.open, 6);
        for (const { takes, alone } of all.told.takers) expect(alone).toBeLessThanOrEqual(takes + 1e-9);
      },
    ),
    { numRuns: 1, endOnFailure: true },
  );
});

test('where light thrown back is traced, it is beam and sky that are told', () => {
  const open = project('insolation', [block('m', -3, -22, 8, 6)]);
  const all = tell({ ...open, site: { ...open.site, thrownBack: 'traced' } });
  expect(all.told.value).toBeCloseTo(meanOf(all, 'beam') + meanOf(all, 'sky'), 3);
  expect(meanOf(all, 'insolation')).toBeGreaterThan(all.told.value + 0.1);
});

test('solar gain of one’s own windows is told as well', () => {
  const mass = { ...block('m', 0, -30, 10, 8), openings: [opening('o', rect(4, 1, 2, 1))] };
  const own: Target = { ...TARGETS[0]!, among: 'option' } as Target;
  const all = tell(project('solar-gain', [mass, block('front', 0, -44, 10, 6, 3)], [own]));
  // Of its points as many are told as may be: here all of them.
  expect(all.told.value).toBeCloseTo(meanOf(all, 'gain'), 3);
  expect(all.told.takers.map(({ id }) => id)).toContain('front');
});

test('what something takes alone comes back when it goes; its storeys from the top give what cutting gives', () => {
  const bar = {
    ...defaultMass(
      'bar',
      'Bar',
      [
        [-10, -20],
        [20, -20],
        [20, -12],
        [-10, -12],
      ],
      4,
    ),
    roof: { kind: 'flat' as const, parapetM: 0 },
  };
  const p = project('vsc', [bar]);
  const whole = tell(p);
  const taker = whole.told.takers.find(({ id, storey }) => id === 'bar' && storey === null)!;
  const without = tell({ ...p, options: p.options.map((option) => ({ ...option, masses: [] })) });
  expect(without.told.value - whole.told.value).toBeCloseTo(taker.alone, 6);
  const tree = whole.told.takers.find(({ id }) => id === 'tree')!;
  const bare = tell({ ...p, neighbours: p.neighbours.filter(({ id }) => id !== 'tree') });
  expect(bare.told.value - whole.told.value).toBeCloseTo(tree.alone, 6);
  // Storeys of 3 m from level ground: what a storey takes first sums to the whole; cut to two storeys, the slices say it.
  const storeys = whole.told.takers.filter(({ id, storey }) => id === 'bar' && storey !== null);
  expect(storeys.map(({ storey }) => storey)).toEqual([3, 2, 1, 0]);
  expect(storeys.reduce((sum, { takes }) => sum + takes, 0)).toBeCloseTo(taker.takes, 9);
  const cut = { ...bar, storeys: bar.storeys.slice(0, 2) };
  const lower = tell(project('vsc', [cut]));
  const at6 = whole.told.slices.find(({ fromM }) => fromM === 6)!;
  // Rays that would come over a cut at 6 m meet the bar at or above it first, unless they come in from below.
  expect(Math.abs(lower.told.value - whole.told.value - at6.gives)).toBeLessThan(0.05);
  expect(whole.told.slices[0]!.gives).toBeCloseTo(taker.alone, 6);
});

test('the map of the massing holds all that it takes alone', () => {
  const { told: found } = tell(project('sun-hours', [block('m', -4, -20, 16, 6, 8)]));
  const { values, grid } = found.massing!;
  const sum = values.reduce((all, value, i) => all + value * grid.areas[i]!, 0);
  expect(sum).toBeCloseTo(100, 3);
  // What lies lowest towards the windows takes nothing that the ground floor does not; the top takes most.
  const bestZ = grid.positions[values.indexOf(Math.max(...values)) * 3 + 2]!;
  expect(bestZ).toBeGreaterThan(3);
});

test('a kind that is no sum is refused, and so are too many rays; it stops when it is told to', () => {
  const p = project('shadow-frequency', []);
  const plan = planStudy(p, 'a', p.studies[0]!, NONE);
  expect(() => whoTakes(p, plan, NONE)).toThrow('nobody can be told to take it');
  const hours = project('sun-hours', []);
  const small = planStudy(hours, 'a', hours.studies[0]!, NONE);
  expect(() => whoTakes(hours, { ...small, rays: 1e9 }, NONE)).toThrow(
    '1.0 thousand million rays are too many',
  );
  expect(() => whoTakes(hours, small, NONE, { signal: { aborted: true } })).toThrow();
});
