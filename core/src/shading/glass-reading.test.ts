import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { glazedPlaces } from '../devices';
import { openingsYear } from '../gains';
import type { DeviceMake, HourSet, Project } from '../project';
import { deviceSolid } from '../scene';
import { glassInSun } from '../shade';
import { planStudy, runStudy, summarize } from '../study';
import { shadowAngles, sunPosition } from '../sun';
import { climateAt, makeUpYear } from '../weather';
import { GlassReader, shadeOfSuns } from './glass-reading';
import { GlassYear } from './glass-year';

const PLACE = { name: 'N', latitudeDeg: 47, longitudeDeg: 8, standardTimeH: 1, elevationM: 400 };
const WEATHER = makeUpYear(PLACE, climateAt(47), 3, 2026);
const SHORT = { ...OVERHANG, sideM: 0.3 } as DeviceMake;

const hours = (id: string, use: HourSet['use'], from: string, to: string): HourSet => ({
  id,
  name: id,
  use,
  source: { by: 'windows', windows: [{ from, to, startMinutes: 0, endMinutes: 1440 }] },
});

function asked(weather = true, sets: HourSet[] = []) {
  const project: Project = { ...house(null), hourSets: sets };
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  const year = new GlassYear(
    { project, optionId: 'a', meshes: NONE, weather: weather ? WEATHER : null },
    places,
  );
  const read = (make: DeviceMake | null) =>
    new GlassReader(year, project, weather ? WEATHER : null).read(
      make ? year.past([deviceSolid({ make }, places)]) : year.bare,
    );
  return { project, places, year, read };
}

test('the share in shade of every sun, against exact shade', () => {
  const { year, places } = asked();
  const shade = shadeOfSuns(year, year.past([deviceSolid({ make: SHORT }, places)]).open);
  const [shaded, off] = [house(SHORT), [] as number[]];
  for (let d = 5; d < shade.length; d += 97) {
    const { atMs } = year.sky.hours[year.sky.hourOf[d]!]!.sun!;
    const [glass] = glassInSun(shaded, 'a', NONE, atMs);
    const { altitudeDeg, azimuthDeg } = sunPosition(atMs, shaded.site.place);
    const { vsaDeg } = shadowAngles(altitudeDeg, azimuthDeg, 180);
    expect(Number.isNaN(shade[d]!)).toBe(vsaDeg === null);
    if (vsaDeg === null) continue;
    const exact = 1 - glass!.sunlitM2 / glass!.areaM2;
    // Fifty points: the edge of the shade lies within a row of them.
    expect(Math.abs(shade[d]! - exact)).toBeLessThan(0.12);
    off.push(shade[d]! - exact);
  }
  expect(off.length).toBeGreaterThan(15);
  expect(Math.abs(off.reduce((sum, one) => sum + one, 0) / off.length)).toBeLessThan(0.02);
});

test('what comes in by month is what a study of solar gain finds', () => {
  const { read } = asked();
  const { months } = read(SHORT);
  const { asked: measured, study } = openingsYear(house(SHORT), 'a', { owners: null }, {}, 0.1);
  const plan = planStudy(measured, 'a', study, NONE, WEATHER);
  const [target] = summarize(plan, runStudy(measured, plan, NONE)).targets;
  const { shaded } = months!.inside;
  target!.energy!.months.forEach((kWh, m) => {
    const sum = shaded.beam[m]! + shaded.sky[m]! + shaded.ground[m]!;
    expect(Math.abs(sum - kWh)).toBeLessThan(0.02 * kWh + 0.2);
  });
});

test('on open glass everything arrives: sky light of a wall, and beam as the sun and its angle give it', () => {
  const { read, year } = asked(true, [hours('june', 'unwanted', '2026-06-01', '2026-06-30')]);
  const reading = read(null);
  // The vertical sky component of an open wall, 39.6 % (design: studies).
  expect(reading.skyPercent.bare).toBeCloseTo(39.6, 1);
  const [june] = reading.sets;
  expect(june!.bare).toBeCloseTo(june!.whole, 9);
  let sum = 0;
  for (const { sun, beamNormal } of year.sky.hours) {
    if (!sun || new Date(sun.atMs).getUTCMonth() !== 5) continue;
    const { altitudeDeg: h, azimuthDeg: a } = sun;
    const cosine = -Math.cos((h * Math.PI) / 180) * Math.cos((a * Math.PI) / 180);
    sum += Math.max(0, cosine) * beamNormal;
  }
  expect(june!.whole).toBeCloseTo((sum * year.areaM2) / 1000, 3);
  expect(reading.months!.glass.bare.beam[5]).toBeCloseTo(june!.whole, 0);
});

test('laws: deeper lets in less, devices only take, beam kept out and let in make the whole', () => {
  const { read } = asked(true, [hours('all', 'other', '2026-01-01', '2026-12-31')]);
  const depths = [0.1, 0.3, 0.6, 1.2, 2.4].map((depthM) => read({ ...SHORT, depthM } as DeviceMake));
  depths.forEach(({ sets, skyPercent }, i) => {
    const before = depths[i - 1];
    expect(sets[0]!.shaded).toBeLessThan(sets[0]!.bare);
    expect(skyPercent.shaded).toBeLessThan(skyPercent.bare);
    if (!before) return;
    expect(sets[0]!.shaded).toBeLessThanOrEqual(before.sets[0]!.shaded);
    expect(skyPercent.shaded).toBeLessThanOrEqual(before.skyPercent.shaded);
  });
});

test('a screen lets its openness of sun and sky through; holes as deep as wide take most of a slanting sun', () => {
  const screen = (openness: number, holeDepth: number): DeviceMake => ({
    kind: 'screen',
    openness,
    holeDepth,
    offM: 0.2,
    aroundM: 20,
  });
  const { read, year, places } = asked(true, [hours('all', 'other', '2026-01-01', '2026-12-31')]);
  const half = read(screen(0.5, 0));
  expect(half.sets[0]!.shaded / half.sets[0]!.bare).toBeCloseTo(0.5, 3);
  expect(half.skyPercent.shaded / half.skyPercent.bare).toBeCloseTo(0.5, 3);
  const deep = screen(0.5, 1);
  const shade = shadeOfSuns(year, year.past([deviceSolid({ make: deep }, places)]).open);
  for (let d = 11; d < shade.length; d += 211) {
    const { atMs } = year.sky.hours[year.sky.hourOf[d]!]!.sun!;
    const [glass] = glassInSun(house(deep), 'a', NONE, atMs);
    if (!Number.isNaN(shade[d]!)) expect(shade[d]!).toBeCloseTo(1 - glass!.sunlitM2 / glass!.areaM2, 2);
  }
  // Both together: what the overhang leaves, halved.
  const pieces = [SHORT, screen(0.5, 0)].map((make) => deviceSolid({ make }, places));
  const both = new GlassReader(year, house(null), WEATHER).read(year.past(pieces));
  expect(both.skyPercent.shaded / read(SHORT).skyPercent.shaded).toBeCloseTo(0.5, 3);
});

test('mirrored fins do to the morning what they do to the afternoon, by clock hours without weather', () => {
  const fins = { kind: 'fins', depthM: 0.7, gapM: 0, aboveM: 0.2, belowM: 0.2, thicknessM: 0.04, turnDeg: 0 };
  const left = asked(false).read({ ...fins, at: 'left' } as DeviceMake);
  const right = asked(false).read({ ...fins, at: 'right' } as DeviceMake);
  expect(left.months).toBeNull();
  expect(left.skyPercent.shaded).toBeCloseTo(right.skyPercent.shaded, 1);
});

test('without weather sun counts by its hours before the window', () => {
  const { read, project } = asked(false, [hours('march', 'wanted', '2026-03-01', '2026-03-31')]);
  const [march] = read(null).sets;
  // Counted minute by minute with the sun alone.
  let minutes = 0;
  for (
    let at = Date.parse('2026-03-01T00:00+01:00');
    at < Date.parse('2026-04-01T00:00+01:00');
    at += 120_000
  ) {
    const { altitudeDeg, azimuthDeg } = sunPosition(at, project.site.place);
    if (altitudeDeg > 0 && azimuthDeg > 90 && azimuthDeg < 270) minutes += 2;
  }
  expect(march!.whole).toBeCloseTo(minutes / 60, -1);
  expect(Math.abs(march!.whole - minutes / 60)).toBeLessThan(minutes / 60 / 100);
});

test('no windows, no reading', () => {
  const project = house(null);
  expect(() => new GlassYear({ project, optionId: 'a', meshes: NONE }, [])).toThrow('There is no window');
});
