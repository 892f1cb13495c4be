import { bring, read } from '../../../testing/model-files';
import { emptyProject } from '../../project';

/** Houses of about 20 m in a row, each corner as [first, second]. */
const town = (first: number, second: number, swap = false) =>
  JSON.stringify({
    type: 'FeatureCollection',
    features: [0, 1, 2].map((i) => {
      const [x, y] = [first + i * 0.001, second];
      const ring = [
        [x, y],
        [x + 0.0002, y],
        [x + 0.0002, y + 0.0002],
        [x, y],
      ].map(([a, b]) => (swap ? [b, a] : [a, b]));
      return { type: 'Feature', properties: {}, geometry: { type: 'Polygon', coordinates: [ring] } };
    }),
  });
const near = { longitudeDeg: 11.5, latitudeDeg: 48.1 };
const firstCorner = async (...asked: Parameters<typeof read>) =>
  (await read(...asked)).footprints[0]!.outer[0];

test('swapped degrees are guessed where only so they lie near the project, and said with both distances', async () => {
  const right = await read(town(11.5, 48.1), 'a.geojson', { near });
  const swapped = await read(town(11.5, 48.1, true), 'a.geojson', { near });
  expect([right.latitudeFirst, swapped.latitudeFirst]).toEqual([false, true]);
  expect(swapped.footprints.map(({ outer }) => outer)).toEqual(right.footprints.map(({ outer }) => outer));
  expect(right.notes).toEqual([]);
  expect(swapped.notes[0]).toMatch(
    /^Latitude seems to stand before longitude: so the file lies 0 km from the project, as it stands 4,\d{3} km\. Is that so\?/,
  );
  // Elsewhere nothing tells; told otherwise, it is as told.
  expect(await firstCorner(town(11.5, 48.1, true), 'a.geojson')).toEqual([48.1, 11.5]);
  expect(await firstCorner(town(2, 30), 'a.geojson', { near })).toEqual([2, 30]);
  expect(await firstCorner(town(11.5, 48.1, true), 'a.geojson', { near, latitudeFirst: false })).toEqual([
    48.1, 11.5,
  ]);
  expect(await firstCorner(town(11.5, 48.1, true), 'a.geojson', { latitudeFirst: true })).toEqual([
    11.5, 48.1,
  ]);
});

test('degrees that can only be swapped are; what can be neither is a plan, or refused', async () => {
  const east = await read(town(139.7, 35.6, true), 'a.geojson');
  expect(east.latitudeFirst).toBe(true);
  expect(east.footprints[0]!.outer[0]).toEqual([139.7, 35.6]);
  expect(east.notes[0]).toContain('beyond the poles');
  await expect(read(town(200, 48), 'a.geojson')).rejects.toThrow(
    'Polygon 1 has a corner at 200, 48, which is no longitude',
  );
  const { project } = bring(east, {}, emptyProject('E', 2026));
  expect(project.site.place).toMatchObject({
    longitudeDeg: expect.closeTo(139.7, 1),
    latitudeDeg: expect.closeTo(35.6, 1),
  });
});

test('houses of metres near the origin of a plan are no degrees', async () => {
  const ring = [
    [0, 0],
    [12, 0],
    [12, 9],
    [0, 0],
  ];
  const text = JSON.stringify({ type: 'Polygon', coordinates: [ring] });
  expect((await read(text, 'a.geojson')).geographic).toBe(false);
});
