import { anglesAt, at, house, NONE, OVERHANG } from '../../testing/shaded-house';
import { RAD } from '../civil';
import type { DeviceMake } from '../project';
import { glassInSun } from '../shade';
import { cutOffOf, endlessDepth } from './cut-off';
import { cutOffLines } from './cut-off-lines';

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
  // Tilted by 30 degrees: (0.6 − 0.1 − 0.15) / 0.2598.
  expect(cutOffOf({ ...shelf, tiltDeg: 30 }, BOX).vsaDeg).toBeCloseTo(53.41, 2);
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

test('upright slats turned to the right are open to the right: cut off there from a steeper angle, by exact shade', () => {
  const make: DeviceMake = {
    ...{ kind: 'louvres', lie: 'upright', slatM: 0.1, spacingM: 0.1, thicknessM: 0.0005 },
    ...{ tiltDeg: 25, offM: 0.02, aroundM: 1.5 },
  };
  const { hsaRightDeg, hsaLeftDeg } = cutOffOf(make, BOX);
  expect(hsaRightDeg).toBeGreaterThan(hsaLeftDeg!);
  const lit = (hour: number) => glassInSun(house(make), 'a', NONE, at(hour, '2026-12-10'))[0]!.sunlitM2;
  let [open, shut] = [0, 0];
  for (let hour = 8.5; hour <= 16.5; hour += 0.25) {
    const { hsaDeg } = anglesAt(at(hour, '2026-12-10'), house(null));
    // East of south is to the right of who looks at the wall.
    const cut = hsaDeg < 0 ? hsaRightDeg! : hsaLeftDeg!;
    if (Math.abs(hsaDeg) > cut + 0.5) {
      expect(lit(hour)).toBeLessThan(1e-6);
      shut++;
    } else if (Math.abs(hsaDeg) < cut - 1.5) {
      expect(lit(hour)).toBeGreaterThan(0.01);
      open++;
    }
  }
  expect(Math.min(open, shut)).toBeGreaterThan(4);
});

test('the lines of a cut-off rise by the angles that they are labelled with', () => {
  const box = { ...BOX, revealM: 0.12, nextM: 1 };
  const slats = {
    kind: 'louvres',
    slatM: 0.15,
    spacingM: 0.2,
    thicknessM: 0.004,
    offM: 0.1,
    aroundM: 0.05,
  } as const;
  const makes: DeviceMake[] = [
    { ...OVERHANG, tiltDeg: 20 },
    { ...FINS, at: 'both', turnDeg: 15 },
    { ...FINS, at: 'between' },
    { ...slats, lie: 'level', tiltDeg: 25 },
    { ...slats, lie: 'upright', tiltDeg: 25 },
    { kind: 'shelf', heightM: 0.6, outM: 0.3, inM: 0.2, thicknessM: 0.05, tiltDeg: 10 },
    { kind: 'eggcrate', depthM: 0.3, columnM: 0.6, rowM: 0.45, thicknessM: 0.03 },
    { kind: 'reveal', depthM: 0.2, thicknessM: 0.05 },
  ];
  for (const make of makes) {
    const { vsaDeg, hsaRightDeg, hsaLeftDeg } = cutOffOf(make, box);
    const lines = cutOffLines(make, box);
    expect(lines.length).toBeGreaterThan(0);
    for (const { in: plane, from, to, deg } of lines) {
      const out = from[2] - to[2];
      const rise = plane === 'slice' ? from[1] - to[1] : Math.abs(from[0] - to[0]);
      expect(Math.atan2(rise, out) / RAD).toBeCloseTo(deg, 6);
      expect([vsaDeg, hsaRightDeg, hsaLeftDeg]).toContain(deg);
    }
  }
  expect(cutOffLines({ kind: 'screen', openness: 0.4, holeDepth: 0, offM: 0.1, aroundM: 0 }, box)).toEqual(
    [],
  );
});

test('thick slats keep the sun off from a lower profile angle on: tan VSA = (s − t − d sin β)/(d cos β)', () => {
  const slats = { kind: 'louvres', lie: 'level', slatM: 0.15, spacingM: 0.2, offM: 0.1, aroundM: 3 } as const;
  for (const [thicknessM, tiltDeg] of [
    [0.02, 0],
    [0.04, 20],
    [0.01, -15],
  ] as const) {
    const { vsaDeg } = cutOffOf({ ...slats, thicknessM, tiltDeg }, BOX);
    const tilt = tiltDeg * RAD;
    const tan = (0.2 - thicknessM - 0.15 * Math.sin(tilt)) / (0.15 * Math.cos(tilt));
    expect(vsaDeg).toBeCloseTo(Math.atan(tan) / RAD, 9);
  }
});
