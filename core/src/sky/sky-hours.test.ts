import { HOURS } from '../../testing/one-sensor';
import { RAD } from '../civil';
import { sunVector } from '../sun';
import { perezSky } from './perez-sky';
import { skyHours, SkyRadiance } from './sky-hours';
import { skySpiral } from './sky-spiral';

test('the radiance of an hour is that of its formula, read between knots', () => {
  const spiral = skySpiral(2048);
  const { vectors: v, solidAngle } = spiral;
  const lit = HOURS.filter(({ sun, diffuseHorizontal }) => sun && diffuseHorizontal > 0).filter(
    (_, i) => i % 211 === 0,
  );
  const skies = skyHours(lit, 0);
  const radiance = new SkyRadiance(spiral);
  const one = new Float64Array(2048);
  lit.forEach((hour, k) => {
    radiance.of(skies, k, one);
    const { altitudeDeg, azimuthDeg, extraterrestrial } = hour.sun!;
    const sun = sunVector(altitudeDeg, azimuthDeg, 0);
    const luminance = perezSky({ ...hour, sunAltitudeDeg: altitudeDeg, extraterrestrial });
    const whole = new Float64Array(2048);
    let level = 0;
    for (let d = 0; d < 2048; d++) {
      const cosine = sun[0] * v[d * 3]! + sun[1] * v[d * 3 + 1]! + sun[2] * v[d * 3 + 2]!;
      whole[d] = luminance(Math.asin(v[d * 3 + 2]!) / RAD, Math.acos(Math.min(1, cosine))) * solidAngle[d]!;
      level += whole[d]! * v[d * 3 + 2]!;
    }
    let [off, scaledLevel] = [0, 0];
    for (let d = 0; d < 2048; d++) {
      off += Math.abs(one[d]! - (whole[d]! * hour.diffuseHorizontal) / level) * v[d * 3 + 2]!;
      scaledLevel += one[d]! * v[d * 3 + 2]!;
    }
    expect(scaledLevel / hour.diffuseHorizontal).toBeCloseTo(1, 9);
    expect(off / hour.diffuseHorizontal).toBeLessThan(0.004);
  });
});

test('hours without diffuse have no sky; without a sun, or with a formula that is nothing everywhere, it is uniform', () => {
  const spiral = skySpiral(512);
  const radiance = new SkyRadiance(spiral);
  const lit = HOURS.find(({ sun, diffuseHorizontal }) => sun && diffuseHorizontal > 50)!;
  const skies = skyHours(
    [{ ...lit, diffuseHorizontal: 0 }, { ...lit, sun: null, diffuseHorizontal: 40 }, lit],
    0,
  );
  const one = new Float64Array(512).fill(3);
  radiance.of(skies, 0, one);
  expect(one.every((part) => part === 0)).toBe(true);
  const isUniform = () => {
    const level = one.reduce((sum, part, d) => sum + part * spiral.vectors[d * 3 + 2]!, 0);
    expect(level).toBeCloseTo(40, 9);
    one.forEach((part, d) =>
      expect(part / spiral.solidAngle[d]!).toBeCloseTo(one[0]! / spiral.solidAngle[0]!, 9),
    );
  };
  radiance.of(skies, 1, one);
  isUniform();
  // A gradation that is nothing anywhere: 1 + a exp(b / cos ζ) below 0.
  const dark = { ...skies, five: Float64Array.from(skies.five), diffuse: Float64Array.from([0, 0, 40]) };
  dark.five.set([-5, 0, 0, 0, 0], 10);
  radiance.of(dark, 2, one);
  isUniform();
});

test('drawing north turns the sky of an hour with it', () => {
  const lit = HOURS.find(
    ({ sun, diffuseHorizontal }) => sun && sun.altitudeDeg > 20 && diffuseHorizontal > 50,
  )!;
  for (const turn of [0, 90, 217]) {
    const sky = skyHours([lit], turn);
    const [x, y, z] = sunVector(lit.sun!.altitudeDeg, lit.sun!.azimuthDeg, turn);
    expect([...sky.sun]).toEqual([x, y, z]);
  }
});

test('the sky of an hour is its own, whatever hours stand before it', () => {
  const radiance = new SkyRadiance(skySpiral(256));
  const lit = HOURS.filter(({ sun, diffuseHorizontal }) => sun && diffuseHorizontal > 50).slice(0, 4);
  const dark = { ...lit[0]!, sun: null };
  const among = [dark, dark, ...lit, dark];
  const skies = skyHours(among, 0);
  const [one, alone] = [new Float64Array(256), new Float64Array(256)];
  among.forEach((hour, k) => {
    radiance.of(skies, k, one);
    radiance.of(skyHours([hour], 0), 0, alone);
    expect(one).toEqual(alone);
  });
});
