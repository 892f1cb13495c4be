import fc from 'fast-check';
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
