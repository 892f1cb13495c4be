import { projectSchema, emptyProject } from '../project';
import { climateAt, makeUpYear } from './made-up-year';
import { readWeather } from './read-weather';
import { storedWeather, weatherOf } from './stored-weather';
import { writeEpw } from './write-epw';

const PLACE = { name: 'Nowhere', latitudeDeg: 40, longitudeDeg: 5, standardTimeH: 0, elevationM: 10 };
const epw = () => writeEpw(makeUpYear(PLACE, climateAt(40), 4, 2026), 'made up', 'test', 2026);
const read = (text: string) => readWeather(new TextEncoder().encode(text));

test('what a file gives is kept to the last digit, missing values as missing, through JSON', () => {
  const year = read(epw());
  year.values.cloud.fill(NaN);
  year.values.global[100] = NaN;
  year.values.dryBulb[7] = -3.25;
  const kept = JSON.parse(JSON.stringify(storedWeather(year, 'file.epw')));
  const back = weatherOf(kept);
  expect(back).toEqual(year);
  expect(kept.values.cloud).toBe('');
  expect(weatherOf(kept)).toBe(back);
});

test('a year that begins in another month, with a 29 February', () => {
  const lines = epw().split('\n');
  const [head, hours] = [lines.slice(0, 8), lines.slice(8).filter(Boolean)];
  const at = hours.findIndex((line) => line.split(',')[1] === '7');
  const february = hours.filter((line) => line.split(',')[1] === '2' && line.split(',')[2] === '28');
  const leap = february.map((line) => line.replace(',2,28,', ',2,29,'));
  const march = hours.findIndex((line) => line.split(',')[1] === '3');
  const turned = [...hours.slice(at), ...hours.slice(0, march), ...leap, ...hours.slice(march, at)];
  const year = read([...head, ...turned].join('\n'));
  expect(weatherOf(storedWeather(year, 'x'))).toEqual(year);
});

test('a project keeps it, and says what is wrong with one that is cut or garbled', () => {
  const stored = storedWeather(read(epw()), 'file.epw');
  const project = emptyProject('P', 2026);
  const check = (weather: unknown) =>
    projectSchema.safeParse({ ...project, site: { ...project.site, weather } }).error?.issues[0]?.message;
  expect(check(stored)).toBeUndefined();
  expect(check(null)).toBeUndefined();
  const withBeam = (beam: string) => ({ ...stored, values: { ...stored.values, beam } });
  expect(check(withBeam('1 2 3'))).toBe('The weather’s beam has 3 values for 8760 hours.');
  expect(check(withBeam(stored.values.beam.replace(/\S+$/, 'NaN')))).toBe(
    'The weather’s beam of hour 8760, “NaN”, is not a number.',
  );
  // What was sound is so again, but not with other hours, and nothing follows the last value.
  expect(check(stored)).toBeUndefined();
  expect(check({ ...stored, hours: 8784 })).toContain(' has 8760 values for 8784 hours.');
  for (const wrong of ['', '1 ', '1e', '--1', '12345678', '1.2345678', '1e-123', '١'])
    expect(check(withBeam(stored.values.beam.replace(/\S+$/, wrong)))).toBe(
      `The weather’s beam ${wrong === '1 ' ? 'has 8761 values for 8760 hours.' : `of hour 8760, “${wrong}”, is not a number.`}`,
    );
  for (const right of ['-', '-1', '1.5e-3', '1e9', '-0.000001'])
    expect(check(withBeam(stored.values.beam.replace(/\S+$/, right)))).toBeUndefined();
  expect(check({ ...stored, hours: 17520 })).toContain('8784');
});
