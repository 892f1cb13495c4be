import fc from 'fast-check';
import { mutations, readOrRefused } from '../../testing/mutate';
import { readHeights } from '../files';
import { parseCoordinates } from './coordinates';
import { readWeatherPlace } from './weather-header';

// Latitude 55° 52′ 12″ N, longitude 4° 19′ 12″ W.
test.each([
  '55.87, -4.32',
  '55.87 -4.32',
  '55.87,-4.32',
  '55,87; -4,32',
  '55,87,-4,32',
  '55.87° N, 4.32° W',
  'N 55.87 W 4.32',
  '4.32W 55.87N',
  '55°52\'12"N 4°19\'12"W',
  '55° 52′ 12″ N, 4° 19′ 12″ W',
  'N55 52 12 W4 19 12',
  '55 52 12 -4 19 12',
  "55° 52.2' N 4° 19.2' W",
  '55 52.2 N 4 19.2 W',
  '55º52’12”N 4º19’12”O'.replace('O', 'W'),
  'geo:55.87,-4.32',
  'geo:55.87,-4.32;u=35',
  '+55.87 −4.32',
])('%s', (text) => {
  const { latitudeDeg, longitudeDeg } = parseCoordinates(text);
  expect(latitudeDeg).toBeCloseTo(55.87, 9);
  expect(longitudeDeg).toBeCloseTo(-4.32, 9);
});

test.each([
  ['', 'is no pair of coordinates'],
  ['Orrin Bay', 'is no pair of coordinates'],
  ['55.87', 'is no pair of coordinates'],
  ['55.87 N', 'is no pair of coordinates'],
  ['55.87 N 4.32 S', 'is no pair of coordinates'],
  ['95, 4', 'Latitude 95 is outside'],
  ['-33.1, 190', 'Longitude 190 is outside'],
  ["55°75'N 4°W", 'is no pair of coordinates'],
])('“%s” is refused in a sentence', (text, sentence) => {
  expect(() => parseCoordinates(text)).toThrow(sentence);
});

test('any place written in any usual way is read back', () => {
  const angle = (max: number) => fc.double({ min: -max, max, noNaN: true });
  fc.assert(
    fc.property(angle(90), angle(180), (lat, lon) => {
      const dms = (v: number, [plus, minus]: [string, string]) => {
        const total = Math.round(Math.abs(v) * 36_000);
        const [d, m, s] = [
          Math.floor(total / 36_000),
          Math.floor((total % 36_000) / 600),
          (total % 600) / 10,
        ];
        return `${d}°${m}'${s}"${v < 0 ? minus : plus}`;
      };
      const read = parseCoordinates(`${dms(lat, ['N', 'S'])} ${dms(lon, ['E', 'W'])}`);
      expect(read.latitudeDeg).toBeCloseTo(lat, 4);
      expect(read.longitudeDeg).toBeCloseTo(lon, 4);
      const decimal = parseCoordinates(`${lat.toFixed(6)}, ${lon.toFixed(6)}`);
      expect(decimal.longitudeDeg).toBeCloseTo(lon, 5);
    }),
  );
});

const text = (value: string) => new TextEncoder().encode(value);
const GRID =
  'ncols 3\nnrows 2\nxllcorner 100\nyllcorner 50\ncellsize 10\nNODATA_value -9999\n1 2 3\n4 -9999 6\n';

test('a height grid: rows from the north, cells by their middle, gaps left out', () => {
  expect(readHeights(text(GRID)).points).toEqual([
    [105, 65, 1],
    [115, 65, 2],
    [125, 65, 3],
    [105, 55, 4],
    [125, 55, 6],
  ]);
});

test('points, with a headline, between commas or blanks; far ones are brought to the origin', () => {
  expect(readHeights(text('x,y,z\n0,0,1\n10,0,2\n0;10;3\n5 5 4\n')).points).toHaveLength(4);
  const far = readHeights(text('400000 600000 1\n400010 600000 2\n400000 600010 3\n'));
  expect(far.points[0]).toEqual([-5, -5, 1]);
  expect(far.notes[0]).toContain('600 km from the origin');
  expect(() => readHeights(text('0 0 1\n1 1'))).toThrow('Line 2: a height needs three numbers');
  expect(() => readHeights(text(GRID.slice(0, -8)))).toThrow('it is cut off');
});

test('whatever is done to a height file, it gives heights or a sentence', async () => {
  for (const valid of [text(GRID), text('x,y,z\n0,0,1\n10,0,2\n0,10,3\n5,5,4\n')])
    await fc.assert(
      fc.asyncProperty(mutations(valid), async (bytes) => {
        const heights = await readOrRefused(() => readHeights(bytes));
        if (heights) expect(heights.points.flat().every(Number.isFinite)).toBe(true);
      }),
      { numRuns: 2000 },
    );
});

test('the place of a weather file is in its first line', () => {
  const place = readWeatherPlace(
    text('LOCATION,Orrin Bay,-,Made up,generated,000000,55.87,-4.32,0.0,12.0\nmore'),
  );
  expect(place).toEqual({
    name: 'Orrin Bay, Made up',
    latitudeDeg: 55.87,
    longitudeDeg: -4.32,
    standardTimeH: 0,
    elevationM: 12,
  });
  expect(() => readWeatherPlace(text('hello'))).toThrow('no line that begins with LOCATION');
  expect(() => readWeatherPlace(text('LOCATION,a,b,c,d,e,95,0,0,0'))).toThrow('no sound latitude (“95”)');
});
