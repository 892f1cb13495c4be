import fc from 'fast-check';
import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import type { DeviceMake } from '../project';
import { assembleScene, refuseTooLarge } from '../scene';
import { boxCount, deviceBoxes } from './device-boxes';

const length = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const BOX = { u0: 4, v0: 1, u1: 6, v1: 2, revealM: 0.1 };
const makes: fc.Arbitrary<DeviceMake> = fc.oneof(
  length(0.02, 3).map((depthM): DeviceMake => ({ ...OVERHANG, depthM })),
  fc.record({ depthM: length(0.02, 2), turnDeg: length(-60, 60) }).map((sizes): DeviceMake => ({
    kind: 'fins',
    at: 'both',
    gapM: 0,
    aboveM: 0,
    belowM: 0,
    thicknessM: 0.03,
    ...sizes,
  })),
  fc
    .record({
      slatM: length(0.02, 0.4),
      spacingM: length(0.05, 0.6),
      tiltDeg: length(-60, 80),
      aroundM: length(0, 1),
    })
    .map((sizes): DeviceMake => ({
      kind: 'louvres',
      lie: 'upright',
      thicknessM: 0.01,
      offM: 0.05,
      ...sizes,
    })),
  fc
    .record({ depthM: length(0.02, 1), columnM: length(0.1, 3), rowM: length(0.1, 3) })
    .map((sizes): DeviceMake => ({ kind: 'eggcrate', thicknessM: 0.02, ...sizes })),
  fc
    .record({ slatM: length(0.02, 0.3), spacingM: length(0.05, 0.4), turnDeg: length(-90, 90) })
    .map((slats): DeviceMake => ({ ...OVERHANG, sideM: 1, thicknessM: 0.02, tiltDeg: 10, slats })),
  fc.record({ depthM: length(0.05, 2), tiltDeg: length(-30, 40) }).map((sizes): DeviceMake => ({
    kind: 'canopy',
    aboveM: 0.3,
    sideM: 0.5,
    thicknessM: 0.1,
    postM: 0.08,
    downM: 1,
    ...sizes,
  })),
  length(0.05, 2).map((depthM): DeviceMake => ({
    kind: 'balcony',
    depthM,
    belowM: 0.1,
    sideM: 0.4,
    thicknessM: 0.2,
    railM: 1,
    railOpenness: 0,
  })),
  length(0.02, 1).map((depthM): DeviceMake => ({ kind: 'reveal', depthM, thicknessM: 0.05 })),
  fc.constant<DeviceMake>({ kind: 'shelf', heightM: 0.6, outM: 0.4, inM: 0, thicknessM: 0.03 }),
  length(-20, 40).map((tiltDeg): DeviceMake => ({
    kind: 'shelf',
    heightM: 0.6,
    outM: 0.4,
    inM: 0.3,
    thicknessM: 0.03,
    tiltDeg,
  })),
);

test('as many solids as are told, each of a volume, and closed with its faces turned outwards', () => {
  fc.assert(
    fc.property(makes, (make) => {
      expect(deviceBoxes(make, BOX)).toHaveLength(boxCount(make, BOX));
      const { owners, pieces } = assembleScene(house(make, 0.1), 'a', NONE);
      const piece = pieces[owners.findIndex(({ layer }) => layer === 'devices')]!;
      const p = piece.positions;
      // Signed volume under the triangles, box by box: 12 triangles each; and nothing left open.
      for (let b = 0; b < piece.opaque; b += 12) {
        let volume = 0;
        const sum = [0, 0, 0];
        for (let t = b; t < b + 12; t++) {
          const [a, q, r] = [0, 3, 6].map((o) => [0, 1, 2].map((k) => p[t * 9 + o + k]! - p[b * 9 + k]!)) as [
            number[],
            number[],
            number[],
          ];
          volume +=
            (a[0]! * (q[1]! * r[2]! - q[2]! * r[1]!) +
              a[1]! * (q[2]! * r[0]! - q[0]! * r[2]!) +
              a[2]! * (q[0]! * r[1]! - q[1]! * r[0]!)) /
            6;
          const [u, v] = [q, r].map((x) => x.map((value, k) => value - a[k]!)) as [number[], number[]];
          sum[0]! += u[1]! * v[2]! - u[2]! * v[1]!;
          sum[1]! += u[2]! * v[0]! - u[0]! * v[2]!;
          sum[2]! += u[0]! * v[1]! - u[1]! * v[0]!;
        }
        expect(volume).toBeGreaterThan(1e-9);
        for (const part of sum) expect(Math.abs(part)).toBeLessThan(1e-9);
      }
    }),
    { numRuns: 60 },
  );
});

test('a scheme of more slats than can be built is told and not built', () => {
  const slats: DeviceMake = {
    kind: 'louvres',
    lie: 'level',
    slatM: 0.02,
    spacingM: 0.01,
    tiltDeg: 0,
    thicknessM: 0.001,
    offM: 0,
    aroundM: 20,
  };
  const project = house(slats);
  const [device] = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices = Array.from({ length: 20 }, (_, i) => ({
    ...device!,
    id: `d${i}`,
  }));
  expect(assembleScene(project, 'a', NONE).owners.some(({ layer }) => layer === 'devices')).toBe(false);
  expect(() => refuseTooLarge(project, 'a')).toThrow(
    '82,020 plates and slats; at most 60,000 are built, so none is',
  );
});
