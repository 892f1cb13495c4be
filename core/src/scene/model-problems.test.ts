import { addMass } from '../document';
import { facadeAreas, openingsIn } from '../openings';
import { defaultMass, emptyProject, type Mass, type Opening, type Project } from '../project';
import { modelProblems } from './model-problems';

const box = (x: number, y: number, w: number, d: number): [number, number][] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];

const window = (id: string, u: number): Opening => ({
  id,
  name: `Window ${id}`,
  host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
  outline: { kind: 'rectangle', u, v: 1, widthM: 1.2, heightM: 1.2 },
  kind: 'window',
  glazing: 'double',
  revealM: 0.1,
  openable: true,
  grid: null,
});

function project(...masses: Mass[]): Project {
  return masses.reduce((all, mass) => addMass('a', mass)(all), emptyProject('E', 2026));
}

test('a sound model has nothing to look at', () => {
  expect(modelProblems(project(defaultMass('m', 'M', box(0, 0, 10, 8), 3)), 'a')).toEqual([]);
});

test('a terrace house of 300 m is asked about, with the units that would make it usual', () => {
  const house = {
    ...defaultMass('h', 'House', box(0, 0, 6, 9), 2),
    storeys: [{ heightM: 150 }, { heightM: 150 }],
  };
  const [found] = modelProblems(project(house), 'a');
  expect(found).toMatchObject({
    kind: 'height',
    weight: 'ask',
    sentence: '“House” is 300 m high, with a storey of 150 m; were feet or millimetres meant?',
    at: [3, 4.5, 150],
  });
  expect(found!.factors!.map(({ unit }) => unit)).toEqual(['feet', 'millimetres']);
});

test('two masses that overlap are told once, with the volume in closed form', () => {
  const one = defaultMass('a', 'One', box(0, 0, 10, 8), 2);
  const two = defaultMass('b', 'Two', box(8, 2, 6, 4), 1);
  const found = modelProblems(project(one, two), 'a');
  expect(found).toHaveLength(1);
  expect(found[0]!.sentence).toContain(`overlap by ${(2 * 4 * 3).toFixed(1)} m³`);
  expect(
    modelProblems(project(one, { ...two, footprint: { outer: box(10, 2, 6, 4), holes: [] } }), 'a'),
  ).toEqual([]);
});

test('an opening that cannot be built is told where it is, with the place that fits', () => {
  const mass = {
    ...defaultMass('m', 'M', box(0, 0, 10, 8), 1),
    openings: [window('1', 2), window('2', 2.5), window('3', 9.5)],
  };
  const found = modelProblems(project(mass), 'a');
  expect(found.map(({ opening }) => opening!.id)).toEqual(['2', '3']);
  expect(found[0]!.sentence).toContain('“Window 2” in “M”: The opening overlaps “Window 1”');
  expect(found[0]!.opening!.nearest).toMatchObject({ u: expect.closeTo(3.25, 9) });
  expect(found[1]!.opening!.nearest).toMatchObject({ u: expect.closeTo(8.75, 9) });
});

test('an opening whose wall is gone is told, and offers no place', () => {
  const mass = {
    ...defaultMass('m', 'M', box(0, 0, 10, 8), 1),
    openings: [{ ...window('1', 2), host: { on: 'wall' as const, ring: 0, edge: 0, storey: 4 } }],
  };
  const [found] = modelProblems(project(mass), 'a');
  expect(found!.sentence).toContain('Its wall or roof face no longer exists.');
  expect(found!.opening!.nearest).toBeNull();
});

test('facades by orientation: party walls and glass are told apart', () => {
  const one = { ...defaultMass('a', 'One', box(0, 0, 10, 8), 1), openings: [window('1', 2)] };
  const two = defaultMass('b', 'Two', box(10, 0, 5, 8), 1);
  const openings = openingsIn(project(one, two), 'a');
  const both = openings.bodies.map(({ body }) => openings.fitted(body));
  const areas = facadeAreas(both, 0);
  expect(areas.south).toEqual({ facadeM2: 45, partyM2: 0, glazedM2: expect.closeTo(1.44, 9) });
  expect(areas.east).toEqual({ facadeM2: 24, partyM2: expect.closeTo(24, 9), glazedM2: 0 });
  expect(facadeAreas(both, 90).east.glazedM2).toBeCloseTo(1.44, 9);
});

test('a body in the air over nothing is asked about, and one under the ground; not what stands on another, nor devices', () => {
  const at = (id: string, x: number, levelM: number, more: Partial<Mass> = {}): Mass => ({
    ...defaultMass(id, id, box(x, 0, 10, 8), 2),
    base: { on: 'level', levelM },
    ...more,
  });
  const sentences = (made: Project) => modelProblems(made, 'a').map(({ sentence }) => sentence);
  expect(
    sentences(project(at('high', 0, 93), at('low', 40, 2.9), at('deep', 80, -6), at('cellar', 120, -5.9))),
  ).toEqual([
    '“high” floats 93.0 m over the ground, with nothing under it; is its level told from the same height as the ground’s?',
    '“deep” lies under the ground: its top is 0.0 m below; is its level told from the same height as the ground’s?',
  ]);
  // A tower on a base of 6 m, and one beside it that begins as high as it ends.
  expect(sentences(project(at('base', 0, 0), at('tower', 2, 6), at('bridge', 12, 9)))).toEqual([]);
  expect(sentences(project(at('base', 0, 0), at('tower', 2, 9.1)))[0]).toContain('“tower” floats 9.1 m');
  expect(sentences(project(at('shade', 0, 20, { device: true })))).toEqual([]);
  // On ground that falls away it floats from its highest point on.
  const sloping = project(at('high', 0, 4));
  sloping.site.ground = { kind: 'plane', levelM: 0, slopeDeg: 45, fallsTowardsDeg: 90 };
  expect(sentences(sloping)[0]).toContain('floats 4.0 m');
});
