import { block, rule } from '../../testing/blocks';
import { boxMesh, HASH, modelAt } from '../../testing/meshes';
import {
  emptyProject,
  type Mass,
  type OpeningRule,
  type Project,
  type RuleMake,
  todayOption,
} from '../project';
import { openingsIn } from './in-option';

const LIGHTS: RuleMake = { by: 'size', widthM: 1, heightM: 1, spacingM: 2, sillM: 1, jambM: 0.5 };
const named = (id: string, scope: Partial<OpeningRule['scope']> = {}) => ({ ...rule(LIGHTS, scope), id });

/** Today with a shed that stays and a barn that goes, options A and B with a mass each, a neighbour, a mesh. */
function project(): Project {
  const made = emptyProject('P', 2026);
  const barn: Mass = { ...block('barn', 60, 0, 6, 6), demolished: true };
  const today = { ...todayOption([block('shed', 40, 0, 6, 6), barn]), rules: [named('of-today')] };
  const a = { ...made.options[1]!, masses: [block('m', 0, 0, 10, 8)], rules: [named('of-a')] };
  const b = { ...a, id: 'b', letter: 'B', masses: [block('n', 0, 0, 10, 8)], rules: [] };
  return {
    ...made,
    options: [today, { ...a, models: [modelAt([80, 0, 0])] }, b],
    neighbours: [{ kind: 'building', ...block('house', 0, 40, 8, 8) }],
    neighbourRules: [named('of-neighbours', { sectors: ['south'] })],
  };
}

/** How many openings each rule makes in each body. */
function made(of: Project, optionId: string): Record<string, Record<string, number>> {
  const openings = openingsIn(of, optionId, new Map([[HASH, boxMesh(6, 4, 3)]]));
  return Object.fromEntries(
    openings.all.flatMap(({ body }) => {
      const counts: Record<string, number> = {};
      for (const list of openings.of(body)?.byFace.values() ?? [])
        for (const opening of list) counts[opening.rule!] = (counts[opening.rule!] ?? 0) + 1;
      return Object.keys(counts).length ? [[body.id, counts]] : [];
    }),
  );
}

test('rules work for the bodies of their own option, of Today and of the neighbours, wherever these stand', () => {
  // Walls of 10 and 8 m take 5 and 4 lights a storey, of 6 m 3; two storeys each.
  expect(made(project(), 'a')).toEqual({
    house: { 'of-neighbours': 8 },
    shed: { 'of-today': 24 },
    m: { 'of-a': 36 },
  });
  expect(made(project(), 'b')).toEqual({ house: { 'of-neighbours': 8 }, shed: { 'of-today': 24 } });
  expect(made(project(), 'today')).toEqual({
    house: { 'of-neighbours': 8 },
    shed: { 'of-today': 24 },
    barn: { 'of-today': 24 },
  });
});

test('a rule with owners is for them only; a mesh is among them only when it is named', () => {
  const start = project();
  const withRule = (scope: Partial<OpeningRule['scope']>): Project => ({
    ...start,
    options: start.options.map((o) => (o.id === 'a' ? { ...o, rules: [named('of-a', scope)] } : o)),
  });
  const own = (scope: Partial<OpeningRule['scope']>) => {
    const { m, kiosk } = made(withRule(scope), 'a');
    return [m?.['of-a'] ?? 0, kiosk?.['of-a'] ?? 0];
  };
  expect(own({})).toEqual([36, 0]);
  // The kiosk of 6 × 4 × 3 m takes 3 and 2 lights on its walls.
  expect(own({ owners: ['kiosk'] })).toEqual([0, 10]);
  expect(own({ owners: ['kiosk', 'm'] })).toEqual([36, 10]);
  expect(own({ owners: ['kiosk'], sectors: ['south'] })).toEqual([0, 3]);
  expect(own({ walls: ['kiosk/mesh/4', 'm/0/0'] })).toEqual([10, 3]);
  expect(own({ walls: ['kiosk/mesh/4', 'm/0/0'], except: ['m/0/0/1', 'kiosk/mesh/4/0'] })).toEqual([5, 0]);
  expect(own({ owners: [] })).toEqual([0, 0]);
});

test('a mesh that is not at hand has no openings and covers nothing; at hand, it covers what it touches', () => {
  const start = project();
  const against: Project = {
    ...start,
    options: start.options.map((o) => (o.id === 'a' ? { ...o, models: [modelAt([10, 2, 0])] } : o)),
  };
  const mass = against.options[1]!.masses[0]!;
  expect(openingsIn(against, 'a').fitted(mass).parties.size).toBe(0);
  expect(openingsIn(against, 'a').all.map(({ body }) => body.id)).not.toContain('kiosk');
  const meshes = new Map([[HASH, boxMesh(6, 4, 3)]]);
  expect([...openingsIn(against, 'a', meshes).fitted(mass).parties.keys()]).toEqual(['wall/0/1/0']);
});

test('asked again for the same document, the same is given; after an edit only what changed is fitted anew', () => {
  const start = project();
  const first = openingsIn(start, 'a');
  expect(openingsIn(start, 'a')).toBe(first);
  const [mass, shed] = [start.options[1]!.masses[0]!, start.options[0]!.masses[0]!];
  const wider = block('m', 0, 0, 12, 8);
  const edited: Project = {
    ...start,
    options: start.options.map((o) => (o.id === 'a' ? { ...o, masses: [wider] } : o)),
  };
  const second = openingsIn(edited, 'a');
  expect(second.fitted(shed)).toBe(first.fitted(shed));
  expect(second.fitted(wider)).not.toBe(first.fitted(mass));
  expect(() => openingsIn(start, 'z')).toThrow('The option “z” does not exist');
});
