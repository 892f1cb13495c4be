import type { ModelFootprint } from './model-file';
import { heightOf, lengthIn, likelyHeightProperty, takeHeights } from './outline-heights';

const outline = (properties: Record<string, string | number>): ModelFootprint => ({
  ...{ name: 'o', layer: 'l', outer: [], holes: [], height: null, properties },
});

test.each([
  [12, 12, null],
  ['12.5', 12.5, null],
  ['12,5 m', 12.5, 1],
  ['1250 cm', 1250, 0.01],
  ['~10', 10, null],
  ['ca. 9 m', 9, 1],
  ["35'", 35, 0.3048],
  ['35 ft', 35, 0.3048],
  ['35′6″', 35.5, 0.3048],
  [`35'6"`, 35.5, 0.3048],
  ['6 feet 3 in', 6.25, 0.3048],
  ['8 metres', 8, 1],
  ['3.2e1 m', 32, 1],
] as const)('the length %p', (raw, value, metres) => {
  expect(lengthIn(raw)).toEqual({ value: expect.closeTo(value, 9), metres });
});

test('what is no length', () => {
  for (const raw of ['', 'tall', undefined, NaN, 'm 12']) expect(lengthIn(raw)).toBeNull();
  expect(heightOf({ h: '35 ft' }, 'h', 1)).toBeCloseTo(10.668, 9);
  // In a file in feet what has no unit is in feet, and what has one is turned into them.
  expect(heightOf({ h: '10 m' }, 'h', 0.3048)).toBeCloseTo(10 / 0.3048, 9);
  expect(heightOf({ h: 35 }, 'h', 0.3048)).toBe(35);
});

test('which property is the height: names of public data, and none that only sounds like one', () => {
  const likely = (...keys: string[]) =>
    likelyHeightProperty([outline(Object.fromEntries(keys.map((key) => [key, 9])))]);
  for (const key of [
    'height',
    'building:height',
    'measuredHeight',
    'HAUTEUR',
    'Geb_Hoehe',
    'BLDG_HGT',
    'est_height',
    'RelHMax',
    'pand_hoogte',
  ])
    expect(likely('id', key)).toBe(key);
  for (const key of [
    ...[
      'height_accuracy',
      'ground_height',
      'base_height',
      'roof:height',
      'roof_height',
      'min_height',
      'height_source',
    ],
    ...['terrain_height_m', 'floor_height', 'eaves_height', 'height_asl'],
  ])
    expect(likely(key)).toBeNull();
  expect(likely('ground_height', 'roof:height', 'height')).toBe('height');
  expect(likely('my_height_of_it')).toBe('my_height_of_it');
  // A name without a number behind it is none.
  expect(likelyHeightProperty([outline({ height: 'unknown', h: 7 })])).toBe('h');
});

test('heights, else storeys, and where they begin; what was taken is said with its least and greatest', () => {
  const outlines = [
    outline({ height: '12 m', min_height: 3 }),
    outline({ 'building:levels': '4', 'building:min_level': 1 }),
    outline({ height: 20 }),
    outline({}),
  ];
  const notes: string[] = [];
  takeHeights(outlines, 1, notes);
  expect(outlines.map(({ height, storeys, base }) => [height, storeys, base])).toEqual([
    ...[
      [12, null, 3],
      [null, 4, 3],
    ],
    ...[
      [20, null, null],
      [null, null, null],
    ],
  ]);
  expect(notes).toEqual([
    'Heights from “height”: 12 to 20 m, of 2 of 4 outlines.',
    'Storeys, where there is no height, from “building:levels”: 4 to 4, of 1 of 4 outlines.',
    'Lowest levels over the ground from “min_height”: 3 to 3 m, of 2 of 4 outlines.',
  ]);
});
