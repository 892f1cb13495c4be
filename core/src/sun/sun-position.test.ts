import { Body, Equator, Horizon, Observer } from 'astronomy-engine';
import fc from 'fast-check';
import { RAD, wrap180 } from '../civil';
import { interpolatedSun, SunTrack } from './ephemeris';
import {
  geocentricSun,
  refraction,
  sunPosition,
  sunVector,
  standardAir,
  stationAt,
  topocentricSun,
} from './sun-position';

/** The worked example of NREL/TP-560-34302, appendix A.5. */
const EXAMPLE = {
  atMs: Date.parse('2003-10-17T12:30:30-07:00'),
  place: { latitudeDeg: 39.742476, longitudeDeg: -105.1786, elevationM: 1830.14 },
  air: { pressureHPa: 820, temperatureC: 11 },
  deltaTSeconds: 67,
};

describe('solar position against the published example', () => {
  const sun = sunPosition(EXAMPLE.atMs, EXAMPLE.place, EXAMPLE);
  const geo = geocentricSun(EXAMPLE.atMs, EXAMPLE.deltaTSeconds);

  test('zenith and azimuth', () => {
    expect(Math.abs(90 - sun.apparentAltitudeDeg - 50.11162)).toBeLessThan(0.00001);
    expect(Math.abs(sun.azimuthDeg - 194.34024)).toBeLessThan(0.00001);
  });

  test('intermediate values of table A5.1', () => {
    expect(geo.distanceAu).toBeCloseTo(0.9965422974, 9);
    expect(geo.rightAscensionDeg).toBeCloseTo(202.22741, 5);
    expect(geo.declinationDeg).toBeCloseTo(-9.31434, 5);
    expect(geo.longitudeDeg).toBeCloseTo(204.0085519281, 7);
    expect(sun.declinationDeg).toBeCloseTo(-9.316179, 6);
    expect(sun.hourAngleDeg).toBeCloseTo(11.10629, 4);
    expect(geo.equationOfTimeMinutes).toBeCloseTo(14.641503, 4);
  });
});

test('altitude and azimuth agree with an independent ephemeris over 1950–2050 at all latitudes', () => {
  const instants = fc.integer({ min: Date.UTC(1950, 0, 1) / 1000, max: Date.UTC(2050, 0, 1) / 1000 });
  fc.assert(
    fc.property(
      instants,
      fc.double({ min: -89.9, max: 89.9, noNaN: true }),
      fc.double({ min: -180, max: 180, noNaN: true }),
      fc.double({ min: 0, max: 4000, noNaN: true }),
      (seconds, latitudeDeg, longitudeDeg, elevationM) => {
        const place = { latitudeDeg, longitudeDeg, elevationM };
        const at = new Date(seconds * 1000);
        const observer = new Observer(latitudeDeg, longitudeDeg, elevationM);
        const equator = Equator(Body.Sun, at, observer, true, true);
        const theirs = Horizon(at, observer, equator.ra, equator.dec);
        const ours = sunPosition(at.getTime(), place);
        expect(Math.abs(ours.altitudeDeg - theirs.altitude)).toBeLessThan(0.005);
        const across = wrap180(ours.azimuthDeg - theirs.azimuth) * Math.cos(theirs.altitude * RAD);
        expect(Math.abs(across)).toBeLessThan(0.005);
      },
    ),
    { numRuns: 1500, seed: 20260321 },
  );
});

test('interpolated suns agree with the whole algorithm', () => {
  fc.assert(
    fc.property(fc.integer({ min: Date.UTC(1950, 0, 1), max: Date.UTC(2050, 0, 1) }), (atMs) => {
      const place = { latitudeDeg: 47, longitudeDeg: 8, elevationM: 400 };
      const exact = sunPosition(atMs, place);
      const quick = new SunTrack(place).at(atMs);
      expect(Math.abs(exact.altitudeDeg - quick.altitudeDeg)).toBeLessThan(1e-5);
      expect(
        Math.abs(wrap180(exact.azimuthDeg - quick.azimuthDeg)) * Math.cos(exact.altitudeDeg * RAD),
      ).toBeLessThan(1e-5);
      const geo = geocentricSun(atMs);
      expect(Math.abs(wrap180(interpolatedSun(atMs).rightAscensionDeg - geo.rightAscensionDeg))).toBeLessThan(
        2e-6,
      );
      expect(Math.abs(interpolatedSun(atMs).declinationDeg - geo.declinationDeg)).toBeLessThan(2e-6);
    }),
    { numRuns: 300 },
  );
});

test('refraction lifts the sun near the horizon by about 29 minutes of arc at sea level, and not below it', () => {
  const air = { pressureHPa: 1010, temperatureC: 10 };
  // Sæmundsson's formula as printed in Meeus, Astronomical Algorithms, ch. 16: R(0°) = 28.98′.
  expect(refraction(0, air) * 60).toBeCloseTo(28.98, 1);
  expect(refraction(-1, air)).toBe(0);
  expect(standardAir(0).pressureHPa).toBeCloseTo(1013.25, 6);
  // International Standard Atmosphere: 898.75 hPa at 1000 m.
  expect(standardAir(1000).pressureHPa).toBeCloseTo(898.75, 0);
});

test('the vector follows altitude, azimuth and true north', () => {
  const close = (a: number[], b: number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 12));
  close(sunVector(0, 0, 0), [0, 1, 0]);
  close(sunVector(0, 90, 0), [1, 0, 0]);
  close(sunVector(90, 123, 45), [0, 0, 1]);
  // True north 90° clockwise from drawing north: a sun in the true north stands along drawing +x.
  close(sunVector(0, 0, 90), [1, 0, 0]);
});

test('places half a turn of longitude apart have hour angles half a turn apart', () => {
  const atMs = Date.UTC(2026, 5, 1, 9);
  const geo = geocentricSun(atMs);
  const at = (longitudeDeg: number) =>
    topocentricSun(atMs, geo, stationAt({ latitudeDeg: 0, longitudeDeg, elevationM: 0 }), standardAir(0))
      .hourAngleDeg;
  expect(Math.abs(wrap180(at(60) - at(-120)))).toBeCloseTo(180, 2);
});
