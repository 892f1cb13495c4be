import { RAD } from '../civil';
import { emptyProject } from '../project';
import { localFrame } from './local-frame';
import { isGeographic, mapSystem } from './map-system';

test('systems are named in the ways that files name them; compound ones by their plan', () => {
  for (const text of [
    ...['EPSG:28992', 'urn:ogc:def:crs:EPSG::28992', 'urn:ogc:def:crs:EPSG:6.9:28992', 'epsg:7415'],
    ...['https://www.opengis.net/def/crs/EPSG/0/7415', 'urn:ogc:def:crs,crs:EPSG::28992,crs:EPSG::5709'],
  ])
    expect(mapSystem(text)!.code).toBe('EPSG:28992');
  expect(isGeographic(mapSystem('urn:ogc:def:crs:OGC:1.3:CRS84')!)).toBe(true);
  for (const text of ['', 'local', 'EPSG:99999', 'EPSG:12', '25832']) expect(mapSystem(text)).toBeNull();
});

test.each([
  // The origins of the national grids as their authorities publish them on WGS 84.
  ['EPSG:28992', [155_000, 463_000], [5.387206, 52.155174], 1],
  ['EPSG:27700', [651_409.804, 313_177.45], [1.716074, 52.658008], 6],
  ['EPSG:2056', [2_600_000, 1_200_000], [7.438632, 46.951083], 2],
  ['EPSG:21781', [600_000, 200_000], [7.438632, 46.951083], 2],
  // Definitions: false origin on the central meridian.
  ['EPSG:2154', [700_000, 6_600_000], [3, 46.5], 0.01],
  ['EPSG:2263', [984_250, 0], [-74, 40.1666666666667], 0.01],
] as const)('%s at a published place', (code, plan, lonLat, withinM) => {
  const system = mapSystem(code)!;
  const [lon, lat] = system.toGeographic([plan[0], plan[1]]);
  const off = Math.hypot((lon - lonLat[0]) * 111_320 * Math.cos(lat * RAD), (lat - lonLat[1]) * 111_200);
  expect(off).toBeLessThan(withinM);
});

test('a zone of the universal grid: the equator and the central meridian, south of it, and there and back', () => {
  for (const [code, zone] of [
    ...([
      ['EPSG:32633', 33],
      ['EPSG:25832', 32],
      ['EPSG:26918', 18],
    ] as const),
  ]) {
    const [lon, lat] = mapSystem(code)!.toGeographic([500_000, 0]);
    expect([lon, lat]).toEqual([expect.closeTo(zone * 6 - 183, 9), expect.closeTo(0, 9)]);
  }
  expect(mapSystem('EPSG:32733')!.toGeographic([500_000, 10_000_000])[1]).toBeCloseTo(0, 9);
  for (const code of [
    27700, 2157, 29902, 31370, 3812, 3006, 3067, 5514, 3763, 3003, 31287, 31256, 31467, 3949, 2193, 28355,
    7855, 2227, 2249, 3435, 3857,
  ]) {
    const system = mapSystem(`EPSG:${code}`)!;
    const [x, y] = system.fromGeographic(AT[code] ?? [10, 50]);
    const [lon, lat] = system.toGeographic([x, y]);
    expect([code, lon, lat]).toEqual([
      code,
      expect.closeTo((AT[code] ?? [10, 50])[0], 7),
      expect.closeTo((AT[code] ?? [10, 50])[1], 7),
    ]);
  }
  expect(mapSystem('EPSG:2263')!.metres).toBeCloseTo(0.3048006, 7);
});

const AT: Record<number, [number, number]> = {
  ...{
    27700: [-2, 52],
    2157: [-8, 53],
    29902: [-8, 53],
    31370: [4.4, 50.8],
    3812: [4.4, 50.8],
    3006: [15, 60],
  },
  ...{ 3067: [27, 62], 5514: [15, 50], 3763: [-8.2, 39.5], 3003: [9.2, 45.5], 31287: [13.5, 47.5] },
  ...{ 31256: [16.4, 48.2], 31467: [9.2, 48.8], 3949: [2.3, 48.9], 2193: [174.8, -41.3], 28355: [147, -37] },
  ...{ 7855: [147, -37], 2227: [-122, 37.5], 2249: [-71, 42.3], 3435: [-87.6, 41.9] },
};

test('the tangent frame: distances along the ellipsoid within a millimetre at 2 km, and there and back', () => {
  const { site } = emptyProject('P', 2026);
  site.place = { ...site.place, latitudeDeg: 52, longitudeDeg: 13 };
  const frame = localFrame(site);
  // Along the meridian, by its radius of curvature half way; along the parallel by that of the prime vertical.
  const [a, e2] = [6_378_137, 0.0066943799901413];
  const w = (lat: number) => Math.sqrt(1 - e2 * Math.sin(lat * RAD) ** 2);
  const north = (lat: number) => ((a * (1 - e2)) / w((52 + lat) / 2) ** 3) * (lat - 52) * RAD;
  for (const lat of [52.0072, 52.018, 51.982]) {
    const [x, y] = frame.toProject([13, lat]);
    expect([x, y]).toEqual([expect.closeTo(0, 6), expect.closeTo(north(lat), 3)]);
  }
  const [x, y] = frame.toProject([13.029, 52]);
  // East along the parallel, which bends northwards by s² tan φ / 2N.
  const along = (a / w(52)) * Math.cos(52 * RAD) * 0.029 * RAD;
  expect(x).toBeCloseTo(along, 3);
  expect(y).toBeCloseTo((along ** 2 * Math.tan(52 * RAD) * w(52)) / (2 * a), 3);
  for (const p of [
    [13.02, 52.01],
    [12.5, 51.7],
    [13.3, 52.2],
  ] as [number, number][]) {
    const back = frame.toGeographic(frame.toProject(p));
    expect(back).toEqual([expect.closeTo(p[0], 9), expect.closeTo(p[1], 9)]);
  }
});
