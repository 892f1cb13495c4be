import { onSkyChart, SKY_PROJECTIONS } from './sky-projection';

const ROUND = ['stereographic', 'equidistant', 'orthographic'] as const;

test.each(ROUND)('%s: zenith in the middle, horizon at the rim, north up and east right', (projection) => {
  const [x, y] = onSkyChart(projection, 90, 123);
  expect(Math.hypot(x, y)).toBeCloseTo(0, 12);
  for (let azimuth = 0; azimuth < 360; azimuth += 30)
    expect(Math.hypot(...onSkyChart(projection, 0, azimuth))).toBeCloseTo(1, 12);
  expect(onSkyChart(projection, 0, 0)[1]).toBeCloseTo(1, 12);
  expect(onSkyChart(projection, 0, 90)[0]).toBeCloseTo(1, 12);
});

test('radii at 30° altitude: tan 30°, two thirds, sin 60°', () => {
  const radius = (projection: (typeof ROUND)[number]) => Math.hypot(...onSkyChart(projection, 30, 77));
  expect(radius('stereographic')).toBeCloseTo(Math.tan(Math.PI / 6), 12);
  expect(radius('equidistant')).toBeCloseTo(2 / 3, 12);
  expect(radius('orthographic')).toBeCloseTo(Math.sin(Math.PI / 3), 12);
});

test('the stereographic chart keeps angles: a step of altitude is as long as one of azimuth × cos altitude', () => {
  const step = 1e-4;
  for (const altitude of [5, 30, 60, 85]) {
    const at = onSkyChart('stereographic', altitude, 40);
    const up = onSkyChart('stereographic', altitude + step, 40);
    const along = onSkyChart('stereographic', altitude, 40 + step / Math.cos((altitude * Math.PI) / 180));
    const far = (p: readonly [number, number]) => Math.hypot(p[0] - at[0], p[1] - at[1]);
    expect(far(up) / far(along)).toBeCloseTo(1, 4);
  }
});

test('altitude over azimuth has its middle where it is asked for', () => {
  expect(onSkyChart('azimuth-altitude', 45, 180)).toEqual([0, 0.5]);
  expect(onSkyChart('azimuth-altitude', 0, 90)).toEqual([-0.5, 0]);
  // In the south of the world the middle is north.
  expect(onSkyChart('azimuth-altitude', 10, 0, 0)[0]).toBeCloseTo(0, 12);
  expect(onSkyChart('azimuth-altitude', 10, 350, 0)[0]).toBeCloseTo(-10 / 180, 12);
  expect(SKY_PROJECTIONS).toHaveLength(4);
});
