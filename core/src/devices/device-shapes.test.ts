import { expectNear } from '../../testing/near';
import type { DeviceMake } from '../project';
import { boxCount, type DeviceBox, deviceBoxes, type OpeningBox } from './device-boxes';

// Where each kind stands, from the words of its sizes: what a builder would measure on a drawing. Tilts and turns are those of
// the triangle of sides 3, 4 and 5, so that every corner is a plain number.
const TURN = (Math.atan2(3, 4) * 180) / Math.PI;
const STEEP = (Math.atan2(4, 3) * 180) / Math.PI;
const BOX: OpeningBox = { u0: 4, v0: 1, u1: 6, v1: 2.5, revealM: 0.25, nextM: 1.5 };

/** Least and greatest u, v and w of a solid. */
function reach(solid: DeviceBox): [number, number][] {
  return [0, 1, 2].map((k) => {
    const values = solid.map((corner) => corner[k]!);
    return [Math.min(...values), Math.max(...values)];
  });
}

/** The corners of the first end of a solid without the axis that it runs along: (w, v) of level plates, (w, u) of upright ones. */
const profile = (solid: DeviceBox, across: 'level' | 'upright') =>
  solid.slice(0, 4).map(([u, v, w]) => [w, across === 'level' ? v : u]);

/** What stands at the opening, no more and no fewer than are counted. */
function standing(make: DeviceMake, box = BOX): DeviceBox[] {
  const solids = deviceBoxes(make, box);
  expect(boxCount(make, box)).toBe(solids.length);
  return solids;
}

const OVERHANG = {
  kind: 'overhang',
  depthM: 0.5,
  aboveM: 0.2,
  sideM: 0.3,
  thicknessM: 0.05,
  tiltDeg: TURN,
} as const;

test('an overhang begins over the head, reaches beyond both jambs and falls outwards by its tilt', () => {
  const [plate, ...more] = standing(OVERHANG);
  expect(more).toEqual([]);
  expectNear(reach(plate!)[0], [3.7, 6.3]);
  expectNear(profile(plate!, 'level'), [
    [0, 2.7],
    [0.4, 2.4],
    [0.4, 2.45],
    [0, 2.75],
  ]);
});

test('slats of an overhang stand a spacing apart along its depth, as many as fit, each turned about its middle', () => {
  const slats = { slatM: 0.1, spacingM: 0.2, turnDeg: 0 };
  const along = standing({ ...OVERHANG, slats });
  // 0 to 0.1, 0.2 to 0.3, 0.4 to 0.5 of the depth of 0.5.
  expect(along).toHaveLength(3);
  along.forEach((one, k) => {
    expectNear(reach(one)[0], [3.7, 6.3]);
    const [inner, outer] = profile(one, 'level');
    expectNear(inner, [0.2 * k * 0.8, 2.7 - 0.2 * k * 0.6]);
    expectNear(outer, [(0.2 * k + 0.1) * 0.8, 2.7 - (0.2 * k + 0.1) * 0.6]);
  });
  expect(standing({ ...OVERHANG, depthM: 0.499, slats })).toHaveLength(2);
  expect(standing({ ...OVERHANG, depthM: 0.05, slats })).toHaveLength(1);
});

test('a turned slat keeps its middle and its thickness, square to it and never into the wall', () => {
  for (const turnDeg of [STEEP, -STEEP]) {
    const [first] = standing({ ...OVERHANG, tiltDeg: 0, slats: { slatM: 0.1, spacingM: 0.2, turnDeg } });
    const [inner, outer, outerTop, innerTop] = profile(first!, 'level') as [number, number][];
    expectNear([(inner![0]! + outer![0]!) / 2, (inner![1]! + outer![1]!) / 2], [0.05, 2.7]);
    // Its width over 5 parts: 3 outwards, 4 down (or up).
    expectNear([outer![0]! - inner![0]!, outer![1]! - inner![1]!], [0.06, turnDeg > 0 ? -0.08 : 0.08]);
    const across = [outerTop![0]! - outer![0]!, outerTop![1]! - outer![1]!];
    expectNear([innerTop![0]! - inner![0]!, innerTop![1]! - inner![1]!], across);
    // Outwards by 4 of 5 parts of the thickness, whichever way it is turned.
    expectNear(across, [0.04, turnDeg > 0 ? 0.03 : -0.03]);
  }
});

test('fins stand at the jambs, their outer edges turned away from the opening; between two openings midway', () => {
  const fins: Extract<DeviceMake, { kind: 'fins' }> = {
    kind: 'fins',
    at: 'both',
    depthM: 0.5,
    gapM: 0.1,
    aboveM: 0.2,
    belowM: 0.3,
    thicknessM: 0.04,
    turnDeg: TURN,
  };
  const [left, right] = standing(fins);
  for (const fin of [left, right]) expectNear(reach(fin!)[1], [0.7, 2.7]);
  expectNear(profile(left!, 'upright'), [
    [0, 3.9],
    [0.4, 3.6],
    [0.4, 3.56],
    [0, 3.86],
  ]);
  expectNear(profile(right!, 'upright'), [
    [0, 6.1],
    [0.4, 6.4],
    [0.4, 6.44],
    [0, 6.14],
  ]);
  expectNear(standing({ ...fins, at: 'left' }), [left]);
  expectNear(standing({ ...fins, at: 'right' }), [right]);
  // The next opening begins 1.5 m on: as far from one as from the other.
  const [between] = standing({ ...fins, at: 'between', turnDeg: 0 });
  expectNear(reach(between!)[0], [6 + 0.73, 6 + 0.77]);
  for (const nextM of [null, undefined])
    expect(standing({ ...fins, at: 'between' }, { ...BOX, nextM })).toEqual([]);
});

test('louvres begin at the upper, or the left, end and go on until no gap is left', () => {
  const louvres: Extract<DeviceMake, { kind: 'louvres' }> = {
    kind: 'louvres',
    lie: 'level',
    slatM: 0.25,
    spacingM: 0.5,
    tiltDeg: TURN,
    thicknessM: 0.01,
    offM: 0.1,
    aroundM: 0.2,
  };
  // 1.9 m at 0.5 m: the fifth slat stands below the lower end.
  const level = standing(louvres);
  expect(level).toHaveLength(5);
  level.forEach((slat, k) => {
    expectNear(reach(slat)[0], [3.8, 6.2]);
    expectNear(profile(slat, 'level').slice(0, 2), [
      [0.1, 2.7 - 0.5 * k],
      [0.3, 2.7 - 0.5 * k - 0.15],
    ]);
  });
  // 2.4 m: six, the last at 2.5.
  const upright = standing({ ...louvres, lie: 'upright' });
  expect(upright).toHaveLength(6);
  upright.forEach((slat, k) => {
    expectNear(reach(slat)[1], [0.8, 2.7]);
    expectNear(profile(slat, 'upright').slice(0, 2), [
      [0.1, 3.8 + 0.5 * k],
      [0.3, 3.8 + 0.5 * k + 0.15],
    ]);
  });
  // Where it comes out even, the last stands at the end itself.
  expect(standing({ ...louvres, aroundM: 0.25, lie: 'level' })).toHaveLength(5);
  expect(standing({ ...louvres, aroundM: 0.25, lie: 'upright' })).toHaveLength(6);
});

test('a shelf has its upper face at its height at the pane, outside and inside each as deep as it says', () => {
  const shelf: Extract<DeviceMake, { kind: 'shelf' }> = {
    kind: 'shelf',
    heightM: 1,
    outM: 0.5,
    inM: 0.25,
    thicknessM: 0.03,
  };
  const [outside, inside] = standing(shelf);
  // The pane stands 0.25 m behind the face.
  expectNear(reach(outside!), [
    [4, 6],
    [1.97, 2],
    [-0.25, 0.5],
  ]);
  expectNear(reach(inside!), [
    [4, 6],
    [1.97, 2],
    [-0.5, -0.25],
  ]);
  expectNear(standing({ ...shelf, inM: 0 }), [outside]);
  expectNear(standing({ ...shelf, outM: 0 }), [inside]);
  const [low, high] = standing({ ...shelf, tiltDeg: TURN });
  expectNear(profile(low!, 'level').slice(0, 2), [
    [-0.25, 1.97],
    [-0.25 + 0.6, 1.97 - 0.45],
  ]);
  expectNear(profile(high!, 'level').slice(0, 2), [
    [-0.45, 2.12],
    [-0.25, 1.97],
  ]);
});

test('an eggcrate has equal fields of about its spacing, its outer plates along the edges', () => {
  const crate: DeviceMake = { kind: 'eggcrate', depthM: 0.4, columnM: 0.7, rowM: 0.5, thicknessM: 0.02 };
  const solids = standing(crate);
  // 1.5 m in rows of 0.5 m: three; 2 m in columns of 0.7: three.
  const [level, upright] = [solids.slice(0, 4), solids.slice(4)];
  expect(upright).toHaveLength(4);
  expectNear(
    level.map((one) => reach(one)[1]![0]),
    [0, 1, 2, 3].map((i) => 1 + (i * 1.48) / 3),
  );
  expectNear(
    upright.map((one) => reach(one)[0]![0]),
    [0, 1, 2, 3].map((i) => 4 + (i * 1.98) / 3),
  );
  for (const one of level)
    expectNear(
      [reach(one)[0], reach(one)[2]],
      [
        [4, 6],
        [0, 0.4],
      ],
    );
  for (const one of upright)
    expectNear(
      [reach(one)[1], reach(one)[2]],
      [
        [1, 2.5],
        [0, 0.4],
      ],
    );
  // A spacing wider than the opening leaves one field.
  expect(standing({ kind: 'eggcrate', depthM: 0.4, columnM: 9, rowM: 9, thicknessM: 0.02 })).toHaveLength(4);
});

test('a reveal goes round the opening, its corners whole', () => {
  const solids = standing({ kind: 'reveal', depthM: 0.3, thicknessM: 0.06 });
  expectNear(solids.map(reach), [
    [
      [3.94, 6.06],
      [2.5, 2.56],
      [0, 0.3],
    ],
    [
      [3.94, 6.06],
      [0.94, 1],
      [0, 0.3],
    ],
    [
      [3.94, 4],
      [1, 2.5],
      [0, 0.3],
    ],
    [
      [6, 6.06],
      [1, 2.5],
      [0, 0.3],
    ],
  ]);
});

test('a balcony is a slab below the sill and, where its rail blocks, three plates on it', () => {
  const balcony: Extract<DeviceMake, { kind: 'balcony' }> = {
    kind: 'balcony',
    depthM: 1.2,
    belowM: 0.1,
    sideM: 0.5,
    thicknessM: 0.2,
    railM: 1,
    railOpenness: 0,
  };
  const all = standing(balcony);
  expectNear(all.map(reach), [
    [
      [3.5, 6.5],
      [0.7, 0.9],
      [0, 1.2],
    ],
    [
      [3.5, 6.5],
      [0.9, 1.9],
      [1.16, 1.2],
    ],
    [
      [3.5, 3.54],
      [0.9, 1.9],
      [0, 1.16],
    ],
    [
      [6.46, 6.5],
      [0.9, 1.9],
      [0, 1.16],
    ],
  ]);
  expectNear(standing({ ...balcony, railOpenness: 0.4 }), [all[0]]);
  expectNear(standing({ ...balcony, railM: 0 }), [all[0]]);
  // A shallow one has rails of half its depth.
  expectNear(reach(standing({ ...balcony, depthM: 0.06 })[1]!)[2], [0.03, 0.06]);
});

test('a canopy stands on two posts at its outer corners, from its underside down; where there is no room for them it hangs', () => {
  const canopy: Extract<DeviceMake, { kind: 'canopy' }> = {
    kind: 'canopy',
    depthM: 1,
    aboveM: 0.5,
    sideM: 0.4,
    thicknessM: 0.1,
    tiltDeg: TURN,
    postM: 0.08,
    downM: 0.9,
  };
  const [plate, left, right] = standing(canopy);
  expectNear(profile(plate!, 'level'), [
    [0, 3],
    [0.8, 2.4],
    [0.8, 2.5],
    [0, 3.1],
  ]);
  expectNear(reach(plate!)[0], [3.6, 6.4]);
  // The foot 0.9 m under the sill; the top under the plate, which falls by 3 for 4.
  expectNear(reach(left!), [
    [3.6, 3.68],
    [0.1, 3 - 0.72 * 0.75],
    [0.72, 0.8],
  ]);
  expectNear(reach(right!)[0], [6.32, 6.4]);
  expectNear(Math.max(...right!.filter(([, , w]) => w > 0.79).map(([, v]) => v)), 2.4);
  expect(standing({ ...canopy, postM: 0.8 })).toHaveLength(1);
  // Its outer edge 2 m below the head, the foot of a post higher.
  expect(standing({ ...canopy, depthM: 5, downM: 0 })).toHaveLength(1);
  expect(standing({ ...canopy, depthM: 5, downM: 1.01 })).toHaveLength(3);
});

test('what is a sheet or a plate of its own outline is no solid of six faces, and counts as one', () => {
  const lowered = { overWm2: null, fromMinutes: 0, untilMinutes: 1440, fromMonth: 1, untilMonth: 12 };
  const sheets: DeviceMake[] = [
    { kind: 'screen', openness: 0.1, holeDepth: 0, offM: 0, aroundM: 0 },
    { kind: 'blind', side: 'inside', offM: 0, openness: 0, lowered },
    { kind: 'awning', depthM: 1, aboveM: 0, sideM: 0, tiltDeg: 20, openness: 0, lowered },
    { kind: 'plate', aboveM: 0, offM: 0, tiltDeg: 0, thicknessM: 0.1, outlines: [] },
  ];
  for (const make of sheets) {
    expect(deviceBoxes(make, BOX)).toEqual([]);
    expect(boxCount(make, BOX)).toBe(1);
  }
});
