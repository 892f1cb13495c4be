import { climateAt, makeUpYear } from './made-up-year';
import { readWeather } from './read-weather';
import { columnOf } from './table-columns';
import { writeEpw } from './write-epw';

const PLACE = { name: 'Nowhere', latitudeDeg: 52, longitudeDeg: -4, standardTimeH: 0, elevationM: 40 };
const YEAR = makeUpYear(PLACE, climateAt(52), 3, 2026);
const two = (n: number) => String(n).padStart(2, '0');
const latin1 = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
const bytes = (text: string) => new TextEncoder().encode(text);

/** A table of all hours of the year: its first lines, and each row by the hour (0 to 23) and its number. */
const table = (
  head: string,
  row: (at: { month: number; day: number; hour: number; i: number }) => string,
  skip = 0,
) =>
  bytes(
    [
      head,
      ...Array.from({ length: 8760 }, (_, k) => {
        const i = (k + skip) % 8760;
        return row({ month: YEAR.month[i]!, day: YEAR.day[i]!, hour: YEAR.hour[i]! - 1, i });
      }),
    ].join('\n'),
  );
const refused = (file: Uint8Array) => {
  try {
    readWeather(file);
  } catch (error) {
    return (error as Error).message;
  }
  throw new Error('nothing was refused');
};
const stamp = ({ month, day, hour }: { month: number; day: number; hour: number }) =>
  `${month},${day},${hour + 1}`;
const global = (i: number) => YEAR.values.global[i]!;

test.each([
  ['Global [kWh/m²]', 'global', 1.2, 1200],
  ['GHI (W/m2)', 'global', 300, 300],
  ['G(h) [W/m^2]', 'global', 300, 300],
  ['Global horizontal irradiation, MJ/m2', 'global', 3.6, 1000],
  ['dni_kj_m2', 'beam', 3.6, 1],
  ['Diffuse J/cm2', 'diffuse', 360, 1000],
  ['ghi_kwh_m2', 'global', 0.5, 500],
  ['Temperature, °F', 'dryBulb', 212, 100],
  ['temp_f', 'dryBulb', 32, 0],
  ['Lufttemperatur [K]', 'dryBulb', 273.15, 0],
  ['T2m', 'dryBulb', 21, 21],
  ['RH (%)', 'humidity', 55, 55],
  ['relative humidity [0-1]', 'humidity', 0.55, 55],
  ['Luftdruck [hPa]', 'pressure', 1013.25, 101_325],
  ['wind_speed_km/h', 'windSpeed', 36, 10],
  ['WS10m [kn]', 'windSpeed', 1, 0.514444],
  ['wind direction [deg]', 'windDirection', 270, 270],
  ['cloud cover [oktas]', 'cloud', 4, 5],
  ['cloud cover (%)', 'cloud', 40, 4],
] as const)('the heading %p', (heading, kind, value, turned) => {
  const column = columnOf(heading);
  expect(column.kind).toBe(kind);
  expect(column.turn!(value)).toBeCloseTo(turned, 4);
});

test('headings that are not understood, and units that are not known', () => {
  expect(columnOf('colour').kind).toBeNull();
  expect(columnOf('Direct horizontal [W/m²]').kind).toBeNull();
  expect(columnOf('Global [furlongs]')).toMatchObject({ kind: 'global', unit: 'furlongs', turn: null });
  expect(refused(table('month,day,hour,global [furlongs]', (at) => `${stamp(at)},1`))).toContain(
    'The unit “furlongs” of the column “global [furlongs]” is not known; use w/m2',
  );
  expect(refused(table('month,day,hour,ghi,global', (at) => `${stamp(at)},1,1`))).toContain(
    'stands in 2 columns, “ghi” and “global”',
  );
});

test('kilowatt hours and Fahrenheit with comma decimals between semicolons, hours from 0, a line of units, lines before the names', () => {
  const comma = (value: number, digits: number) => value.toFixed(digits).replace('.', ',');
  const file = table(
    'Station;Nowhere\n\nMonat;Tag;Stunde;Globalstrahlung;Lufttemperatur;Bemerkung\n;;;kWh/m²;°F;',
    ({ month, day, hour, i }) =>
      `${month};${day};${hour};${comma(global(i) / 1000, 5)};${comma(YEAR.values.dryBulb[i]! * 1.8 + 32, 4)};x`,
  );
  const read = readWeather(file);
  for (const i of [0, 11, 4000, 8759]) {
    expect(read.values.global[i]).toBeCloseTo(global(i), 1);
    expect(read.values.dryBulb[i]).toBeCloseTo(YEAR.values.dryBulb[i]!, 3);
  }
  expect([read.month, read.day, read.hour]).toEqual([YEAR.month, YEAR.day, YEAR.hour]);
  expect(read.notes).toEqual([
    'The table gives only the global radiation: beam and sky are split from it, hour by hour (Erbs et al. 1982).',
    'Columns that are not read: “Bemerkung”.',
  ]);
});

describe('times', () => {
  const hours = (file: Uint8Array) => {
    const { month, day, hour, values } = readWeather(file);
    expect([month, day, hour]).toEqual([YEAR.month, YEAR.day, YEAR.hour]);
    expect(values.global[12]).toBe(global(12));
  };
  test('hours from 1 to 24, with minutes; ISO stamps that begin hours; dates and times apart', () => {
    hours(table('month,day,hour,global', (at) => `${stamp(at)}:00,${global(at.i)}`));
    hours(
      table(
        'time,global',
        ({ month, day, hour, i }) => `2026-${two(month)}-${two(day)}T${two(hour)}:00,${global(i)}`,
      ),
    );
    hours(
      table(
        'time,global',
        ({ month, day, hour, i }) => `2026-${two(month)}-${two(day)} ${two(hour)}:30:00+01:00,${global(i)}`,
      ),
    );
    hours(
      table(
        'time;ghi',
        ({ month, day, hour, i }) => `2026${two(month)}${two(day)}:${two(hour)}10;${global(i)}`,
      ),
    );
    hours(
      table(
        'Datum;Uhrzeit;ghi',
        ({ month, day, hour, i }) => `${two(day)}.${two(month)}.2026;${hour}:00;${global(i)}`,
      ),
    );
    hours(
      table('date,hour,ghi', ({ month, day, hour, i }) => `${month}/${day}/2026,${hour + 1},${global(i)}`),
    );
  });
  test('stamps at the ends of hours: the last of a day at midnight of the next', () => {
    hours(
      table('timestamp,ghi', ({ month, day, hour, i }) => {
        const end = new Date(Date.UTC(2026, month - 1, day, hour + 1));
        return `${end.toISOString().slice(0, 16)},${global(i)}`;
      }),
    );
  });
  test('what cannot be told is refused', () => {
    const of = (write: (month: number, day: number, hour: number) => string) =>
      refused(table('time,ghi', ({ month, day, hour, i }) => `${write(month, day, hour)},${global(i)}`));
    expect(of((m, d, h) => `2026-${two(m)}-${two(d)}T${two(h)}:00Z`)).toContain('those of Greenwich (UTC)');
    expect(
      of((m, d, h) => `2026-${two(m)}-${two(d)}T${two(h)}:00${m > 3 && m < 11 ? '+02:00' : '+01:00'}`),
    ).toContain('told from +01:00 and +02:00');
    expect(of((m, d, h) => `${m}|${d}|${h}`)).toContain('Line 2: “1|1|0” is no time');
    expect(of((m, d, h) => `${two(m)}/${two(Math.min(d, 12))}/2026 ${h}:00`)).toContain(
      'nothing tells the day from the month',
    );
    expect(of((m, d, h) => `2026-${two(m)}-${two(d)}T${two(h)}:${h % 2 ? '30' : '00'}`)).toContain(
      'minutes 0, 30',
    );
    expect(
      refused(
        table('month,day,hour,ghi', ({ month, day, hour }) => `${month},${day},${hour === 5 ? 24 : hour},9`),
      ),
    ).toContain('go from 0 to 24');
  });
});

test('values that cannot be what they are said to be are refused: their unit is missing, or another', () => {
  const of = (head: string, value: (i: number) => number) =>
    refused(table(`month,day,hour,${head}`, (at) => `${stamp(at)},${value(at.i)}`));
  expect(of('global', (i) => global(i) / 1000)).toMatch(
    /from 0 to 0\.\d+ Wh\/m², which cannot be; write its unit/,
  );
  expect(of('temperature', (i) => YEAR.values.dryBulb[i]! * 1.8 + 50)).toContain(
    'which cannot be; write its unit',
  );
  expect(of('pressure', () => 1013)).toContain('as “pressure [pa]”');
  expect(of('global [kWh/m²]', global)).toContain('is “kWh/m²” its unit?');
  expect(of('humidity', (i) => (i % 100) / 100)).toContain('write its unit');
});

test('what stands for a missing value is missing, and a comma decimal between commas is refused', () => {
  const gaps = ['', '-', 'NA', 'nan', '-999', '-9999'];
  const read = readWeather(
    table('month,day,hour,global', (at) => `${stamp(at)},${at.i < gaps.length ? gaps[at.i] : global(at.i)}`),
  );
  expect(read.notes[0]).toBe('The global horizontal radiation is missing in 6 of 8,760 hours.');
  expect(refused(table('month,day,hour,global', (at) => `${stamp(at)},1,5`))).toContain(
    'decimals are written with a point',
  );
});

test('with beam or diffuse beside it, the global is not told to be split', () => {
  const read = readWeather(
    table('month,day,hour,ghi,dhi', (at) => `${stamp(at)},${global(at.i)},${YEAR.values.diffuse[at.i]!}`),
  );
  expect(read.notes).toEqual([]);
});

test('files in Latin-1 keep their names: of stations, and of columns', () => {
  const epw = writeEpw({ ...YEAR, place: { ...PLACE, name: 'Würzig-sur-Forêt' } }, 'made up', 'x', 2026);
  expect(readWeather(latin1(epw)).place?.name).toBe('Würzig-sur-Forêt');
  expect(readWeather(bytes(epw)).place?.name).toBe('Würzig-sur-Forêt');
  const head = 'mois;día;heure;température [°C]';
  const text = [
    head,
    ...Array.from({ length: 8760 }, (_, i) => `${YEAR.month[i]};${YEAR.day[i]};${YEAR.hour[i]};7,5`),
  ];
  expect(readWeather(latin1(text.join('\r\n'))).values.dryBulb[99]).toBe(7.5);
});
