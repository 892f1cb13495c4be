import fc from 'fast-check';
import { RAD } from '../civil';
import type { WeatherHour } from '../weather';
import { perezSky } from './perez-sky';
import { overcast, STANDARD_SKIES, standardSky } from './sky-models';
import { patchAt, SUBDIVISIONS, skyVault } from './sky-vault';
import { hourSky, skyRadiation } from './weather-sky';

const sum = (values: Iterable<number>) => [...values].reduce((a, b) => a + b, 0);

test.each([
  [1, 145],
  [2, 577],
  [4, 2305],
] as const)('split by %d the vault has %d patches that fill it', (subdivision, count) => {
  const vault = skyVault(subdivision);
  expect(vault.count).toBe(count);
  expect(Math.abs(sum(vault.solidAngle) - 2 * Math.PI)).toBeLessThan(1e-9);
  const wrong = Array.from({ length: count }, (_, p) => p).filter((p) => {
    const [x, y, z] = vault.vectors.subarray(p * 3, p * 3 + 3);
    const isItself = patchAt(vault, vault.altitudeDeg[p]!, vault.azimuthDeg[p]!) === p;
    const isUnit = Math.abs(Math.hypot(x!, y!, z!) - 1) < 5e-13;
    return !(isItself && isUnit && Math.abs(z! - Math.sin(vault.altitudeDeg[p]! * RAD)) < 5e-13);
  });
  expect(wrong).toEqual([]);
});

test('bands hold 30, 30, 24, 24, 18, 12, 6 and the cap; the first patch lies about the north', () => {
  const { altitudeDeg, azimuthDeg, solidAngle } = skyVault(1);
  const bands = new Map<number, number>();
  for (const altitude of altitudeDeg) bands.set(altitude, (bands.get(altitude) ?? 0) + 1);
  expect([...bands]).toEqual([
    [6, 30],
    [18, 30],
    [30, 24],
    [42, 24],
    [54, 18],
    [66, 12],
    [78, 6],
    [90, 1],
  ]);
  expect(azimuthDeg[0]).toBe(0);
  expect(azimuthDeg[1]).toBeCloseTo(12, 12);
  expect(solidAngle[0]).toBeCloseTo((2 * Math.PI * Math.sin(12 * RAD)) / 30, 12);
});

test('patches of a split vault lie in the patch that was split', () => {
  const coarse = skyVault(1);
  for (const subdivision of SUBDIVISIONS) {
    const fine = skyVault(subdivision);
    const held = new Float64Array(coarse.count);
    for (let p = 0; p < fine.count; p++)
      held[patchAt(coarse, fine.altitudeDeg[p]!, fine.azimuthDeg[p]!)]! += fine.solidAngle[p]!;
    held.forEach((solid, p) => expect(solid).toBeCloseTo(coarse.solidAngle[p]!, 12));
  }
  expect(() => skyVault(3 as 1)).toThrow('1, 2 or 4');
});

test('turned drawings turn the vault, and nothing else', () => {
  const [plain, turned] = [skyVault(2), skyVault(2, 90)];
  expect(turned.azimuthDeg).toEqual(plain.azimuthDeg);
  // True north lies clockwise of drawing north: what is in the north is to the right.
  expect(turned.vectors[0]).toBeCloseTo(plain.vectors[1]!, 12);
  expect(turned.vectors[1]).toBeCloseTo(-plain.vectors[0]!, 12);
});

test('the overcast sky gives 7π/9 of its zenith luminance on the open level, 39.6 % of that on an open wall', () => {
  const { count, altitudeDeg, azimuthDeg, solidAngle } = skyVault(4);
  let [level, wall] = [0, 0];
  for (let p = 0; p < count; p++) {
    const part = overcast(altitudeDeg[p]!) * solidAngle[p]!;
    level += part * Math.sin(altitudeDeg[p]! * RAD);
    wall += part * Math.max(0, Math.cos(altitudeDeg[p]! * RAD) * Math.cos(azimuthDeg[p]! * RAD));
  }
  expect(level / ((7 * Math.PI) / 9)).toBeCloseTo(1, 3);
  expect(wall / level).toBeCloseTo(0.396, 3);
});

test('standard skies: the fifth is uniform; every one is 1 at the zenith', () => {
  expect(STANDARD_SKIES).toHaveLength(15);
  for (const sky of STANDARD_SKIES)
    for (const sun of [5, 35, 70]) {
      expect(standardSky(sky, 90, 90 - sun, sun)).toBeCloseTo(1, 12);
      if (sky.type === 5) expect(standardSky(sky, 10, 33, sun)).toBeCloseTo(1, 12);
      // Where there is an indicatrix, it is brightest about the sun.
      if (sky.c > 0) expect(standardSky(sky, sun, 0, sun)).toBeGreaterThan(standardSky(sky, sun, 90, sun));
    }
  // Type 1 is made to stand for the overcast sky: a third of the zenith at the horizon, nearly.
  expect(standardSky(STANDARD_SKIES[0]!, 0, 90, 40)).toBeCloseTo(1 / (1 + 4 * Math.exp(-0.7)), 12);
});

const hour = (more: Partial<WeatherHour>): WeatherHour => ({
  record: 0,
  startMs: 0,
  sun: { atMs: 0, altitudeDeg: 35, azimuthDeg: 200, extraterrestrial: 1367 },
  beamNormal: 500,
  diffuseHorizontal: 180,
  globalHorizontal: 0,
  ...more,
});

test('the vault of an hour gives the hour’s diffuse on the level, whatever the split, sun and sky', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...SUBDIVISIONS),
      fc.double({ min: 0.1, max: 89, noNaN: true }),
      fc.double({ min: 0, max: 359, noNaN: true }),
      fc.double({ min: 0, max: 1000, noNaN: true }),
      fc.double({ min: 1, max: 600, noNaN: true }),
      fc.boolean(),
      (subdivision, altitudeDeg, azimuthDeg, beamNormal, diffuseHorizontal, isDark) => {
        const vault = skyVault(subdivision);
        const sun = isDark ? null : { atMs: 0, altitudeDeg, azimuthDeg, extraterrestrial: 1400 };
        const sky = hourSky(
          vault,
          hour({ sun, beamNormal, diffuseHorizontal }),
          new Float64Array(vault.count),
        );
        let level = 0;
        sky.forEach((part, p) => (level += part * Math.sin(vault.altitudeDeg[p]! * RAD)));
        expect(level / diffuseHorizontal).toBeCloseTo(1, 9);
        if (isDark)
          expect(sky[0]! / vault.solidAngle[0]!).toBeCloseTo(
            sky[200 % vault.count]! / vault.solidAngle[200 % vault.count]!,
            9,
          );
      },
    ),
    { numRuns: 60 },
  );
});

test('patch beside patch the sky of an hour is as bright as its formula, by the great circle to the sun', () => {
  const angle = fc.double({ min: 0, max: 359, noNaN: true });
  fc.assert(
    fc.property(
      fc.constantFrom(...SUBDIVISIONS),
      fc.double({ min: 3, max: 85, noNaN: true }),
      angle,
      (by, h, a) => {
        const vault = skyVault(by);
        const one = hour({ sun: { atMs: 0, altitudeDeg: h, azimuthDeg: a, extraterrestrial: 1367 } });
        const sky = hourSky(vault, one, new Float64Array(vault.count));
        const luminance = perezSky({ ...one, sunAltitudeDeg: h, extraterrestrial: 1367 });
        const bright = Float64Array.from(vault.altitudeDeg, (altitudeDeg, p) => {
          const [up, across] = [
            Math.sin(((altitudeDeg - h) * RAD) / 2),
            Math.sin(((vault.azimuthDeg[p]! - a) * RAD) / 2),
          ];
          const half = up * up + Math.cos(altitudeDeg * RAD) * Math.cos(h * RAD) * across * across;
          return luminance(altitudeDeg, 2 * Math.asin(Math.sqrt(Math.min(1, half))));
        });
        const most = bright.reduce((best, value, p) => (value > bright[best]! ? p : best), 0);
        const scale = sky[most]! / vault.solidAngle[most]! / bright[most]!;
        bright.forEach((value, p) =>
          expect(Math.abs(sky[p]! / vault.solidAngle[p]! / scale - value)).toBeLessThan(1e-6 * bright[most]!),
        );
      },
    ),
    { numRuns: 12 },
  );
});

test('sums over hours: shares count as parts, beam goes to the patch of its sun', () => {
  const vault = skyVault(1);
  const hours = [hour({}), hour({ startMs: 1, sun: null, beamNormal: 0, diffuseHorizontal: 10 })];
  const whole = skyRadiation(vault, hours);
  const half = skyRadiation(vault, hours, () => 0.5);
  expect(whole.hours).toBe(2);
  expect(whole.beamNormal).toBe(500);
  expect(whole.beamHorizontal).toBeCloseTo(500 * Math.sin(35 * RAD), 9);
  expect(whole.diffuseHorizontal).toBe(190);
  expect(whole.beam[patchAt(vault, 35, 200)]).toBe(500);
  expect(sum(whole.beam)).toBe(500);
  half.sky.forEach((part, p) => expect(part).toBeCloseTo(whole.sky[p]! / 2, 9));
  half.beam.forEach((part, p) => expect(part).toBeCloseTo(whole.beam[p]! / 2, 9));
  for (const key of ['hours', 'beamNormal', 'beamHorizontal', 'diffuseHorizontal'] as const)
    expect(half[key]).toBeCloseTo(whole[key] / 2, 9);
  // The sky that is summed is that of its hours, and gives their diffuse on the level.
  const level = whole.sky.reduce((all, part, p) => all + part * Math.sin(vault.altitudeDeg[p]! * RAD), 0);
  expect(level).toBeCloseTo(190, 6);
  const none = skyRadiation(vault, hours, ({ startMs }) => (startMs === 1 ? 1 : -1));
  expect([none.hours, none.beamNormal, none.diffuseHorizontal]).toEqual([1, 0, 10]);
  // An hour without diffuse has no sky, whatever stood there before.
  const bare = hourSky(vault, hour({ diffuseHorizontal: 0 }), new Float64Array(vault.count).fill(7));
  expect(bare.every((part) => part === 0)).toBe(true);
});
