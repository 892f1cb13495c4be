import { kelpLane } from '@dial-shade/samples';
import { BANDS, skyVault } from '../sky';
import { RAD } from '../civil';
import { requireStudy } from './run-study';
import { skyWeights } from './sky-weights';

const project = kelpLane();
const SOUTH = [0, -1, 0] as const;
const of = (id: string, normal: readonly [number, number, number] = SOUTH) =>
  skyWeights(project, requireStudy(project, id), [...normal])!;

test('of the overcast sky a wall has 39.6 %, each patch what luminance × cosine × solid angle gives', () => {
  const flat = { ...project, site: { ...project.site, north: { ...project.site.north, trueNorthDeg: 0 } } };
  const { patches, whole } = skyWeights(flat, requireStudy(flat, 'windows-sky'), [...SOUTH])!;
  expect(whole).toBeCloseTo(39.6, 1);
  expect(patches.reduce((sum, part) => sum + part, 0)).toBeCloseTo(whole, 9);
  // Integrated over the patch by a fine grid; the directions of the study are 8,192.
  const vault = skyVault(1);
  for (const p of [15, 14, 45, 72]) {
    const width = 360 / BANDS[Math.floor(vault.altitudeDeg[p]! / 12)]!;
    let sum = 0;
    const n = 40;
    for (let i = 0; i < n; i++)
      for (let k = 0; k < n; k++) {
        const h = (vault.altitudeDeg[p]! - 6 + ((i + 0.5) / n) * 12) * RAD;
        const a = (vault.azimuthDeg[p]! + ((k + 0.5) / n - 0.5) * width) * RAD;
        const cosine = -Math.cos(a) * Math.cos(h);
        if (cosine > 0)
          sum += (1 + 2 * Math.sin(h)) * cosine * Math.cos(h) * ((12 / n) * RAD) * ((width / n) * RAD);
      }
    expect(patches[p]! / ((100 * sum) / 3 / ((7 * Math.PI) / 9))).toBeCloseTo(1, 1);
  }
});

test('sun hours come from where the sun goes, and what faces away has none', () => {
  const { patches, whole } = of('courtyards-march', [0, 0, 1]);
  expect(whole).toBeGreaterThan(5);
  const vault = skyVault(1);
  // At the equinox in the north the sun stays in the southern half, but for the east and the west themselves.
  patches.forEach((hours, p) => {
    if (Math.cos(vault.azimuthDeg[p]! * RAD) > 0.3) expect(hours).toBe(0);
  });
  expect(of('courtyards-march', [0, 0, -1]).whole).toBe(0);
});

test('kinds that ask for glass have none', () => {
  const gain = project.studies.find(({ kind }) => kind === 'solar-gain')!;
  expect(skyWeights(project, gain, [...SOUTH])).toBeNull();
});
