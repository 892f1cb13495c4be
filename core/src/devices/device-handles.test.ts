import fc from 'fast-check';
import type { DeviceMake } from '../project';
import { type DeviceBox, deviceBoxes } from './device-boxes';
import { type DeviceHandle, deviceHandles, withHandle } from './device-handles';

const BOX = { u0: 4, v0: 1, u1: 6, v1: 2, revealM: 0.1 };
const MAKES: DeviceMake[] = [
  { kind: 'overhang', depthM: 0.8, aboveM: 0.1, sideM: 0.2, thicknessM: 0.08, tiltDeg: 15 },
  { kind: 'fins', depthM: 0.5, at: 'both', gapM: 0.1, aboveM: 0, belowM: 0, thicknessM: 0.05, turnDeg: 20 },
  { kind: 'fins', depthM: 0.5, at: 'left', gapM: 0.1, aboveM: 0, belowM: 0, thicknessM: 0.05, turnDeg: -20 },
  {
    kind: 'louvres',
    lie: 'level',
    slatM: 0.2,
    spacingM: 0.2,
    tiltDeg: 20,
    thicknessM: 0.01,
    offM: 0.1,
    aroundM: 0.05,
  },
  {
    kind: 'louvres',
    lie: 'upright',
    slatM: 0.2,
    spacingM: 0.25,
    tiltDeg: -20,
    thicknessM: 0.01,
    offM: 0.1,
    aroundM: 0.05,
  },
  { kind: 'shelf', heightM: 0.6, outM: 0.6, inM: 0.4, thicknessM: 0.04 },
  { kind: 'reveal', depthM: 0.3, thicknessM: 0.05 },
  { kind: 'screen', openness: 0.4, holeDepth: 0.5, offM: 0.15, aroundM: 0.1 },
  {
    kind: 'balcony',
    depthM: 1.4,
    belowM: 0.9,
    sideM: 0.5,
    thicknessM: 0.2,
    railM: 1.1,
    railOpenness: 0.6,
  },
];

/** How near a point comes to the corners and edges of a device, metres. */
function away(boxes: readonly DeviceBox[], p: readonly number[]): number {
  const inside = boxes.map((box) => {
    const out = [0, 1, 2].map((k) => {
      const values = box.map((corner) => corner[k]!);
      return Math.max(Math.min(...values) - p[k]!, p[k]! - Math.max(...values), 0);
    });
    return Math.hypot(...out);
  });
  return Math.min(...inside);
}

test('every handle lies on its device, and its number is what it says when it is not moved', () => {
  for (const make of MAKES)
    for (const handle of deviceHandles(make, BOX)) {
      expect(Math.hypot(...handle.axis)).toBeCloseTo(1, 9);
      expect(handle.valueAt(0)).toBeCloseTo(
        ((make as Record<string, unknown>)[handle.number] ?? 0) as number,
        9,
      );
      if (make.kind !== 'screen') expect(away(deviceBoxes(make, BOX), handle.at)).toBeLessThan(1.15);
    }
});

test('dragged along, the handle of the changed device lies where it was dragged to', () => {
  const names = [
    'depthM',
    'aboveM',
    'sideM',
    'outM',
    'inM',
    'heightM',
    'gapM',
    'slatM',
    'spacingM',
    'offM',
    'railM',
  ];
  fc.assert(
    fc.property(
      fc.constantFrom(...MAKES),
      fc.nat(),
      fc.double({ min: -0.15, max: 0.4, noNaN: true }),
      (make, pick, along) => {
        const handles = deviceHandles(make, BOX).filter(({ number }) => names.includes(number));
        const handle = handles[pick % handles.length]!;
        const free: DeviceHandle = { ...handle, step: 1e-6 };
        const moved = withHandle(make, free, along);
        const value = (moved as Record<string, unknown>)[handle.number] as number;
        fc.pre(Math.abs(value - handle.valueAt(along)) < 1e-5);
        const again = deviceHandles(moved, BOX).find(({ number }) => number === handle.number)!;
        // The slat that is held is another one where the spacing changes their number.
        fc.pre(handle.number !== 'spacingM' || Math.abs(along) < 0.02);
        const off = again.at.map((at, k) => at - handle.at[k]! - along * handle.axis[k]!);
        expect(Math.hypot(...off)).toBeLessThan(1e-3);
      },
    ),
    { numRuns: 300 },
  );
});

test('a number snaps to its step, and stays what a device can have', () => {
  const [make] = MAKES;
  const [depth, , , tilt] = deviceHandles(make!, BOX);
  expect(withHandle(make!, depth!, 0.131)).toMatchObject({ depthM: 0.95 });
  expect(withHandle(make!, depth!, -3)).toMatchObject({ depthM: 0.05 });
  expect(withHandle(make!, tilt!, 9)).toMatchObject({ tiltDeg: 80 });
  expect(withHandle(make!, tilt!, 0.8 * (Math.sin(Math.PI / 6) - Math.sin(Math.PI / 12)))).toMatchObject({
    tiltDeg: 30,
  });
});
