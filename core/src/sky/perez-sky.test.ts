import fc from 'fast-check';
import { RAD } from '../civil';
import { brightness, clearness, type PerezHour, perezSky } from './perez-sky';

/** The published table, row by row: bin, then a, b, c, d, e with four numbers each. */
const TABLE = `
  | 1 | 1.3525 −0.2576 −0.2690 −1.4366 | −0.7670 0.0007 1.2734 −0.1233 | 2.8000 0.6004 1.2375 1.0000 | 1.8734 0.6297 0.9738 0.2809 | 0.0356 −0.1246 −0.5718 0.9938 |
  | 2 | −1.2219 −0.7730 1.4148 1.1016 | −0.2054 0.0367 −3.9128 0.9156 | 6.9750 0.1774 6.4477 −0.1239 | −1.5798 −0.5081 −1.7812 0.1080 | 0.2624 0.0672 −0.2190 −0.4285 |
  | 3 | −1.1000 −0.2515 0.8952 0.0156 | 0.2782 −0.1812 −4.5000 1.1766 | 24.7219 −13.0812 −37.7000 34.8438 | −5.0000 1.5218 3.9229 −2.6204 | −0.0156 0.1597 0.4199 −0.5562 |
  | 4 | −0.5484 −0.6654 −0.2672 0.7117 | 0.7234 −0.6219 −5.6812 2.6297 | 33.3389 −18.3000 −62.2500 52.0781 | −3.5000 0.0016 1.1477 0.1062 | 0.4659 −0.3296 −0.0876 −0.0329 |
  | 5 | −0.6000 −0.3566 −2.5000 2.3250 | 0.2937 0.0496 −5.6812 1.8415 | 21.0000 −4.7656 −21.5906 7.2492 | −3.5000 −0.1554 1.4062 0.3988 | 0.0032 0.0766 −0.0656 −0.1294 |
  | 6 | −1.0156 −0.3670 1.0078 1.4051 | 0.2875 −0.5328 −3.8500 3.3750 | 14.0000 −0.9999 −7.1406 7.5469 | −3.4000 −0.1078 −1.0750 1.5702 | −0.0672 0.4016 0.3017 −0.4844 |
  | 7 | −1.0000 0.0211 0.5025 −0.5119 | −0.3000 0.1922 0.7023 −1.6317 | 19.0000 −5.0000 1.2438 −1.9094 | −4.0000 0.0250 0.3844 0.2656 | 1.0468 −0.3788 −2.4517 1.4656 |
  | 8 | −1.0500 0.0289 0.4260 0.3590 | −0.3250 0.1156 0.7781 0.0025 | 31.0625 −14.5000 −46.1148 55.3750 | −7.2312 0.4050 13.3500 0.6234 | 1.5000 −0.6426 1.8564 0.5636 |
`;
const COEFFICIENTS = TABLE.trim()
  .split('\n')
  .map((line) =>
    line
      .split('|')
      .slice(2, 7)
      .map((cell) => cell.trim().replaceAll('−', '-').split(/\s+/).map(Number)),
  );
const BINS = [1, 1.065, 1.23, 1.5, 1.95, 2.8, 4.5, 6.2, Infinity];

/** The formula once more, straight from the paper. */
function published(hour: PerezHour, altitudeDeg: number, chi: number): number {
  const z = (90 - hour.sunAltitudeDeg) * RAD;
  const h = hour.sunAltitudeDeg;
  const m = 1 / (Math.sin(h * RAD) + 0.50572 * Math.pow(h + 6.07995, -1.6364));
  const delta = (m * hour.diffuseHorizontal) / hour.extraterrestrial;
  const k = 1.041 * Math.pow(z, 3);
  const epsilon = ((hour.diffuseHorizontal + hour.beamNormal) / hour.diffuseHorizontal + k) / (1 + k);
  const row = COEFFICIENTS[BINS.findIndex((low, i) => epsilon >= low && epsilon < BINS[i + 1]!)]!;
  const x = ([p, q, r, s]: number[]) => p! + q! * z + delta * (r! + s! * z);
  const [a, b, general, slope, e] = row.map(x) as [number, number, number, number, number];
  let [c, d] = [general, slope];
  if (epsilon < 1.065) {
    const [, , cs, ds] = row as [number[], number[], number[], number[]];
    c = Math.exp(Math.pow(delta * (cs[0]! + cs[1]! * z), cs[2]!)) - cs[3]!;
    d = -Math.exp(delta * (ds[0]! + ds[1]! * z)) + ds[2]! + delta * ds[3]!;
  }
  const zeta = Math.max(0.00436, Math.cos((90 - altitudeDeg) * RAD));
  return Math.max(0, (1 + a * Math.exp(b / zeta)) * (1 + c * Math.exp(d * chi) + e * Math.cos(chi) ** 2));
}

test('luminance is that of the published formula and table, in every bin of clearness', () => {
  const seen = new Set<number>();
  fc.assert(
    fc.property(
      fc.double({ min: 2, max: 88, noNaN: true }),
      fc.double({ min: 0, max: 950, noNaN: true }),
      fc.double({ min: 10, max: 400, noNaN: true }),
      fc.double({ min: 0, max: 90, noNaN: true }),
      fc.double({ min: 0, max: Math.PI, noNaN: true }),
      (sunAltitudeDeg, beamNormal, diffuseHorizontal, altitude, chi) => {
        const hour = { sunAltitudeDeg, beamNormal, diffuseHorizontal, extraterrestrial: 1367 };
        const epsilon = clearness(hour);
        seen.add(BINS.findIndex((low, i) => epsilon >= low && epsilon < BINS[i + 1]!));
        const found = perezSky(hour)(altitude, chi);
        const wanted = published(hour, altitude, chi);
        expect(Math.abs(found - wanted)).toBeLessThanOrEqual(1e-9 * (1 + wanted));
        expect(found).toBeGreaterThanOrEqual(0);
      },
    ),
    { numRuns: 2000, seed: 5 },
  );
  expect([...seen].sort()).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
});

test('clearness is 1 under a sky without beam; brightness is the diffuse over what there is outside the air', () => {
  const hour = { sunAltitudeDeg: 90, beamNormal: 0, diffuseHorizontal: 200, extraterrestrial: 1367 };
  expect(clearness(hour)).toBeCloseTo(1, 12);
  expect(clearness({ ...hour, beamNormal: 600 })).toBeCloseTo(4, 12);
  // Kasten & Young: air mass 0.9997 at the zenith, 1.9943 at 30°.
  expect(brightness(hour)).toBeCloseTo((0.9997 * 200) / 1367, 4);
  expect(brightness({ ...hour, sunAltitudeDeg: 30 })).toBeCloseTo((1.9943 * 200) / 1367, 4);
});
