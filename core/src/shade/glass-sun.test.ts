import fc from 'fast-check';
import { anglesAt, at, house, NONE, OVERHANG, WINDOW } from '../../testing/shaded-house';
import { RAD } from '../civil';
import { cutOffOf } from '../devices';
import type { DeviceMake } from '../project';
import { assembleScene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import { firstObstruction, sceneObstacles } from '../trace';
import { onFace } from '../form';
import { glassInSun } from './glass-sun';

/** Share of the window in sun, and without the device. */
function shares(make: DeviceMake, ms: number) {
  const [found] = glassInSun(house(make), 'a', NONE, ms);
  return { lit: found!.sunlitM2 / found!.areaM2, bare: found!.bareM2 / found!.areaM2 };
}

const hours = fc.double({ min: 8.5, max: 15.5, noNaN: true });

test('a long overhang: its shadow line lies D tan VSA − y below the head', () => {
  fc.assert(
    fc.property(
      hours,
      fc.double({ min: 0.05, max: 2, noNaN: true }),
      fc.double({ min: 0, max: 0.8, noNaN: true }),
      (hour, depthM, aboveM) => {
        const ms = at(hour);
        const { vsaDeg } = anglesAt(ms, house(null));
        const line = depthM * Math.tan(vsaDeg! * RAD) - aboveM;
        const { lit, bare } = shares({ ...OVERHANG, depthM, aboveM }, ms);
        expect(bare).toBeCloseTo(1, 6);
        expect(lit).toBeCloseTo(1 - Math.min(1, Math.max(0, line)), 3);
      },
    ),
    { numRuns: 40 },
  );
});

test('an overhang of the width of the window leaves a triangle at the jamb towards the sun', () => {
  const ms = at(10);
  const { vsaDeg, hsaDeg } = anglesAt(ms, house(null));
  const [down, aside] = [Math.tan(vsaDeg! * RAD), Math.tan(hsaDeg! * RAD)];
  const [depthM, aboveM] = [0.5, 0];
  const { lit } = shares({ ...OVERHANG, depthM, aboveM, sideM: 0 }, ms);
  // Its outer edge from (0, 0) to (W, 0) throws a parallelogram, moved by D tan HSA aside and D tan VSA down.
  const [move, drop] = [Math.abs(depthM * aside), depthM * down];
  const height = Math.min(1, drop);
  const shaded = WINDOW.width * height - (move * height * height) / (2 * drop);
  expect(lit).toBeCloseTo(1 - shaded / 2, 3);
});

test('fins: the shaded width is F tan |HSA| − g, on the side of the sun', () => {
  fc.assert(
    fc.property(
      hours,
      fc.double({ min: 0.05, max: 1.5, noNaN: true }),
      fc.double({ min: 0, max: 0.5, noNaN: true }),
      (hour, depthM, gapM) => {
        const ms = at(hour);
        const { hsaDeg } = anglesAt(ms, house(null));
        const make = {
          kind: 'fins',
          depthM,
          gapM,
          at: 'both',
          aboveM: 40,
          belowM: 0,
          thicknessM: 0.04,
          turnDeg: 0,
        } as const;
        // Up to where they end: 40 m above the head no sun of these hours comes over them.
        const width = Math.min(2, Math.max(0, depthM * Math.tan(Math.abs(hsaDeg!) * RAD) - gapM));
        expect(shares(make as DeviceMake, ms).lit).toBeCloseTo(1 - width / 2, 3);
      },
    ),
    { numRuns: 30 },
  );
});

test('slats keep all direct sun off at and above their cut-off, and let some in below', () => {
  const louvres = (slatM: number, spacingM: number, tiltDeg: number): DeviceMake => ({
    kind: 'louvres',
    lie: 'level',
    slatM,
    spacingM,
    tiltDeg,
    thicknessM: 0.001,
    offM: 0.02,
    aroundM: 3,
  });
  fc.assert(
    fc.property(
      hours,
      fc.double({ min: 0.05, max: 0.2, noNaN: true }),
      fc.double({ min: 0.05, max: 0.3, noNaN: true }),
      fc.double({ min: -20, max: 60, noNaN: true }),
      (hour, slatM, spacingM, tiltDeg) => {
        const ms = at(hour, '2026-04-10');
        const make = louvres(slatM, spacingM, tiltDeg);
        const { vsaDeg } = anglesAt(ms, house(null));
        const cut = cutOffOf(make, { u0: 4, v0: 1, u1: 6, v1: 2, revealM: 0 }).vsaDeg!;
        const clear = spacingM - 0.001 - slatM * Math.sin(tiltDeg * RAD);
        const tan = clear / (slatM * Math.cos(tiltDeg * RAD));
        expect(Math.tan(cut * RAD)).toBeCloseTo(Math.max(0, tan), 9);
        const { lit } = shares(make, ms);
        if (vsaDeg! > cut + 0.5) expect(lit).toBeLessThan(1e-4);
        if (vsaDeg! < cut - 3) expect(lit).toBeGreaterThan(0.001);
      },
    ),
    { numRuns: 25 },
  );
});

test('the exact share is what rays from a fine grid of points of the glass find', () => {
  const makes: DeviceMake[] = [
    { ...OVERHANG, sideM: 0.2, tiltDeg: 15 },
    {
      kind: 'fins',
      depthM: 0.4,
      at: 'left',
      gapM: 0.1,
      aboveM: 0.1,
      belowM: 0,
      thicknessM: 0.05,
      turnDeg: 20,
    },
    { kind: 'shelf', heightM: 0.7, outM: 0.5, inM: 0.4, thicknessM: 0.03 },
    { kind: 'eggcrate', depthM: 0.3, columnM: 0.5, rowM: 0.4, thicknessM: 0.03 },
  ];
  for (const make of makes)
    for (const hour of [9.5, 12.2]) {
      const project = house(make, 0.1);
      const ms = at(hour, '2026-09-01');
      const [found] = glassInSun(project, 'a', NONE, ms);
      const obstacles = sceneObstacles(assembleScene(project, 'a', NONE));
      const { altitudeDeg, azimuthDeg } = sunPosition(ms, project.site.place);
      const sun = sunVector(altitudeDeg, azimuthDeg, 0);
      const [n, m] = [200, 100];
      let lit = 0;
      for (let i = 0; i < n; i++)
        for (let k = 0; k < m; k++) {
          const p = onFace(found!.place.face, [4 + (2 * (i + 0.5)) / n, 1 + (k + 0.5) / m], 0.099);
          if (firstObstruction(obstacles, ...p, ...sun) < 0) lit++;
        }
      expect(Math.abs(found!.sunlitM2 / found!.areaM2 - lit / (n * m))).toBeLessThan(0.006);
      expect(found!.sunlitM2).toBeLessThanOrEqual(found!.bareM2);
    }
});

test('a deeper device never lets more in; mirrored sites mirror the shares; at night nothing is in sun', () => {
  const ms = at(9.2);
  let last = 1;
  for (const depthM of [0.1, 0.3, 0.6, 1, 2]) {
    const { lit } = shares({ ...OVERHANG, depthM, sideM: 0.3 }, ms);
    expect(lit).toBeLessThanOrEqual(last + 1e-9);
    last = lit;
  }
  const fin = (side: 'left' | 'right'): DeviceMake => ({
    kind: 'fins',
    depthM: 0.5,
    at: side,
    gapM: 0,
    aboveM: 0,
    belowM: 0,
    thicknessM: 0.02,
    turnDeg: 0,
  });
  // The sun stands square to the wall at noon: as long before as after it, left and right change places.
  const noon = [...Array(1000).keys()]
    .map((i) => at(11.5 + i / 1000))
    .reduce((best, one) =>
      Math.abs(anglesAt(one, house(null)).hsaDeg!) < Math.abs(anglesAt(best, house(null)).hsaDeg!)
        ? one
        : best,
    );
  const hour = 2 * 3_600_000;
  expect(shares(fin('right'), noon - hour).lit).toBeCloseTo(shares(fin('left'), noon + hour).lit, 2);
  expect(glassInSun(house(OVERHANG), 'a', NONE, at(1))[0]).toMatchObject({ sunlitM2: 0, bareM2: 0 });
});
