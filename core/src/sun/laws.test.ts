import fc from 'fast-check';
import { RAD, wrap180 } from '../civil';
import { deltaT } from './delta-t';
import { shadowAngles } from './shadow-angles';
import { geocentricSun, julianDay, sunPosition, sunVector } from './sun-position';

test('ΔT agrees with the observed values printed with the polynomials (Espenak & Meeus 2006, table 1)', () => {
  // Decimal years and seconds; the polynomials follow the observations within about a second.
  for (const [year, seconds] of [
    [1700, 9],
    [1750, 13],
    [1800, 14],
    [1850, 7],
    [1900, -3],
    [1950, 29],
    [1960, 33.2],
    [1970, 40.2],
    [1980, 50.5],
    [1990, 56.9],
    [2000, 63.8],
    [2005, 64.7],
  ] as const)
    expect(Math.abs(deltaT(year) - seconds)).toBeLessThan(1.2);
});

test('ΔT has no step of more than a second where its pieces meet', () => {
  for (const year of [1800, 1860, 1900, 1920, 1941, 1961, 1986, 2005, 2050, 2150])
    expect(Math.abs(deltaT(year) - deltaT(year - 1e-6))).toBeLessThan(1);
});

test('Julian days of known dates', () => {
  // Meeus, Astronomical Algorithms, ch. 7: 2000 January 1.5 is 2451545.0; 1957 October 4.81 is 2436116.31.
  expect(julianDay(Date.UTC(2000, 0, 1, 12))).toBe(2451545);
  expect(julianDay(Date.UTC(1957, 9, 4) + 0.81 * 86_400_000)).toBeCloseTo(2436116.31, 6);
});

const instants = fc.integer({ min: Date.UTC(1950, 0, 1), max: Date.UTC(2050, 0, 1) });

test('where the sun stands overhead, latitude is its declination', () => {
  fc.assert(
    fc.property(instants, (atMs) => {
      const geo = geocentricSun(atMs);
      const greenwich = sunPosition(atMs, { latitudeDeg: 0, longitudeDeg: 0, elevationM: 0 });
      const below = {
        latitudeDeg: geo.declinationDeg,
        longitudeDeg: wrap180(-greenwich.hourAngleDeg),
        elevationM: 0,
      };
      expect(sunPosition(atMs, below).altitudeDeg).toBeGreaterThan(89.99);
      // On the other side of the Earth it stands underfoot.
      const antipode = {
        latitudeDeg: -below.latitudeDeg,
        longitudeDeg: wrap180(below.longitudeDeg + 180),
        elevationM: 0,
      };
      expect(sunPosition(atMs, antipode).altitudeDeg).toBeLessThan(-89.99);
    }),
    { numRuns: 150 },
  );
});

test('the spherical triangle closes: sin h = sin φ sin δ + cos φ cos δ cos H', () => {
  fc.assert(
    fc.property(
      instants,
      fc.double({ min: -89, max: 89, noNaN: true }),
      fc.double({ min: -180, max: 180, noNaN: true }),
      (atMs, latitudeDeg, longitudeDeg) => {
        const sun = sunPosition(atMs, { latitudeDeg, longitudeDeg, elevationM: 0 });
        const [phi, delta, hour] = [latitudeDeg * RAD, sun.declinationDeg * RAD, sun.hourAngleDeg * RAD];
        const expected = Math.sin(phi) * Math.sin(delta) + Math.cos(phi) * Math.cos(delta) * Math.cos(hour);
        expect(Math.sin(sun.altitudeDeg * RAD)).toBeCloseTo(expected, 9);
        // The sun is east of the meridian in the morning.
        if (Math.abs(sun.hourAngleDeg) > 0.1 && Math.abs(sun.hourAngleDeg) < 179.9)
          expect(sun.azimuthDeg < 180).toBe(sun.hourAngleDeg < 0);
      },
    ),
    { numRuns: 300 },
  );
});

test('the equation of time keeps within its known bounds and crosses zero four times a year', () => {
  let crossings = 0;
  let before = geocentricSun(Date.UTC(2026, 0, 1)).equationOfTimeMinutes;
  const values: number[] = [];
  for (let day = 1; day <= 365; day++) {
    const now = geocentricSun(Date.UTC(2026, 0, 1 + day)).equationOfTimeMinutes;
    if (before < 0 !== now < 0) crossings++;
    values.push(now);
    before = now;
  }
  expect(crossings).toBe(4);
  // Extremes of the present century: about −14.2 min in February and +16.4 min in November.
  expect(Math.min(...values)).toBeCloseTo(-14.2, 0);
  expect(Math.max(...values)).toBeCloseTo(16.4, 0);
});

test('the vertical shadow angle is the slope of the ray in the section square to the facade', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 88, noNaN: true }),
      fc.double({ min: 0, max: 360, noNaN: true }),
      fc.double({ min: 0, max: 360, noNaN: true }),
      (altitude, azimuth, facade) => {
        const { hsaDeg, vsaDeg } = shadowAngles(altitude, azimuth, facade);
        const sun = sunVector(altitude, azimuth, 0);
        const out = sunVector(0, facade, 0);
        const ahead = sun[0] * out[0] + sun[1] * out[1];
        if (ahead <= 1e-6) return;
        expect(Math.abs(hsaDeg)).toBeLessThan(90);
        expect(Math.tan(vsaDeg! * RAD) * ahead).toBeCloseTo(sun[2], 8);
        expect(vsaDeg).toBeGreaterThanOrEqual(altitude - 1e-9);
      },
    ),
  );
});
