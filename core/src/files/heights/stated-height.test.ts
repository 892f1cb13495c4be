import { type Comma, commaOf, statedHeight, unitInName } from './stated-height';

test.each([
  [12, 12, null],
  ['12.5', 12.5, null],
  ['12,5 m', 12.5, 1],
  ['12,5m', 12.5, 1],
  ['1250 cm', 1250, 0.01],
  ['12500 mm', 12500, 0.001],
  ['125 dm', 125, 0.1],
  ['~10', 10, null],
  ['ca. 9 m', 9, 1],
  ['8 m (measured)', 8, 1],
  ["35'", 35, 0.3048],
  ['35 ft', 35, 0.3048],
  ['35 ft.', 35, 0.3048],
  ['420 inches', 420, 0.0254],
  ['35′6″', 35.5, 0.3048],
  [`35'6"`, 35.5, 0.3048],
  ['6 feet 3 in', 6.25, 0.3048],
  ['8 metres', 8, 1],
  ['3.2e1 m', 32, 1],
  ['.5', 0.5, null],
  ['-3', -3, null],
  ['1,234.5', 1234.5, null],
  ['1.234,5', 1234.5, null],
  ['1,234,567', 1234567, null],
  ['1 234,5', 1234.5, null],
  ["1'234.5", 1234.5, null],
  ['0,125', 0.125, null],
  ['1,200 mm', 1200, 0.001],
] as const)('the height %p', (raw, value, metres) => {
  expect(statedHeight(raw)).toEqual({ value: expect.closeTo(value, 9), metres, isStoreys: false });
});

test.each(['4 storeys', '4 Geschosse', '4 étages', '4 floors', '4 Etagen', '4 kondygnacje', '4 stories'])(
  '%p are storeys',
  (raw) => {
    expect(statedHeight(raw)).toEqual({ value: 4, metres: null, isStoreys: true });
  },
);

test.each([
  '',
  'tall',
  undefined,
  NaN,
  'm 12',
  '12-14',
  '12–14 m',
  '1,200',
  '12 apples',
  '1 2 3',
  '1.2.3',
  '12 m 14',
])('%p is no height, or may be two', (raw) => {
  expect(statedHeight(raw)).toBeNull();
});

test('three figures behind one comma are what the others of the column tell', () => {
  const tell = (comma: Comma) => statedHeight('1,200', comma)?.value ?? null;
  expect([tell('decimal'), tell('thousands'), tell(null)]).toEqual([1.2, 1200, null]);
  expect(statedHeight('1.200', 'decimal')?.value).toBe(1200);
  expect(statedHeight('1.200', null)?.value).toBe(1.2);
  expect(statedHeight('1,234.5', 'decimal')?.value).toBe(1234.5);
  expect(commaOf(['1,200', '12,5'])).toBe('decimal');
  expect(commaOf(['1,200 mm', '9.5 m'])).toBe('thousands');
  expect(commaOf(['1,200', 3, undefined, 'tall'])).toBeNull();
  expect(commaOf(['1.234,5'])).toBe('decimal');
  expect(commaOf(['1,234,567'])).toBe('thousands');
});

test('units that names end with', () => {
  const of = (name: string) => [unitInName(name).metres, unitInName(name).bare];
  expect(of('height_ft')).toEqual([0.3048, 'height']);
  expect(of('HEIGHT [m]')).toEqual([1, 'HEIGHT']);
  expect(of('Height (feet)')).toEqual([0.3048, 'Height']);
  expect(of('heightFeet')).toEqual([0.3048, 'height']);
  expect(of('bldg_hgt_cm')).toEqual([0.01, 'bldg_hgt']);
  expect(of('roofheightft')).toEqual([0.3048, 'roofheight']);
  for (const name of ['height', 'claim', 'm', 'rahmen_alt', 'team']) expect(of(name)).toEqual([null, name]);
});
