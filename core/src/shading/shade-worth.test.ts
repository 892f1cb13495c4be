import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { glazedPlaces } from '../devices';
import { areaWithHoles, containsWithHoles, type Point2, type Polygon } from '../geometry';
import { type DeviceMake, type HourSet, makeProblem, type Project } from '../project';
import { deviceSolid } from '../scene';
import { climateAt, makeUpYear } from '../weather';
import { GlassReader } from './glass-reading';
import { GlassYear } from './glass-year';
import { plateOn, shadeWorth, type WorthPlane } from './shade-worth';
import { netWorth, worthOutline } from './worth-outline';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const SETS: HourSet[] = [
  { id: 'warm', name: 'Warm', use: 'unwanted', source: { by: 'temperature', above: true, atC: 18 } },
  { id: 'cold', name: 'Cold', use: 'wanted', source: { by: 'temperature', above: false, atC: 12 } },
];
const AGAINST = { unwanted: SETS[0]!, wanted: SETS[1]! };
const PLANE: WorthPlane = { aboveM: 0.15, offM: 0, tiltDeg: 0, sideM: 1, outM: 2, cellM: 0.1 };

function asked(weather: typeof WEATHER | null = WEATHER) {
  const project: Project = { ...house(null, 0.1), hourSets: SETS };
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  return { project, places, of: { project, optionId: 'a', meshes: NONE, weather } };
}

/** What of unwanted and wanted sun a device keeps off, by tracing it. */
function keptOff(make: DeviceMake): [number, number] {
  const { project, places, of } = asked();
  const year = new GlassYear(of, places, {
    together: 1024,
    least: 128,
    most: 512,
    parts: 1024,
    rays: { together: 256, least: 32, most: 256 },
  });
  const { sets } = new GlassReader(year, project, WEATHER).read(year.past([deviceSolid({ make }, places)]));
  return [sets[0]!.bare - sets[0]!.shaded, sets[1]!.bare - sets[1]!.shaded];
}

const total = (values: ArrayLike<number>) => Array.from(values).reduce((sum, one) => sum + one, 0);

test.each([
  ['level over the head', PLANE],
  ['upright in front', { ...PLANE, aboveM: 0.3, offM: 0.8, tiltDeg: 90, outM: 1 }],
  ['slanted', { ...PLANE, tiltDeg: 35 }],
] as const)('a plate of a set of cells keeps off what the map says, by tracing: %s', (_, plane) => {
  const { places, of } = asked();
  const map = shadeWorth(of, places, undefined, plane, AGAINST);
  const net = netWorth(map, 0.5);
  const outlines = worthOutline(map, 0.5, 'cells');
  // The cells of the outlines are those that are worth something, but for single ones, of which no plate can be made.
  const { columns, cellM, x0 } = map;
  const inside = Array.from(net, (_, i): number => {
    const middle: Point2 = [x0 + ((i % columns) + 0.5) * cellM, (Math.floor(i / columns) + 0.5) * cellM];
    return Number(outlines.some((outline) => containsWithHoles(outline, middle)));
  });
  expect(total(inside)).toBeGreaterThan(5);
  inside.forEach((is, i) => is && expect(net[i]).toBeGreaterThan(0));
  const make: DeviceMake = { ...plateOn(plane, 0.001), outlines: outlines.map(mutable) };
  const [unwanted, wanted] = keptOff(make);
  const sum = (values: Float64Array) => total(values.map((value, i) => value * inside[i]!));
  // What meets the rim of a millimetre is not in the map.
  expect(Math.abs(unwanted - sum(map.unwanted))).toBeLessThan(0.005 * sum(map.unwanted) + 0.05);
  expect(Math.abs(wanted - sum(map.wanted))).toBeLessThan(0.01 * sum(map.wanted) + 0.05);
});

test('the whole plane is an overhang: the cells add up to what that keeps off', () => {
  const { places, of } = asked();
  const map = shadeWorth(of, places, undefined, PLANE, AGAINST);
  const [unwanted] = keptOff({ ...OVERHANG, depthM: 2, aboveM: 0.15, sideM: 1, thicknessM: 0.001 });
  expect(Math.abs(total(map.unwanted) - unwanted)).toBeLessThan(0.005 * unwanted);
  expect(total(map.unwanted)).toBeLessThan(map.unwantedAll);
});

test('an outline of any manner holds about the same, with fewer corners where its edges are straight', () => {
  const { places, of } = asked();
  const map = shadeWorth(of, places, undefined, { ...PLANE, cellM: 0.05 }, AGAINST);
  const [cells, smooth, straight] = (['cells', 'smooth', 'straight'] as const).map((manner) =>
    worthOutline(map, 0.3, manner),
  );
  const area = (of: Polygon[] | undefined) => of!.reduce((sum, one) => sum + areaWithHoles(one), 0);
  const corners = (of: Polygon[] | undefined) => of!.reduce((sum, one) => sum + one.outer.length, 0);
  expect(Math.abs(area(smooth) / area(cells) - 1)).toBeLessThan(0.15);
  expect(Math.abs(area(straight) / area(cells) - 1)).toBeLessThan(0.2);
  expect(corners(straight)).toBeLessThan(corners(smooth) / 2);
  // Every one of them can be hung: sound outlines, as the document asks for.
  for (const outlines of [cells, smooth, straight])
    expect(makeProblem({ ...plateOn(PLANE, 0.04), outlines: outlines!.map(mutable) })).toBeNull();
  const bow: [number, number][] = [
    [0, 0],
    [1, 1],
    [1, 0],
    [0, 1],
  ];
  expect(makeProblem({ ...plateOn(PLANE, 0.04), outlines: [{ outer: bow, holes: [] }] })).toContain(
    'The outline of the plate',
  );
  // The more the wanted sun counts, the less shade is worth having.
  expect(area(worthOutline(map, 1.5, 'cells'))).toBeLessThanOrEqual(area(cells));
  const same = { ...map, wanted: map.unwanted };
  for (const manner of ['cells', 'smooth', 'straight'] as const)
    expect(worthOutline(same, 1.1, manner)).toEqual([]);
});

test('without weather in hours; too many cells and windows apart are refused', () => {
  const { places, of } = asked(null);
  const window = { from: '2026-06-01', to: '2026-08-31', startMinutes: 600, endMinutes: 960 };
  const summer = { source: { by: 'windows' as const, windows: [window] } };
  const map = shadeWorth(of, places, undefined, PLANE, { unwanted: summer, wanted: null });
  expect(map.unit).toBe('h');
  // Six hours on 92 days, with the sun before the wall and a reveal of 10 cm about the glass.
  expect(map.unwantedAll).toBeGreaterThan(400);
  expect(map.unwantedAll).toBeLessThan(6 * 92 + 1);
  expect(() => shadeWorth(of, places, undefined, { ...PLANE, cellM: 0.001 }, AGAINST)).toThrow(
    'Make the cells larger',
  );
  expect(() => shadeWorth(of, [...places, ...places], undefined, PLANE, AGAINST)).toThrow('choose fewer');
});

/** As the document holds it. */
function mutable({ outer, holes }: Polygon) {
  const ring = (points: readonly (readonly [number, number])[]) =>
    points.map(([x, y]): [number, number] => [x, y]);
  return { outer: ring(outer), holes: holes.map(ring) };
}
