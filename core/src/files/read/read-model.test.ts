import { modelFormat } from './read-model';

test('a file whose keys are in order says last what it is', () => {
  const ring = Array.from({ length: 400 }, (_, i) => [
    11 + Math.cos(i / 60) / 1000,
    48 + Math.sin(i / 60) / 1000,
  ]);
  const text = JSON.stringify({
    features: [{ geometry: { coordinates: [ring], kind: 'long' } }],
    type: 'FeatureCollection',
  });
  expect(modelFormat(new TextEncoder().encode(text), 'town.json')).toBe('geojson');
  const city = JSON.stringify({
    CityObjects: { a: { notes: 'x'.repeat(5000) } },
    type: 'CityJSON',
    version: '2.0',
  });
  expect(modelFormat(new TextEncoder().encode(city), 'town.json')).toBe('cityjson');
});
