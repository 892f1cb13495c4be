import { anglesAt, at, house, NONE } from '../../testing/shaded-house';
import { RAD } from '../civil';
import { canMove, coveredBySlat, glazedPlaces, inPosition, type MovedBy, positionAt } from '../devices';
import { openingsYear, ROOM_PRESETS, roomYear } from '../gains';
import type { DeviceMake, LoweredWhen, Project } from '../project';
import { deviceProblems, deviceSolid } from '../scene';
import { beamAt, glassInSun, movedBy, roomsIn, sceneAt, sunInRooms } from '../shade';
import { movedByOf, planStudy, runStudy, signature } from '../study';
import { isOpen, maskWords } from '../trace';
import { climateAt, makeUpYear, storedWeather } from '../weather';
import { GlassYear } from './glass-year';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);

const ALWAYS: LoweredWhen = {
  overWm2: null,
  fromMinutes: 0,
  untilMinutes: 1440,
  fromMonth: 1,
  untilMonth: 12,
};
const blind = (lowered: Partial<LoweredWhen> = {}, openness = 0): DeviceMake => ({
  kind: 'blind',
  side: 'outside',
  offM: 0.05,
  openness,
  lowered: { ...ALWAYS, ...lowered },
});
const LOUVRES: Extract<DeviceMake, { kind: 'louvres' }> = {
  kind: 'louvres',
  lie: 'level',
  slatM: 0.1,
  spacingM: 0.1,
  tiltDeg: 0,
  thicknessM: 0.002,
  offM: 0.05,
  aroundM: 0.6,
  turning: { fromDeg: -20, toDeg: 75 },
};

function weathered(make: DeviceMake | null): Project {
  const project = house(make);
  return { ...project, site: { ...project.site, weather: storedWeather(WEATHER, 'made up') } };
}

const SOUTH = { u: [1, 0, 0], v: [0, 0, 1], normal: [0, -1, 0] } as const;

/** A sun so high before the south wall, and so far to the east. */
function sunAt(vsaDeg: number, hsaDeg = 0, more: Partial<MovedBy> = {}): MovedBy {
  const [x, y, z] = [Math.tan(hsaDeg * RAD), -1, Math.tan(vsaDeg * RAD)];
  const length = Math.hypot(x, y, z);
  return {
    sun: [x / length, y / length, z / length],
    beamWm2: 800,
    minutes: 720,
    month: 6,
    ...more,
  };
}

test('slats turn to the tilt nearest the one at rest that lets no beam between them', () => {
  for (const lie of ['level', 'upright'] as const)
    for (let angle = -80; angle <= 80; angle += 7) {
      const make = { ...LOUVRES, lie };
      const by = lie === 'level' ? sunAt(angle) : sunAt(10, angle);
      const tilt = positionAt(make, SOUTH, by);
      const slope = Math.tan(angle * RAD);
      const covers = (deg: number) => coveredBySlat({ ...make, tiltDeg: deg }, slope) >= make.spacingM - 1e-9;
      expect(tilt).toBeGreaterThanOrEqual(-20);
      expect(tilt).toBeLessThanOrEqual(75);
      const tilts = Array.from({ length: 20 }, (_, i) => -20 + i * 5);
      const nearer = tilts.filter((one) => Math.abs(one) < Math.abs(tilt));
      if (covers(tilt)) for (const one of nearer) expect(covers(one)).toBe(false);
      else for (const one of tilts) expect(covers(one)).toBe(false);
    }
  // Square to a level slat of its own spacing: shut by a tilt of 45° and more, by the thickness a little less.
  expect(positionAt({ ...LOUVRES, thicknessM: 0 + 1e-9 }, SOUTH, sunAt(45))).toBe(0);
  expect(positionAt(LOUVRES, SOUTH, { ...sunAt(30), sun: null })).toBe(0);
  expect(positionAt(LOUVRES, SOUTH, { ...sunAt(30), sun: [0, 1, 0] })).toBe(0);
});

test('slats that have turned let no sun onto the glass, and one step nearer to rest would', () => {
  const project = house(LOUVRES);
  let [turned, looser] = [0, 0];
  for (let hour = 9; hour <= 15.5; hour += 0.5) {
    const ms = at(hour, '2026-12-10');
    const tilt = positionAt(LOUVRES, SOUTH, movedBy(project, ms));
    const { vsaDeg } = anglesAt(ms, project);
    if (coveredBySlat({ ...LOUVRES, tiltDeg: tilt }, Math.tan(vsaDeg! * RAD)) < LOUVRES.spacingM) continue;
    const litAt = (make: DeviceMake) => glassInSun(house(make), 'a', NONE, ms)[0]!.sunlitM2;
    expect(litAt(LOUVRES)).toBeLessThan(1e-6);
    expect(litAt({ ...LOUVRES, turning: undefined, tiltDeg: tilt })).toBeLessThan(1e-6);
    if (tilt === 0) continue;
    turned++;
    const nearer = { ...LOUVRES, turning: undefined, tiltDeg: tilt - 5 * Math.sign(tilt) };
    const gap = LOUVRES.spacingM - coveredBySlat(nearer, Math.tan(vsaDeg! * RAD));
    // The window of 2 m² is as bright as its gaps are wide; at its edges one more or less of them.
    expect(litAt(nearer)).toBeGreaterThan((1.6 * gap) / LOUVRES.spacingM);
    looser++;
  }
  expect(turned).toBeGreaterThan(0);
  expect(looser).toBe(turned);
});

test('a blind is down in its months and its hours, over the new year and midnight too, by beam on the glass', () => {
  const down = (lowered: Partial<LoweredWhen>, by: MovedBy) => positionAt(blind(lowered), SOUTH, by);
  expect(down({}, sunAt(30))).toBe(1);
  expect(down({ fromMonth: 11, untilMonth: 2 }, sunAt(30, 0, { month: 12 }))).toBe(1);
  expect(down({ fromMonth: 11, untilMonth: 2 }, sunAt(30, 0, { month: 2 }))).toBe(1);
  expect(down({ fromMonth: 11, untilMonth: 2 }, sunAt(30, 0, { month: 3 }))).toBe(0);
  expect(down({ fromMonth: 5, untilMonth: 5 }, sunAt(30, 0, { month: 5 }))).toBe(1);
  expect(down({ fromMonth: 5, untilMonth: 5 }, sunAt(30, 0, { month: 6 }))).toBe(0);
  expect(down({ fromMinutes: 1200, untilMinutes: 360 }, sunAt(30, 0, { minutes: 60 }))).toBe(1);
  expect(down({ fromMinutes: 1200, untilMinutes: 360 }, sunAt(30, 0, { minutes: 360 }))).toBe(0);
  // 800 W/m² of a sun at 60° before the wall are 400 on it.
  expect(down({ overWm2: 399 }, sunAt(60))).toBe(1);
  expect(down({ overWm2: 401 }, sunAt(60))).toBe(0);
  expect(down({ overWm2: 100 }, sunAt(60, 0, { beamWm2: null }))).toBe(1);
  expect(down({ overWm2: 0 }, { ...sunAt(60), sun: null })).toBe(0);
  expect(down({}, { ...sunAt(60), sun: null })).toBe(1);
});

test('a blind that is down takes the glass out of the sun, one that is up takes nothing', () => {
  const noon = at(12);
  const bare = glassInSun(house(null), 'a', NONE, noon)[0]!;
  expect(bare.sunlitM2).toBeGreaterThan(1);
  const lit = (make: DeviceMake) => glassInSun(house(make), 'a', NONE, noon)[0]!;
  expect(lit(blind()).sunlitM2).toBeLessThan(1e-6);
  expect(lit(blind()).bareM2).toBeCloseTo(bare.sunlitM2, 9);
  expect(lit(blind({ fromMinutes: 0, untilMinutes: 600 })).sunlitM2).toBeCloseTo(bare.sunlitM2, 9);
  expect(lit(blind({}, 0.2)).sunlitM2).toBeCloseTo(0.2 * bare.sunlitM2, 6);
  // An awning is an overhang while it is out.
  const awning: DeviceMake = {
    kind: 'awning',
    depthM: 0.8,
    aboveM: 0.1,
    sideM: 0.4,
    tiltDeg: 20,
    openness: 0,
    lowered: ALWAYS,
  };
  const { lowered: _, openness: __, ...sizes } = awning;
  const overhang: DeviceMake = { ...sizes, kind: 'overhang', thicknessM: 0.001 };
  expect(lit(awning).sunlitM2).toBeCloseTo(lit(overhang).sunlitM2, 2);
  // In the room behind it the patch of sun is gone with the blind.
  const patch = (make: DeviceMake | null) =>
    sunInRooms(house(make), 'a', NONE, noon).flatMap(({ surfaces }) => surfaces.map(({ litM2 }) => litM2));
  const sum = (all: number[]) => all.reduce((a, b) => a + b, 0);
  expect(sum(patch(null))).toBeGreaterThan(0.1);
  expect(sum(patch(blind()))).toBeLessThan(1e-6);
});

test('each sun of the year meets what moves as it stands at its moment, the sky as at rest', () => {
  const project = weathered(null);
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const year = new GlassYear({ project, optionId: 'a', meshes: NONE }, places, {
    together: 8,
    least: 8,
    most: 8,
    parts: 1024,
    rays: { together: 64, least: 64, most: 64 },
  });
  const { samples } = year.sky;
  for (const make of [LOUVRES, blind({ overWm2: 250 }), blind({ overWm2: 250, fromMonth: 5 }, 0.3)]) {
    const { open } = year.past([], [{ make, stations: places.map(({ face, box }) => ({ face, box })) }]);
    const positions = Array.from({ length: samples.count }, (_, d) => {
      const by = movedByOf(samples, d);
      return by ? positionAt(make, places[0]!.face, by) : null;
    });
    expect(new Set(positions).size).toBeGreaterThan(2);
    const standing = new Map(
      [...new Set(positions)].map((position) => {
        const still = position === null ? restingOf(make) : inPosition(make, position);
        return [
          position,
          (still
            ? year.past([deviceSolid({ make: asStill(withRule(still)) }, places, sunAt(30))])
            : year.bare
          ).open,
        ];
      }),
    );
    const words = maskWords(samples.count);
    const off: number[][] = [];
    for (let s = 0; s < year.grid.count; s++)
      for (let d = 0; d < samples.count; d += 5) {
        const same = standing.get(positions[d]!)!;
        const isSame = isOpen(open.mask, words, s, d) === isOpen(same.mask, words, s, d);
        if (!isSame || Math.abs(shareAt(open, s, d) - shareAt(same, s, d)) > 1e-6) off.push([s, d]);
      }
    expect(off).toEqual([]);
  }
});

/** The device that stands at rest, as one that does not move. */
const restingOf = (make: DeviceMake) => inPosition(make, make.kind === 'louvres' ? make.tiltDeg : 0);
const withRule = (make: DeviceMake): DeviceMake =>
  make.kind === 'blind' ? { ...make, lowered: ALWAYS } : make;
const asStill = (make: DeviceMake): DeviceMake =>
  make.kind === 'louvres' ? { ...make, turning: undefined } : make;

function shareAt({ shares }: ReturnType<GlassYear['past']>['open'], s: number, d: number): number {
  const row = shares?.[s];
  const at = row ? row.direction.indexOf(d) : -1;
  return at < 0 ? 1 : row!.share[at]!;
}

test('hours with the blind down bring in nothing; all others what they would without', () => {
  const [project, bare] = [weathered(blind({ overWm2: 250 })), weathered(null)];
  const gainsOf = (of: Project) => roomYear(of, 'a', NONE, roomsIn(of, 'a', NONE)[0]!, ROOM_PRESETS.new);
  const [now, before] = [gainsOf(project), gainsOf(bare)];
  let [down, up] = [0, 0];
  const off: number[] = [];
  const near = (a: number, b: number) => Math.abs(a - b) < 1e-6;
  // The sky is taken in fewer directions where something moves.
  const alike = (a: number, b: number) => Math.abs(a - b) < 0.01 * b + 0.1;
  now.beamW.forEach((beam, k) => {
    const [beamBefore, sky, skyBefore] = [before.beamW[k]!, now.skyW[k]!, before.skyW[k]!];
    const [back, backBefore] = [now.groundW[k]!, before.groundW[k]!];
    if (near(beam, beamBefore)) {
      if (beam > 1) up++;
      if (!alike(sky, skyBefore) || !alike(back, backBefore)) off.push(k);
    } else {
      down++;
      // Behind the blind there is the glow of its own inner face, and no more.
      if (!near(beam, 0) || !near(sky, 0) || back > 0.02 * backBefore) off.push(k);
    }
  });
  expect(off).toEqual([]);
  expect(down).toBeGreaterThan(200);
  expect(up).toBeGreaterThan(200);
});

test('studies meet it too: by the weather and by the clock, and they are out of date when the weather changes', () => {
  const studied = (make: DeviceMake | null, kind: 'solar-gain' | 'sun-hours') => {
    const project = weathered(make);
    const { asked, study } = openingsYear(
      project,
      'a',
      { owners: null },
      {
        kind,
        stepMinutes: 30,
        window: { from: '2026-06-21', to: '2026-06-21', startMinutes: 0, endMinutes: 1440 },
      },
    );
    const plan = planStudy(asked, 'a', study, NONE);
    const values = runStudy(asked, plan, NONE);
    const [first] = Object.values(values);
    return { mean: first!.reduce((sum, value) => sum + value, 0) / first!.length, asked, study };
  };
  const mean = (make: DeviceMake | null) => studied(make, 'sun-hours').mean;
  const bare = mean(null);
  expect(mean(blind())).toBe(0);
  expect(mean(blind({ fromMonth: 1, untilMonth: 2 }))).toBeCloseTo(bare, 4);
  const morning = mean(blind({ untilMinutes: 780 }));
  expect(morning).toBeGreaterThan(0);
  expect(morning).toBeLessThan(bare);
  // By the weather everything goes in the hours with the blind down, and stays in the others.
  const [energy, none, some] = [null, blind(), blind({ overWm2: 60 })].map(
    (make) => studied(make, 'solar-gain').mean,
  );
  expect(none).toBeLessThan(0.02 * energy!);
  expect(some).toBeGreaterThan(0.02 * energy!);
  expect(some).toBeLessThan(0.85 * energy!);
  const { asked, study } = studied(blind({ overWm2: 200 }), 'sun-hours');
  const without = { ...asked, site: { ...asked.site, weather: null } };
  expect(signature(asked, 'a', study).weather).not.toEqual(signature(without, 'a', study).weather);
  const still = studied(null, 'sun-hours');
  expect(signature(still.asked, 'a', still.study).weather).toBeUndefined();
});

test('the scene of a moment holds it as it stands then, that at rest says what moves', () => {
  const project = weathered(blind({ untilMinutes: 780 }));
  const own = (ms: number) => {
    const scene = sceneAt(project, 'a', NONE, ms);
    expect(scene.moving).toEqual([]);
    return scene.pieces[scene.owners.findIndex(({ layer }) => layer === 'devices')]!.surfaceOf.length;
  };
  expect(own(at(10))).toBe(10);
  expect(own(at(15))).toBe(0);
  expect(deviceProblems(project, 'a', NONE)).toEqual([]);
  expect([LOUVRES, { ...LOUVRES, turning: undefined }].map(canMove)).toEqual([true, false]);
  // The beam of an hour is that of the weather year, whatever minute of it is asked about.
  const noon = at(12);
  expect(beamAt(project, noon + 60_000)).toBe(beamAt(project, noon + 59 * 60_000));
  expect(beamAt(house(null), noon)).toBeNull();
});
