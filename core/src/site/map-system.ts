import proj4 from 'proj4';
import type { Point2 } from '../geometry';

/** A system of map coordinates that can be turned into longitude and latitude. */
export interface MapSystem {
  /** As `EPSG:25832`. */
  code: string;
  /** Of its plan coordinates, metres. */
  metres: number;
  /** Longitude and latitude (WGS 84), degrees, of plan coordinates in the system's own unit. */
  toGeographic: (p: Point2) => [number, number];
  /** Plan coordinates of a longitude and latitude. */
  fromGeographic: (p: Point2) => [number, number];
}

const tm = (lat: number, lon: number, k: number, x: number, y: number, more: string) =>
  `+proj=tmerc +lat_0=${lat} +lon_0=${lon} +k=${k} +x_0=${x} +y_0=${y} ${more} +no_defs`;
const GRS = '+ellps=GRS80 +towgs84=0,0,0,0,0,0,0 +units=m';
const lcc = (p1: number, p2: number, lat: number, lon: number, x: number, y: number, more: string) =>
  `+proj=lcc +lat_1=${p1} +lat_2=${p2} +lat_0=${lat} +lon_0=${lon} +x_0=${x} +y_0=${y} ${more} +no_defs`;
const BESSEL_DE = '+ellps=bessel +towgs84=598.1,73.7,418.2,0.202,0.045,-2.455,6.7 +units=m';
const BESSEL_AT = '+ellps=bessel +towgs84=577.326,90.129,463.919,5.137,1.474,5.297,2.4232 +units=m';
const BESSEL_CH = '+ellps=bessel +towgs84=674.374,15.056,405.346,0,0,0,0 +units=m';
const US_FT = '+datum=NAD83 +units=us-ft';

/** National systems as the registry of the International Association of Oil and Gas Producers (EPSG) defines them. */
const NATIONAL: Readonly<Record<number, string>> = {
  4326: '+proj=longlat +datum=WGS84 +no_defs',
  4258: '+proj=longlat +ellps=GRS80 +no_defs',
  4269: '+proj=longlat +datum=NAD83 +no_defs',
  3857: '+proj=merc +a=6378137 +b=6378137 +lat_ts=0 +lon_0=0 +x_0=0 +y_0=0 +k=1 +units=m +no_defs',
  27700: tm(
    49,
    -2,
    0.9996012717,
    400000,
    -100000,
    '+ellps=airy +towgs84=446.448,-125.157,542.06,0.15,0.247,0.842,-20.489 +units=m',
  ),
  2157: tm(53.5, -8, 0.99982, 600000, 750000, GRS),
  29902: tm(
    53.5,
    -8,
    1.000035,
    200000,
    250000,
    '+ellps=mod_airy +towgs84=482.5,-130.6,564.6,-1.042,-0.214,-0.631,8.15 +units=m',
  ),
  29903: tm(
    53.5,
    -8,
    1.000035,
    200000,
    250000,
    '+ellps=mod_airy +towgs84=482.5,-130.6,564.6,-1.042,-0.214,-0.631,8.15 +units=m',
  ),
  28992:
    '+proj=sterea +lat_0=52.1561605555556 +lon_0=5.38763888888889 +k=0.9999079 +x_0=155000 +y_0=463000 +ellps=bessel +towgs84=565.4171,50.3319,465.5524,-0.398957388,0.343987817,-1.87740164,4.0725 +units=m +no_defs',
  2056: `+proj=somerc +lat_0=46.9524055555556 +lon_0=7.43958333333333 +k_0=1 +x_0=2600000 +y_0=1200000 ${BESSEL_CH} +no_defs`,
  21781: `+proj=somerc +lat_0=46.9524055555556 +lon_0=7.43958333333333 +k_0=1 +x_0=600000 +y_0=200000 ${BESSEL_CH} +no_defs`,
  2154: lcc(49, 44, 46.5, 3, 700000, 6600000, GRS),
  31370:
    '+proj=lcc +lat_0=90 +lon_0=4.36748666666667 +lat_1=51.1666672333333 +lat_2=49.8333339 +x_0=150000.013 +y_0=5400088.438 +ellps=intl +towgs84=-106.8686,52.2978,-103.7239,0.3366,-0.457,1.8422,-1.2747 +units=m +no_defs',
  3812: lcc(49.8333333333333, 51.1666666666667, 50.797815, 4.35921583333333, 649328, 665262, GRS),
  3006: `+proj=utm +zone=33 ${GRS} +no_defs`,
  3067: `+proj=utm +zone=35 ${GRS} +no_defs`,
  2180: tm(0, 19, 0.9993, 500000, -5300000, GRS),
  5514: '+proj=krovak +lat_0=49.5 +lon_0=24.8333333333333 +alpha=30.2881397527778 +k=0.9999 +x_0=0 +y_0=0 +ellps=bessel +towgs84=570.8,85.7,462.8,4.998,1.587,5.261,3.56 +units=m +no_defs',
  3763: tm(39.6682583333333, -8.13310833333333, 1, 0, 0, GRS),
  3003: tm(
    0,
    9,
    0.9996,
    1500000,
    0,
    '+ellps=intl +towgs84=-104.1,-49.1,-9.9,0.971,-2.917,0.714,-11.68 +units=m',
  ),
  3004: tm(
    0,
    15,
    0.9996,
    2520000,
    0,
    '+ellps=intl +towgs84=-104.1,-49.1,-9.9,0.971,-2.917,0.714,-11.68 +units=m',
  ),
  31287: `+proj=lcc +lat_0=47.5 +lon_0=13.3333333333333 +lat_1=49 +lat_2=46 +x_0=400000 +y_0=400000 ${BESSEL_AT} +no_defs`,
  31254: tm(0, 10.3333333333333, 1, 0, -5000000, BESSEL_AT),
  31255: tm(0, 13.3333333333333, 1, 0, -5000000, BESSEL_AT),
  31256: tm(0, 16.3333333333333, 1, 0, -5000000, BESSEL_AT),
  2193: tm(0, 173, 0.9996, 1600000, 10000000, GRS),
  2263: lcc(41.0333333333333, 40.6666666666667, 40.1666666666667, -74, 300000.0000000001, 0, US_FT),
  2227: lcc(38.4333333333333, 37.0666666666667, 36.5, -120.5, 2000000.0001016, 500000.0001016001, US_FT),
  2229: lcc(35.4666666666667, 34.0333333333333, 33.5, -118, 2000000.0001016, 500000.0001016001, US_FT),
  2249: lcc(42.6833333333333, 41.7166666666667, 41, -71.5, 200000.0001016002, 750000, US_FT),
  2272: lcc(40.9666666666667, 39.9333333333333, 39.3333333333333, -77.75, 600000, 0, US_FT),
  2285: lcc(48.7333333333333, 47.5, 47, -120.833333333333, 500000.0001016001, 0, US_FT),
  3435: tm(36.6666666666667, -88.3333333333333, 0.999975, 300000.0000000001, 0, US_FT),
};

/** Compound systems: what their plan coordinates are in. */
const PLAN_OF: Readonly<Record<number, number>> = {
  7415: 28992,
  5554: 25831,
  5555: 25832,
  5556: 25833,
  4979: 4326,
  7405: 27700,
  5698: 2154,
};

function definition(code: number): string | null {
  const known = NATIONAL[code];
  if (known) return known;
  const within = (first: number, last: number) => code >= first && code <= last;
  if (within(32601, 32660)) return `+proj=utm +zone=${code - 32600} +datum=WGS84 +units=m +no_defs`;
  if (within(32701, 32760)) return `+proj=utm +zone=${code - 32700} +south +datum=WGS84 +units=m +no_defs`;
  if (within(25828, 25838)) return `+proj=utm +zone=${code - 25800} ${GRS} +no_defs`;
  if (within(26901, 26923)) return `+proj=utm +zone=${code - 26900} +datum=NAD83 +units=m +no_defs`;
  if (within(28348, 28358)) return `+proj=utm +zone=${code - 28300} +south ${GRS} +no_defs`;
  if (within(7846, 7859)) return `+proj=utm +zone=${code - 7800} +south ${GRS} +no_defs`;
  if (within(31466, 31469)) {
    const zone = code - 31464;
    return tm(0, zone * 3, 1, zone * 1_000_000 + 500_000, 0, BESSEL_DE);
  }
  if (within(3942, 3950)) {
    const zone = code - 3900;
    return lcc(zone - 0.75, zone + 0.75, zone, 3, 1_700_000, (zone - 41) * 1_000_000 + 200_000, GRS);
  }
  return null;
}

/** Metres of the unit of a definition’s coordinates. */
const unitOf = (text: string) => (text.includes('+units=us-ft') ? 1200 / 3937 : 1);

/**
 * The system that a text names: `EPSG:25832`, `urn:ogc:def:crs:EPSG::28992`,
 * `https://www.opengis.net/def/crs/EPSG/0/7415`, `CRS84`; of several, as in compound systems, the first that is known here;
 * null where it names none.
 */
export function mapSystem(text: string): MapSystem | null {
  const codes = /CRS:?84/i.test(text)
    ? [4326]
    : [...text.matchAll(/EPSG[:/]+(?:[\d.]+[:/])?(\d{4,5})/gi)].map(([, code]) => Number(code));
  const plan = codes.map((code) => PLAN_OF[code] ?? code).find((code) => definition(code) !== null);
  const known = plan === undefined ? null : definition(plan);
  if (!known) return null;
  if (known.startsWith('+proj=longlat'))
    return {
      code: `EPSG:${plan}`,
      metres: NaN,
      toGeographic: ([x, y]) => [x, y],
      fromGeographic: ([x, y]) => [x, y],
    };
  const { forward, inverse } = proj4(known);
  const pair = ([x, y]: number[]): [number, number] => [x!, y!];
  return {
    code: `EPSG:${plan}`,
    metres: unitOf(known),
    toGeographic: (p) => pair(inverse([p[0], p[1]])),
    fromGeographic: (p) => pair(forward([p[0], p[1]])),
  };
}

/** Whether a system is one of longitude and latitude themselves. */
export const isGeographic = ({ metres }: MapSystem): boolean => Number.isNaN(metres);
