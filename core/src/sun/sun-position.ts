import { DEG, RAD, wrap180, wrap360 } from '../civil';
import { InputError } from '../errors';
import { deltaT, poly } from './delta-t';
import { B_TERMS, L_TERMS, NUTATION_TERMS, R_TERMS } from './periodic-terms';

/** Where on Earth, degrees north and east, metres above sea level. */
export interface EarthPlace {
  latitudeDeg: number;
  longitudeDeg: number;
  elevationM: number;
}

/** What refraction depends on. */
export interface Air {
  pressureHPa: number;
  temperatureC: number;
}

/** The sun as seen from the centre of the Earth. Angles in degrees. */
export interface GeocentricSun {
  /** Apparent right ascension. */
  rightAscensionDeg: number;
  /** Apparent declination. */
  declinationDeg: number;
  /** Distance in astronomical units. */
  distanceAu: number;
  /** Apparent ecliptic longitude. */
  longitudeDeg: number;
  /** Nutation in longitude × cos obliquity, the correction from mean to apparent sidereal time. */
  equinoxCorrectionDeg: number;
  /** Equation of time in minutes: apparent minus mean solar time. */
  equationOfTimeMinutes: number;
}

/** The sun as seen from the site. Degrees; azimuth clockwise from true north. */
export interface SunPosition {
  /** Topocentric altitude of the centre, without refraction. */
  altitudeDeg: number;
  azimuthDeg: number;
  /** Altitude as it looks, lifted by refraction (equal to altitudeDeg below the horizon). */
  apparentAltitudeDeg: number;
  /** Topocentric local hour angle, −180…180, 0 at transit, positive in the afternoon. */
  hourAngleDeg: number;
  declinationDeg: number;
  equationOfTimeMinutes: number;
  distanceAu: number;
}

const J2000 = 2451545;
const ABERRATION_ARCSEC = 20.4898;
const PARALLAX_ARCSEC = 8.794;
const POLAR_RATIO = 0.99664719;
const EARTH_RADIUS_M = 6378140;

/** Standard refraction at the horizon in degrees (34′). */
export const HORIZON_REFRACTION_DEG = 34 / 60;
/** Angular radius of the sun at 1 au, degrees. */
export const SUN_RADIUS_DEG = 0.26667;

/** Julian day of an instant in epoch milliseconds (UTC taken as UT1). */
export function julianDay(atMs: number): number {
  return atMs / 86_400_000 + 2440587.5;
}

/** Pressure in hPa of the standard atmosphere at an elevation, and 10 °C. */
export function standardAir(elevationM: number): Air {
  return { pressureHPa: 1013.25 * (1 - 2.25577e-5 * elevationM) ** 5.25588, temperatureC: 10 };
}

/** Throws InputError `place` unless latitude, longitude and elevation are on Earth. */
export function requirePlace(place: EarthPlace): void {
  const within = (value: number, low: number, high: number) => value >= low && value <= high;
  if (!within(place.latitudeDeg, -90, 90))
    throw new InputError('place', `Latitude ${place.latitudeDeg} is outside −90 to 90 degrees.`);
  if (!within(place.longitudeDeg, -180, 180))
    throw new InputError('place', `Longitude ${place.longitudeDeg} is outside −180 to 180 degrees.`);
  if (!within(place.elevationM, -500, 9000))
    throw new InputError('place', `Elevation ${place.elevationM} m is outside −500 to 9000 m.`);
}

function series(terms: readonly (readonly number[])[], jme: number): number {
  const sums = terms.map((rows) => {
    let sum = 0;
    for (let i = 0; i < rows.length; i += 3) sum += rows[i]! * Math.cos(rows[i + 1]! + rows[i + 2]! * jme);
    return sum;
  });
  return poly(jme, sums) / 1e8;
}

/**
 * The apparent geocentric sun by the Solar Position Algorithm (NREL/TP-560-34302, steps 3.1–3.10 and appendix A.1).
 * @param atMs instant, epoch milliseconds
 * @param deltaTSeconds TT − UT; by default from the Espenak–Meeus polynomials
 */
export function geocentricSun(atMs: number, deltaTSeconds = deltaTAt(atMs)): GeocentricSun {
  const jde = julianDay(atMs) + deltaTSeconds / 86_400;
  const jce = (jde - J2000) / 36525;
  const jme = jce / 10;

  const distanceAu = series(R_TERMS, jme);
  const theta = series(L_TERMS, jme) * DEG + 180;
  const beta = -series(B_TERMS, jme);

  const { longitude: dPsi, obliquity: dEpsilon } = nutation(jce);
  const meanObliquityArcsec = poly(
    jme / 10,
    [84381.448, -4680.93, -1.55, 1999.25, -51.38, -249.67, -39.05, 7.12, 27.87, 5.79, 2.45],
  );
  const epsilon = (meanObliquityArcsec / 3600 + dEpsilon) * RAD;
  const longitudeDeg = wrap360(theta + dPsi - ABERRATION_ARCSEC / (3600 * distanceAu));
  const lambda = longitudeDeg * RAD;

  const rightAscensionDeg = wrap360(
    Math.atan2(Math.sin(lambda) * Math.cos(epsilon) - Math.tan(beta) * Math.sin(epsilon), Math.cos(lambda)) *
      DEG,
  );
  const declinationDeg =
    Math.asin(Math.sin(beta) * Math.cos(epsilon) + Math.cos(beta) * Math.sin(epsilon) * Math.sin(lambda)) *
    DEG;
  const equinoxCorrectionDeg = dPsi * Math.cos(epsilon);
  const meanLongitude = poly(jme, [
    280.4664567,
    360007.6982779,
    0.03032028,
    1 / 49931,
    -1 / 15300,
    -1 / 2000000,
  ]);
  const equationOfTimeMinutes =
    4 * wrap180(meanLongitude - 0.0057183 - rightAscensionDeg + equinoxCorrectionDeg);
  return {
    rightAscensionDeg,
    declinationDeg,
    distanceAu,
    longitudeDeg,
    equinoxCorrectionDeg,
    equationOfTimeMinutes,
  };
}

function nutation(jce: number): { longitude: number; obliquity: number } {
  const x = [
    poly(jce, [297.85036, 445267.11148, -0.0019142, 1 / 189474]),
    poly(jce, [357.52772, 35999.05034, -0.0001603, -1 / 300000]),
    poly(jce, [134.96298, 477198.867398, 0.0086972, 1 / 56250]),
    poly(jce, [93.27191, 483202.017538, -0.0036825, 1 / 327270]),
    poly(jce, [125.04452, -1934.136261, 0.0020708, 1 / 450000]),
  ];
  let longitude = 0;
  let obliquity = 0;
  for (let i = 0; i < NUTATION_TERMS.length; i += 9) {
    let argument = 0;
    for (let k = 0; k < 5; k++) argument += x[k]! * NUTATION_TERMS[i + k]!;
    argument *= RAD;
    longitude += (NUTATION_TERMS[i + 5]! + NUTATION_TERMS[i + 6]! * jce) * Math.sin(argument);
    obliquity += (NUTATION_TERMS[i + 7]! + NUTATION_TERMS[i + 8]! * jce) * Math.cos(argument);
  }
  return { longitude: longitude / 36e6, obliquity: obliquity / 36e6 };
}

function deltaTAt(atMs: number): number {
  return deltaT(2000 + (julianDay(atMs) - 2451544.5) / 365.2425);
}

/** A place as the sun is seen from it: what depends on nothing else. */
export interface Station {
  longitudeDeg: number;
  sinLatitude: number;
  cosLatitude: number;
  /** Distances from the axis and from the plane of the equator, in radii of the Earth. */
  x: number;
  y: number;
}

/** The geocentric place of an observer on the ellipsoid (NREL/TP-560-34302, step 3.12). */
export function stationAt({ latitudeDeg, longitudeDeg, elevationM }: EarthPlace): Station {
  const phi = latitudeDeg * RAD;
  const [sinLatitude, cosLatitude] = [Math.sin(phi), Math.cos(phi)];
  const u = Math.atan(POLAR_RATIO * Math.tan(phi));
  const height = elevationM / EARTH_RADIUS_M;
  const x = Math.cos(u) + height * cosLatitude;
  const y = POLAR_RATIO * Math.sin(u) + height * sinLatitude;
  return { longitudeDeg, sinLatitude, cosLatitude, x, y };
}

/**
 * From the geocentric sun to the sun seen at the place (NREL/TP-560-34302, steps 3.11–3.15).
 * `geo` may be interpolated; sidereal time is formed here from the instant.
 */
export function topocentricSun(
  atMs: number,
  geo: GeocentricSun,
  { longitudeDeg, sinLatitude, cosLatitude, x, y }: Station,
  air: Air,
): SunPosition {
  const jd = julianDay(atMs);
  const jc = (jd - J2000) / 36525;
  const sidereal = 280.46061837 + 360.98564736629 * (jd - J2000) + jc * jc * (0.000387933 - jc / 38710000);
  const hourAngle = wrap360(sidereal + geo.equinoxCorrectionDeg + longitudeDeg - geo.rightAscensionDeg) * RAD;

  const delta = geo.declinationDeg * RAD;
  const sinXi = Math.sin((PARALLAX_ARCSEC / (3600 * geo.distanceAu)) * RAD);
  const towards = Math.cos(delta) - x * sinXi * Math.cos(hourAngle);
  const dAlpha = Math.atan2(-x * sinXi * Math.sin(hourAngle), towards);
  const declination = Math.atan2((Math.sin(delta) - y * sinXi) * Math.cos(dAlpha), towards);
  const h = hourAngle - dAlpha;

  const cosH = Math.cos(h);
  const altitudeDeg =
    Math.asin(sinLatitude * Math.sin(declination) + cosLatitude * Math.cos(declination) * cosH) * DEG;
  const azimuthDeg = wrap360(
    Math.atan2(Math.sin(h), cosH * sinLatitude - Math.tan(declination) * cosLatitude) * DEG + 180,
  );
  return {
    altitudeDeg,
    azimuthDeg,
    apparentAltitudeDeg: altitudeDeg + refraction(altitudeDeg, air),
    hourAngleDeg: wrap180(h * DEG),
    declinationDeg: declination * DEG,
    equationOfTimeMinutes: geo.equationOfTimeMinutes,
    distanceAu: geo.distanceAu,
  };
}

/** Refraction in degrees to be added to a true altitude; 0 when the whole disc is below the horizon. */
export function refraction(altitudeDeg: number, air: Air): number {
  if (altitudeDeg < -(SUN_RADIUS_DEG + HORIZON_REFRACTION_DEG)) return 0;
  return (
    ((air.pressureHPa / 1010) * (283 / (273 + air.temperatureC)) * 1.02) /
    (60 * Math.tan((altitudeDeg + 10.3 / (altitudeDeg + 5.11)) * RAD))
  );
}

/** The sun at an instant and a place, every step of the algorithm taken anew. */
export function sunPosition(
  atMs: number,
  place: EarthPlace,
  options: { air?: Air; deltaTSeconds?: number } = {},
): SunPosition {
  const air = options.air ?? standardAir(place.elevationM);
  return topocentricSun(atMs, geocentricSun(atMs, options.deltaTSeconds), stationAt(place), air);
}

/**
 * Unit vector from the site towards the sun in the project frame (x right, y drawing north, z up).
 * @param trueNorthDeg clockwise from drawing north to true north
 */
export function sunVector(
  altitudeDeg: number,
  azimuthDeg: number,
  trueNorthDeg: number,
): [number, number, number] {
  const b = (azimuthDeg + trueNorthDeg) * RAD;
  const h = altitudeDeg * RAD;
  return [Math.sin(b) * Math.cos(h), Math.cos(b) * Math.cos(h), Math.sin(h)];
}
