import { expectNear } from '../../testing/near';
import type { DeviceMake } from '../project';
import { deviceSheets, platePrisms } from './device-sheets';
import { INSIDE_G_FACTOR, insideFactor, isInsideSheet } from './inside-sheets';

const TILT = (Math.atan2(3, 4) * 180) / Math.PI;
const BOX = { u0: 4, v0: 1, u1: 6, v1: 2.5, revealM: 0.25 };
const ALWAYS = { overWm2: null, fromMinutes: 0, untilMinutes: 1440, fromMonth: 1, untilMonth: 12 };

/** An upright rectangle at some distance from the face. */
const upright = (u0: number, v0: number, u1: number, v1: number, w: number) => [
  [u0, v0, w],
  [u1, v0, w],
  [u1, v1, w],
  [u0, v1, w],
];

const SCREEN: Extract<DeviceMake, { kind: 'screen' }> = {
  kind: 'screen',
  openness: 0.12,
  holeDepth: 0.8,
  offM: 0.1,
  aroundM: 0.3,
};

test('a screen hangs off the face by its distance, and inside off the pane; never in the plane of the pane', () => {
  const [sheet, ...more] = deviceSheets(SCREEN, BOX);
  expect(more).toEqual([]);
  expect(sheet).toMatchObject({ openness: 0.12, holeDepth: 0.8 });
  expectNear(sheet!.corners, upright(3.7, 0.7, 6.3, 2.8, 0.1));
  const at = (more: Partial<typeof SCREEN>, revealM = 0.25) =>
    deviceSheets({ ...SCREEN, ...more }, { ...BOX, revealM })[0]!.corners[0][2];
  expect(at({ offM: 0 })).toBe(0);
  expect(at({ offM: 0 }, 0)).toBeCloseTo(0.02, 12);
  expect(at({ offM: 0 }, 0.005)).toBeCloseTo(0.015, 12);
  expect(at({ side: 'outside' })).toBe(0.1);
  expect(at({ side: 'inside' })).toBeCloseTo(-0.35, 12);
  expect(at({ side: 'inside', offM: 0 })).toBeCloseTo(-0.27, 12);
});

test('a blind that is down covers the opening and is closed all round: outside to the wall, inside to the pane', () => {
  const blind: Extract<DeviceMake, { kind: 'blind' }> = {
    kind: 'blind',
    side: 'outside',
    offM: 0.1,
    openness: 0.05,
    lowered: ALWAYS,
  };
  for (const [side, from, to] of [
    ['outside', 0, 0.1],
    ['inside', -0.25, -0.35],
  ] as const) {
    const [front, ...round] = deviceSheets({ ...blind, side }, BOX);
    expectNear(front!.corners, upright(4, 1, 6, 2.5, to));
    expect(round).toHaveLength(4);
    for (const { openness, holeDepth, corners } of [front!, ...round]) {
      expect([openness, holeDepth]).toEqual([0.05, 0]);
      for (const [u, v] of corners) expect([u === 4 || u === 6, v === 1 || v === 2.5]).toEqual([true, true]);
    }
    // Each runs along one edge of the opening, from the one depth to the other.
    for (const { corners } of round)
      expectNear(
        corners.map(([, , w]) => [w]),
        [[from], [from], [to], [to]],
      );
    const edges = round.map(({ corners }) =>
      corners
        .slice(0, 2)
        .map(([u, v]) => `${u},${v}`)
        .join(' '),
    );
    expect(edges).toEqual(['4,1 6,1', '6,1 6,2.5', '6,2.5 4,2.5', '4,2.5 4,1']);
    for (const { corners } of round) {
      expect(corners[3].slice(0, 2)).toEqual(corners[0].slice(0, 2));
      expect(corners[2].slice(0, 2)).toEqual(corners[1].slice(0, 2));
    }
  }
  // In the reveal there is nothing to close.
  expect(deviceSheets({ ...blind, offM: 0 }, BOX)).toHaveLength(1);
  expect(deviceSheets({ ...blind, offM: 0 }, { ...BOX, revealM: 0 })).toHaveLength(5);
});

test('an awning goes out over the head and down by its tilt', () => {
  const [sheet] = deviceSheets(
    { kind: 'awning', depthM: 1.5, aboveM: 0.2, sideM: 0.1, tiltDeg: TILT, openness: 0.03, lowered: ALWAYS },
    BOX,
  );
  expect(sheet).toMatchObject({ openness: 0.03, holeDepth: 0 });
  expectNear(sheet!.corners, [
    [3.9, 1.8, 1.2],
    [6.1, 1.8, 1.2],
    [6.1, 2.7, 0],
    [3.9, 2.7, 0],
  ]);
});

test('a rail that lets light pass is three sheets on the slab, round its three open sides', () => {
  const balcony: Extract<DeviceMake, { kind: 'balcony' }> = {
    kind: 'balcony',
    depthM: 1.2,
    belowM: 0.1,
    sideM: 0.5,
    thicknessM: 0.2,
    railM: 1,
    railOpenness: 0.6,
  };
  const rails = deviceSheets(balcony, BOX);
  expect(rails.map(({ openness, holeDepth }) => [openness, holeDepth])).toEqual(Array(3).fill([0.6, 0]));
  expectNear(rails[0]!.corners, upright(3.5, 0.9, 6.5, 1.9, 1.2));
  for (const [rail, u] of [
    [rails[1]!, 3.5],
    [rails[2]!, 6.5],
  ] as const) {
    expectNear(
      [...rail.corners].sort((a, b) => a[1] - b[1] || a[2] - b[2]),
      [
        [u, 0.9, 0],
        [u, 0.9, 1.2],
        [u, 1.9, 0],
        [u, 1.9, 1.2],
      ],
    );
  }
  expect(deviceSheets({ ...balcony, railM: 0 }, BOX)).toEqual([]);
  expect(deviceSheets({ ...balcony, railOpenness: 0 }, BOX)).toEqual([]);
});

test('a plate of its own outline lies in its plane, its thickness square to it; other kinds are none', () => {
  const make: DeviceMake = {
    kind: 'plate',
    aboveM: 0.5,
    offM: 0.1,
    tiltDeg: TILT,
    thicknessM: 0.05,
    outlines: [
      {
        outer: [
          [-1, 0],
          [1, 0],
          [0, 1],
        ],
        holes: [
          [
            [-0.1, 0.2],
            [0.1, 0.2],
            [0, 0.5],
          ],
        ],
      },
    ],
  };
  const [prism] = platePrisms(make, BOX);
  expectNear(prism!.rings[0]!, [
    [4, 3, 0.1],
    [6, 3, 0.1],
    [5, 2.4, 0.9],
  ]);
  expectNear(prism!.rings[1]!, [
    [4.9, 3 - 0.12, 0.1 + 0.16],
    [5.1, 3 - 0.12, 0.1 + 0.16],
    [5, 2.7, 0.5],
  ]);
  expect(prism!.flat).toEqual([make.outlines[0]!.outer, ...make.outlines[0]!.holes]);
  expectNear([prism!.rise], [[0, 0.04, 0.03]]);
  expect(platePrisms(SCREEN, BOX)).toEqual([]);
  expect(deviceSheets(make, BOX)).toEqual([]);
});

test('only sheets inside act on what comes into the room, and only while they are there', () => {
  const south = { u: [1, 0, 0], v: [0, 0, 1], normal: [0, -1, 0] } as const;
  const noon = { sun: [0, -1, 0] as const, beamWm2: 500, minutes: 720, month: 6 };
  const inside: DeviceMake = { ...SCREEN, side: 'inside' };
  const blind: Extract<DeviceMake, { kind: 'blind' }> = {
    kind: 'blind',
    side: 'inside',
    offM: 0.05,
    openness: 0,
    lowered: { ...ALWAYS, fromMinutes: 600, untilMinutes: 800 },
  };
  const rows: [DeviceMake, boolean, number, number, number][] = [
    [inside, true, INSIDE_G_FACTOR, INSIDE_G_FACTOR, INSIDE_G_FACTOR],
    [{ ...inside, gFactor: 0.4 }, true, 0.4, 0.4, 0.4],
    [SCREEN, false, 1, 1, 1],
    [{ ...SCREEN, side: 'outside', gFactor: 0.4 }, false, 1, 1, 1],
    [blind, true, INSIDE_G_FACTOR, 1, 1],
    [{ ...blind, gFactor: 0.5 }, true, 0.5, 1, 1],
    [{ ...blind, side: 'outside', gFactor: 0.5 }, false, 1, 1, 1],
    [{ kind: 'reveal', depthM: 0.2, thicknessM: 0.05 }, false, 1, 1, 1],
  ];
  for (const [make, isInside, byDay, byNight, atRest] of rows) {
    expect(isInsideSheet(make)).toBe(isInside);
    expect(insideFactor(make, south, noon)).toBe(byDay);
    expect(insideFactor(make, south, { ...noon, minutes: 60 })).toBe(byNight);
    expect(insideFactor(make, south, null)).toBe(atRest);
  }
});
