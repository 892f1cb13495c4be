import type { ModelFootprint } from '../model-file';
import { heightReader, likelyHeightProperty, takeHeights } from './outline-heights';

const outline = (properties: Record<string, string | number>): ModelFootprint => ({
  ...{ name: 'o', layer: 'l', outer: [], holes: [], height: null, properties },
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

test('heights, else storeys, and where they begin', () => {
  const outlines = [
    outline({ height: '12 m', min_height: 3 }),
    outline({ 'building:levels': '4', 'building:min_level': 1 }),
    outline({ height: 20 }),
    outline({}),
  ];
  takeHeights(outlines, 1);
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
});

test('units in names and comma decimals go for all of a column; what may be two numbers is refused with its value', () => {
  const column = (name: string, ...values: (string | number)[]) => {
    const all = values.map((value) => outline({ [name]: value }));
    const read = heightReader(all, { as: 'height', property: name }, 1);
    return all.map(({ properties }) => read(properties));
  };
  const heights = (name: string, ...values: (string | number)[]) =>
    column(name, ...values).map(
      ({ height, storeys, refused }) => height ?? (storeys ? { storeys } : refused),
    );
  expect(heights('HEIGHT_FT', 36, '40', '12 m')).toEqual([
    expect.closeTo(36 * 0.3048, 9),
    expect.closeTo(40 * 0.3048, 9),
    12,
  ]);
  expect(heights('height', '4 storeys', '4 Geschosse', '36 ft', '12,5 m')).toEqual([
    { storeys: 4 },
    { storeys: 4 },
    expect.closeTo(10.9728, 9),
    12.5,
  ]);
  expect(heights('height', '1,200', '12-14', 'tall', '9')).toEqual([['1,200'], ['12-14'], ['tall'], 9]);
  expect(heights('h_mm', '1,200', '9.500')).toEqual([expect.closeTo(1.2, 9), expect.closeTo(0.0095, 9)]);
  expect(heights('height', '1,200', '12,5')).toEqual([1.2, 12.5]);
  expect(heights('height', 'unknown', '', '-', 0, -3)).toEqual([[], [], [], [], []]);
  // In a file in feet what has no unit is in feet, and what has one is turned into them.
  const inFeet = heightReader([outline({ h: '10 m' })], { as: 'height', property: 'h' }, 0.3048);
  expect(inFeet({ h: '10 m' }).height).toBeCloseTo(10 / 0.3048, 9);
  expect(inFeet({ h: 35 }).height).toBe(35);
});

test('heights are read as storeys, or as the level of the roof less that of the ground', () => {
  const all = [
    outline({ n: '5', roof: 118.5, ground_m: '105' }),
    outline({ n: '12 m', roof: 100, ground_m: 105 }),
  ];
  const storeys = heightReader(all, { as: 'storeys', property: 'n' }, 1);
  expect(all.map(({ properties }) => storeys(properties))).toEqual([
    { height: null, storeys: 5, refused: [] },
    { height: null, storeys: null, refused: ['12 m'] },
  ]);
  const levels = heightReader(all, { as: 'levels', roof: 'roof', ground: 'ground_m' }, 1);
  expect(all.map(({ properties }) => levels(properties).height)).toEqual([13.5, null]);
  expect(levels({ roof: 9 })).toEqual({ height: null, storeys: null, refused: [] });
});
