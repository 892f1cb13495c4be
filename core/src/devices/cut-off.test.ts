import { anglesAt, at, house, NONE, OVERHANG } from '../../testing/shaded-house';
import type { DeviceMake } from '../project';
import { glassInSun } from '../shade';
import { cutOffOf, endlessDepth } from './cut-off';

const BOX = { u0: 4, v0: 1, u1: 6, v1: 2, revealM: 0 };
const FINS = {
  kind: 'fins',
  depthM: 0.5,
  gapM: 0.1,
  aboveM: 0,
  belowM: 0,
  thicknessM: 0.02,
  turnDeg: 0,
} as const;

test('cut-off angles by hand', () => {
  // tan VSA = (1 + 0.1) / 0.6; tan HSA = (2 + 0.1) / 0.5; tan VSA = (0.6 − 0.1) / 0.3.
  expect(cutOffOf(OVERHANG, BOX).vsaDeg).toBeCloseTo(61.39, 2);
  expect(cutOffOf({ ...FINS, at: 'both' }, BOX).hsaLeftDeg).toBeCloseTo(76.61, 2);
  expect(cutOffOf({ ...FINS, at: 'left' }, BOX)).toMatchObject({ hsaRightDeg: null, vsaDeg: null });
  const shelf: DeviceMake = { kind: 'shelf', heightM: 0.6, outM: 0.3, inM: 0, thicknessM: 0.1 };
  expect(cutOffOf(shelf, BOX).vsaDeg).toBeCloseTo(59.04, 2);
});

test('an endless overhang or fin of the depth that is told shades as much as was asked, by exact shade', () => {
  for (const hour of [9.5, 12, 14.8])
    for (const goal of [0.4, 0.9]) {
      const ms = at(hour);
      const angles = anglesAt(ms, house(null)) as { hsaDeg: number; vsaDeg: number | null };
      const share = (make: DeviceMake) => {
        const [found] = glassInSun(house(make), 'a', NONE, ms);
        return 1 - found!.sunlitM2 / found!.areaM2;
      };
      const overhang = endlessDepth(OVERHANG, BOX, angles, goal)!;
      expect(share({ ...OVERHANG, depthM: overhang } as DeviceMake)).toBeCloseTo(goal, 3);
      if (Math.abs(angles.hsaDeg) < 15) continue;
      const tall = { ...FINS, at: 'both', aboveM: 60 } as DeviceMake;
      const fin = endlessDepth(tall, BOX, angles, goal)!;
      expect(share({ ...tall, depthM: fin } as DeviceMake)).toBeCloseTo(goal, 3);
      // The sun comes from one side: the fin on the other keeps nothing off, and no depth of it would.
      const other = { ...tall, at: angles.hsaDeg > 0 ? 'right' : 'left' } as DeviceMake;
      expect(endlessDepth(other, BOX, angles, goal)).toBeNull();
      expect(share({ ...other, depthM: fin } as DeviceMake)).toBeLessThan(0.02);
    }
});
