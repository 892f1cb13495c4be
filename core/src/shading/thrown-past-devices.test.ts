import { PLACE, rect, WEATHER, type Vector } from '../../testing/one-sensor';
import { type Box, byPaths } from '../../testing/plain-paths';
import { glazedPlaces } from '../devices';
import { addMass } from '../document';
import { defaultMass, emptyProject, type DeviceMake, type Project } from '../project';
import { opening, rect as window } from '../../testing/blocks';
import { deviceSolid } from '../scene';
import { GlassReader } from './glass-reading';
import { AT_REST, GlassYear, IN_MOTION } from './glass-year';

const NONE = new Map();
const MAY = 4;
/** A wall of 10 × 6 m that faces south, with a window from 3 to 6 m, its sill at 0.9 m and its head at 2.4 m. */
const PANE = { u: 3, v: 0.9, width: 3, height: 1.5 };

function house(): Project {
  const made = emptyProject('P', 2026);
  made.site.place = { ...made.site.place, ...PLACE, zone: 'Etc/UTC' };
  const mass = {
    ...defaultMass('m', 'M', rect(0, 0, 10, 8), 1, 6),
    openings: [opening('o', window(PANE.u, PANE.v, PANE.width, PANE.height), { revealM: 0 })],
  };
  return addMass('a', mass)(made);
}

/** kWh of May on the glass, thrown back past a device; of the ground alone where it throws nothing back itself. */
function onGlass(make: DeviceMake | null, devices: number, precision = AT_REST): number {
  const project = house();
  project.site = {
    ...project.site,
    reflectances: { facades: 0, glass: 0, crowns: 0, devices },
  };
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const year = new GlassYear({ project, optionId: 'a', meshes: NONE, weather: WEATHER }, places, precision);
  const past = make ? year.past([deviceSolid({ make }, places)]) : year.bare;
  return new GlassReader(year, project, WEATHER).read(past).months!.glass.shaded.ground[MAY]!;
}

/** The same by plain paths from places all over the pane. */
function byPathsOnto(boxes: readonly Box[]): number {
  const wall: Box = { low: [0, 0, 0], high: [10, 8, 6], reflectance: 0 };
  const count = 60;
  let sum = 0;
  for (let i = 0; i < count; i++) {
    // No row of them is in step with slats.
    const x = PANE.u + ((i + 0.5) * PANE.width) / count;
    const z = PANE.v + ((i * 0.618034) % 1) * PANE.height;
    const { ground, standing } = byPaths([x, -0.001, z], [0, -1, 0], [wall, ...boxes], 0.2, 1000, 8);
    sum += ground + standing;
  }
  return (sum * PANE.width * PANE.height) / count;
}

const slats = (spacingM: number): { make: DeviceMake; boxes: (reflectance: number) => Box[] } => ({
  make: {
    ...{ kind: 'louvres', lie: 'level', slatM: 0.2, spacingM, tiltDeg: 0, thicknessM: 0.02 },
    ...{ offM: 0.1, aroundM: 0 },
  } as DeviceMake,
  boxes: (reflectance) =>
    deviceSlats(spacingM).map((z): Box => ({
      low: [PANE.u, -0.3, z],
      high: [PANE.u + PANE.width, -0.1, z + 0.02],
      reflectance,
    })),
});

/** The undersides of slats, as the device has them. */
function deviceSlats(spacingM: number): number[] {
  const project = house();
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const { positions: p } = deviceSolid({ make: slats(spacingM).make }, places);
  const levels = new Set<number>();
  for (let i = 2; i < p.length; i += 3) levels.add(Math.round(p[i]! * 1e4) / 1e4);
  const sorted = [...levels].sort((a, b) => a - b);
  return sorted.filter((_, i) => i % 2 === 0);
}

const CASES: [string, DeviceMake, (reflectance: number) => Box[]][] = [
  ['level slats', slats(0.25).make, slats(0.25).boxes],
  [
    'a deep slab over the ground before it',
    {
      ...{ kind: 'overhang', depthM: 3, aboveM: 0.1, sideM: 1, thicknessM: 0.2, tiltDeg: 0 },
    } as DeviceMake,
    (reflectance) => [
      { low: [PANE.u - 1, -3, 2.5], high: [PANE.u + PANE.width + 1, 0, 2.7] as Vector, reflectance },
    ],
  ],
];

test.each(CASES)(
  'past %s as plain paths have it, off the ground alone and off the device too',
  (_, make, boxes) => {
    for (const reflectance of [0, 0.5]) {
      const own = onGlass(make, reflectance);
      const plain = byPathsOnto(boxes(reflectance));
      expect(Math.abs(own / plain - 1)).toBeLessThan(0.05);
    }
  },
);

test('past a solid rail little comes, past a sheet its openness', () => {
  const bare = onGlass(null, 0, IN_MOTION);
  const rail = onGlass(
    {
      ...{
        kind: 'balcony',
        depthM: 1.5,
        belowM: 0.02,
        sideM: 1,
        thicknessM: 0.2,
        railM: 2.6,
        railOpenness: 0,
      },
    } as DeviceMake,
    0,
    IN_MOTION,
  );
  expect(rail).toBeLessThan(0.02 * bare);
  const screen = onGlass(
    {
      ...{ kind: 'screen', openness: 0.4, holeDepth: 0, side: 'outside', offM: 0.05, aroundM: 3 },
    } as DeviceMake,
    0,
    IN_MOTION,
  );
  expect(screen / bare).toBeCloseTo(0.4, 1);
});
