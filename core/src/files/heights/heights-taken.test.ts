import { bring, read } from '../../../testing/model-files';
import type { ImportChoices } from '../bring/import-model';

/** Houses of 10 × 10 m in a row on a plan, each with its properties. */
const town = (...all: object[]) =>
  JSON.stringify({
    type: 'FeatureCollection',
    features: all.map((properties, i) => ({
      type: 'Feature',
      properties,
      geometry: {
        type: 'Polygon',
        coordinates: [
          [
            [i * 20, 0],
            [10 + i * 20, 0],
            [10 + i * 20, 10],
            [i * 20, 10],
            [i * 20, 0],
          ],
        ],
      },
    })),
  });

async function broughtIn(all: object[], more: Partial<ImportChoices> = {}) {
  const { project, notes } = bring(await read(town(...all), 'town.geojson'), more);
  const heights = project.neighbours.map((n) =>
    n.kind === 'building'
      ? Number(n.storeys.reduce((sum, { heightM }) => sum + heightM, 0).toFixed(6))
      : null,
  );
  return { heights, notes: notes.filter((note) => /eight|toreys|levels/.test(note)) };
}

test('every height is told by what it was taken from, with what was not understood and what stands for it', async () => {
  const all = [
    { height: '12,5 m' },
    { height: '36 ft' },
    { height: '4 Geschosse' },
    { height: '12-14' },
    { height: '12-14' },
    { 'building:levels': 2, min_height: 3 },
  ];
  const { heights, notes } = await broughtIn(all, { heightM: 7, storeyM: 3.5 });
  expect(heights).toEqual([12.5, 10.9728, 14, 7, 7, 4]);
  expect(notes).toEqual([
    'Heights from “height”: 10.97 to 12.5 m, of 2 of 6 outlines.',
    'Storeys from “building:levels”, where there is no height: 2 to 4 of 3.5 m each, of 2 of 6 outlines.',
    'Lowest levels over the ground from “min_height”: 3 m, of 1 of 6 outlines.',
    'No height is known of 2 of 6 outlines: taken as 7 m, the height where none is known.',
    'Not understood as heights: “12-14” (2 times); write a number and its unit, as 12.5 m, 36 ft or 4 storeys.',
  ]);
});

test('what is chosen says the heights: storeys, or levels of roof and ground', async () => {
  const all = [
    { n: 3, roof_ft: 100, ground_ft: 60, height: 99 },
    { n: 'many', roof_ft: 50, ground_ft: 60, height: 99 },
  ];
  const storeys = await broughtIn(all, { heights: { as: 'storeys', property: 'n' } });
  expect(storeys.heights).toEqual([9, 6]);
  expect(storeys.notes).toEqual([
    'Storeys from “n”: 3 of 3 m each, of 1 of 2 outlines.',
    'No height is known of 1 of 2 outlines: taken as 6 m, the height where none is known.',
    'Not understood as heights: “many”; write a number and its unit, as 12.5 m, 36 ft or 4 storeys.',
  ]);
  const levels = await broughtIn(all, { heights: { as: 'levels', roof: 'roof_ft', ground: 'ground_ft' } });
  expect(levels.heights).toEqual([12.192, 6]);
  expect(levels.notes[0]).toBe('Heights from “roof_ft” less “ground_ft”: 12.19 m, of 1 of 2 outlines.');
});

test('outlines that become no buildings have no heights to tell', async () => {
  const { project, notes } = bring(await read(town({ height: 5 }), 'town.geojson'), {
    becomes: { 'outline:polygons': 'area' },
  });
  expect(project.areas).toHaveLength(1);
  expect(notes.filter((note) => /eight/.test(note))).toEqual([]);
});
