import { glazedPlaces } from '../devices';
import { openingsYear, openingTargetId, ROOM_PRESETS, roomYear } from '../gains';
import { house, NONE } from '../../testing/shaded-house';
import type { DeviceMake, Project } from '../project';
import { roomsIn } from '../shade';
import { planStudy, runStudy, summarize } from '../study';
import { climateAt, makeUpYear } from '../weather';
import { IN_MOTION } from './glass-year';
import { hourlyMonths } from './hourly-months';
import { windowYears } from './window-years';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const LOWERED = { overWm2: 250, fromMinutes: 0, untilMinutes: 1440, fromMonth: 1, untilMonth: 12 };
const blind = (side: 'outside' | 'inside', more: object = {}): DeviceMake => ({
  ...{ kind: 'blind', side, offM: 0.1, openness: 0.1, lowered: LOWERED },
  ...more,
});
const HUNG: [string, DeviceMake][] = [
  ['a blind outside', blind('outside')],
  ['a blind inside', blind('inside')],
  [
    'a screen inside',
    { kind: 'screen', side: 'inside', openness: 0.3, holeDepth: 0, offM: 0.1, aroundM: 0, gFactor: 0.6 },
  ],
  [
    'an awning',
    { kind: 'awning', depthM: 1.2, aboveM: 0.1, sideM: 0.2, tiltDeg: 20, openness: 0.1, lowered: LOWERED },
  ],
];

const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);

/** kWh a year through the window, and ±, as each tool tells it. */
function told(project: Project): { by: string; kWh: number; error: number }[] {
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const gain = windowYears(project, 'a', NONE, places, WEATHER).get(openingTargetId(places[0]!))!;
  const [room] = roomsIn(project, 'a', NONE);
  const year = roomYear(project, 'a', NONE, room!, { ...ROOM_PRESETS.new, blindsPass: 1 }, WEATHER);
  const { asked, study } = openingsYear(project, 'a', { owners: null });
  const plan = planStudy(asked, 'a', study, NONE, WEATHER);
  const { energy } = summarize(plan, runStudy(asked, plan, NONE));
  const { inside } = hourlyMonths(
    { project, optionId: 'a', meshes: NONE, weather: WEATHER },
    places,
    IN_MOTION,
  );
  return [
    { by: 'device', kWh: gain.kWh, error: gain.error },
    { by: 'room', kWh: sum(year.solar), error: year.error.solar },
    { by: 'study', kWh: energy!.kWh, error: energy!.error! },
    { by: 'reading', kWh: sum([...inside.beam, ...inside.sky, ...inside.ground]), error: inside.yearError },
  ];
}

test.each(HUNG)('%s: whoever is asked, one scheme has one gain', (_, make) => {
  const figures = told(house(make));
  const [first] = figures;
  for (const { by, kWh, error } of figures) {
    // What is read while something is dragged is within two points.
    expect(Math.abs(kWh / first!.kWh - 1)).toBeLessThan(by === 'reading' ? 0.02 : 0.01);
    expect(Math.abs(kWh - first!.kWh)).toBeLessThan(error + first!.error + 0.002 * kWh);
  }
});

test('a screen inside leaves its factor of all that comes in without it', () => {
  const gainOf = (make: DeviceMake | null) => {
    const project = house(make);
    const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
    return windowYears(project, 'a', NONE, places, WEATHER).get(openingTargetId(places[0]!))!.kWh;
  };
  const screen = HUNG.find(([name]) => name === 'a screen inside')![1];
  expect(gainOf(screen) / gainOf(null)).toBeCloseTo(0.6, 2);
});

test('glass that lies below the ground brings nothing, whoever is asked: of open ground, too', () => {
  const sunk = (groundM: number) => {
    const project = house(null);
    project.site.thrownBack = 'open';
    project.site.ground = { kind: 'plane', levelM: groundM, slopeDeg: 0, fallsTowardsDeg: 0 };
    project.options.find(({ id }) => id === 'a')!.masses[0]!.base = { on: 'level', levelM: 0 };
    return told(project);
  };
  // The window reaches from 1 to 2 m.
  const whole = sunk(-5);
  sunk(1.6).forEach(({ by, kWh, error }, i) => {
    // What is read while something is dragged is within two points.
    const off = Math.abs(kWh - 0.4 * whole[i]!.kWh);
    expect(off).toBeLessThan(by === 'reading' ? 0.02 * whole[i]!.kWh : error + 0.001 * whole[i]!.kWh);
  });
});
