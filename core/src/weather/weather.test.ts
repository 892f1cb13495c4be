import fc from 'fast-check';
import { InputError } from '../errors';
import { RAD } from '../civil';
import { sunPosition } from '../sun';
import { climateAt, makeUpYear } from './made-up-year';
import { shareWithin } from './hours-within';
import { airMass, diffuseShare, extraterrestrial } from './radiation';
import { readWeather } from './read-weather';
import { sunOfHours } from './sun-of-hours';
import { weatherSummary } from './weather-summary';
import { WEATHER_FIELDS, type WeatherYear } from './weather-year';
import { writeEpw } from './write-epw';

const PLACE = { name: 'Nowhere', latitudeDeg: 52, longitudeDeg: -4, standardTimeH: 0, elevationM: 40 };
const YEAR = makeUpYear(PLACE, climateAt(52), 3, 2026);
const EPW = writeEpw(YEAR, 'made up', 'Made up.', 2026);
const bytes = (text: string) => new TextEncoder().encode(text);
const lines = () => EPW.trimEnd().split('\n');
/** The file with a line changed; lines are counted from 1. */
const with_ = (line: number, change: (fields: string[]) => string[]) => {
  const all = lines();
  all[line - 1] = change(all[line - 1]!.split(',')).join(',');
  return bytes(all.join('\n'));
};
const set = (field: number, value: string) => (fields: string[]) => fields.with(field, value);
const refusal = (file: Uint8Array): string => {
  try {
    readWeather(file);
  } catch (error) {
    expect(error).toBeInstanceOf(InputError);
    return (error as Error).message;
  }
  throw new Error('nothing was refused');
};

test('what is written is read again, value by value, with any line ends and a byte-order mark', () => {
  for (const text of [
    EPW,
    EPW.replaceAll('\n', '\r\n'),
    EPW.replaceAll('\n', '\r'),
    `\uFEFF${EPW}`,
    `${EPW}\n\n`,
  ]) {
    const read = readWeather(bytes(text));
    expect(read.hours).toBe(8760);
    expect(read.place).toEqual({ ...PLACE, name: 'Nowhere (made up)' });
    for (const { field } of WEATHER_FIELDS) expect(read.values[field]).toEqual(YEAR.values[field]);
    expect(read.month).toEqual(YEAR.month);
    expect(read.hour.subarray(0, 24)).toEqual(Uint8Array.from({ length: 24 }, (_, h) => h + 1));
    expect(read.notes).toEqual([]);
  }
});

test('what stands for a missing value in the format is missing, counted and said', () => {
  const all = lines();
  const missing: [number, string][] = [
    [6, '99.9'],
    [7, '99.9'],
    [8, '999'],
    [9, '999999'],
    [13, '9999'],
    [14, '9999'],
    [15, '-999'],
    [20, '999'],
    [21, '999'],
    [22, '99'],
  ];
  all[8] = missing.reduce((fields, [at, value]) => fields.with(at, value), all[8]!.split(',')).join(',');
  const read = readWeather(bytes(all.join('\n')));
  for (const { field } of WEATHER_FIELDS) {
    expect(read.values[field][0]).toBeNaN();
    expect(read.values[field][1]).not.toBeNaN();
  }
  expect(read.notes).toHaveLength(10);
  expect(read.notes[0]).toBe('The dry-bulb temperature is missing in 1 of 8,760 hours.');
});

test('a little below nothing is nothing, and said', () => {
  const read = readWeather(with_(9, set(13, '-2')));
  expect(read.values.global[0]).toBe(0);
  expect(read.notes[0]).toContain('below 0 in 1 hours');
});

test.each<[string, Uint8Array, string]>([
  ['a short line', with_(500, (fields) => fields.slice(0, 12)), 'Line 500 has 12 fields; an hour has 35'],
  [
    'decimals with a comma',
    with_(9, (fields) => fields.with(6, '12,5')),
    'Are decimals written with a comma?',
  ],
  [
    'letters for a number',
    with_(77, set(14, 'sunny')),
    'Line 77: the beam normal radiation “sunny” is not a number',
  ],
  ['an empty value', with_(77, set(14, '')), 'Line 77: the beam normal radiation “” is not a number'],
  ['an absurd temperature', with_(10, set(6, '85')), 'Line 10: the dry-bulb temperature is 85'],
  ['radiation below nothing', with_(10, set(13, '-50')), 'Line 10: the global horizontal radiation is -50'],
  ['a month that is none', with_(10, set(1, '13')), 'there is no hour 2 of day 1 of month 13'],
  ['an hour 25', with_(10, set(3, '25')), 'hours go from 1 to 24'],
  [
    'an hour twice',
    with_(10, set(3, '1')),
    'Line 10: 01-01 hour 1 comes after 01-01 hour 1; 01-01 hour 2 is expected',
  ],
  ['too few hours', bytes(lines().slice(0, -5).join('\n')), '8,755 hours; a year has 8,760'],
  ['two years', bytes([...lines(), ...lines().slice(8)].join('\n')), '17,520 hours, more than one year'],
  ['several records an hour', with_(8, set(2, '4')), '4 records an hour'],
  ['two periods', with_(8, set(1, '2')), '2 periods'],
  ['no header', bytes(lines().slice(8).join('\n')), 'no line that begins with LOCATION'],
  ['a header cut short', bytes(lines().toSpliced(2, 2).join('\n')), 'eight lines before its hours'],
  [
    'a zone with the wrong sign',
    with_(1, (fields) => fields.with(7, '-105').with(8, '7')),
    'its sign is wrong, for -7 h fits',
  ],
  ['a latitude of 99', with_(1, set(6, '99')), 'no sound latitude'],
  ['nothing', bytes(''), 'LOCATION'],
])('%s is refused in a sentence', (_, file, sentence) => {
  expect(refusal(file)).toContain(sentence);
});

test('mutated files give a year or a sentence', () => {
  const good = bytes(EPW.slice(0, 60_000));
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { maxLength: 20 }), (changes) => {
      const file = good.slice();
      for (const [at, value] of changes) file[at] = value;
      expect(refusal(file).length).toBeGreaterThan(10);
    }),
    { numRuns: 200 },
  );
});

test('a year may begin in July, and have a 29 February', () => {
  const all = lines();
  const july = all.findIndex((line, i) => i > 7 && line.split(',')[1] === '7');
  const turned = [...all.slice(0, 8), ...all.slice(july), ...all.slice(8, july)];
  const read = readWeather(bytes(turned.join('\n')));
  expect([read.month[0], read.day[0], read.hour[0]]).toEqual([7, 1, 1]);
  const march = all.findIndex((line, i) => i > 7 && line.split(',')[1] === '3');
  const leapDay = all.slice(march - 24, march).map((line) => line.split(',').with(2, '29').join(','));
  const leap = readWeather(bytes([...all.slice(0, march), ...leapDay, ...all.slice(march)].join('\n')));
  expect(leap.hours).toBe(8784);
  // Left out in a year without one.
  expect(sunOfHours(leap, PLACE, 0, 2026).hours).toHaveLength(8760);
  expect(sunOfHours(leap, PLACE, 0, 2028).hours).toHaveLength(8784);
});

describe('comma-separated text with named columns', () => {
  const csv = (head: string, row: (i: number) => string) =>
    bytes([head, ...Array.from({ length: 8760 }, (_, i) => row(i))].join('\n'));
  const stamp = (i: number) => `${YEAR.month[i]},${YEAR.day[i]},${YEAR.hour[i]}`;

  test('is read by its names, in any order; what is empty is missing', () => {
    const read = readWeather(
      csv(
        'Month,Day,Hour,Global Horizontal (Wh/m2),dry_bulb [C]',
        (i) => `${stamp(i)},${i === 3 ? '' : i % 900},${i % 30}`,
      ),
    );
    expect(read.place).toBeNull();
    expect(read.values.global[899]).toBe(899);
    expect(read.values.global[3]).toBeNaN();
    expect(read.values.dryBulb[29]).toBe(29);
    expect(read.values.beam.every(Number.isNaN)).toBe(true);
    expect(read.notes[0]).toBe('The global horizontal radiation is missing in 1 of 8,760 hours.');
  });

  test('without what it needs is refused', () => {
    expect(refusal(csv('month,day,global', (i) => `${YEAR.month[i]},${YEAR.day[i]},1`))).toContain(
      'no column “hour”',
    );
    expect(refusal(csv('month,day,hour,colour', (i) => `${stamp(i)},1`))).toContain('names no weather value');
    expect(refusal(csv('month,day,hour,global', (i) => `${stamp(i)},1,5`))).toContain(
      'decimals are written with a point',
    );
    expect(refusal(csv('month,day,hour,global', (i) => `${stamp(i)},x`))).toContain('“x” is not a number');
  });
});

test('air mass, extraterrestrial beam and the split are those of their sources', () => {
  // Kasten & Young 1989, table 1: 1.0 at 90° (0.9997), 1.9939 at 30°, 5.5841 at 10° , 37.92 at 0°.
  expect(airMass(90)).toBeCloseTo(0.9997, 3);
  expect(airMass(30)).toBeCloseTo(1.994, 2);
  expect(airMass(10)).toBeCloseTo(5.58, 1);
  expect(airMass(0)).toBeCloseTo(37.92, 0);
  expect(extraterrestrial(1)).toBe(1367);
  expect(extraterrestrial(0.9833)).toBeCloseTo(1413.8, 0);
  // Erbs et al. 1982: steady at its joints, 0.165 beyond.
  expect(diffuseShare(0)).toBe(1);
  expect(diffuseShare(0.22)).toBeCloseTo(0.9802, 4);
  expect(Math.abs(diffuseShare(0.2199999) - diffuseShare(0.2200001))).toBeLessThan(0.003);
  expect(Math.abs(diffuseShare(0.7999999) - diffuseShare(0.8000001))).toBeLessThan(0.003);
  expect(diffuseShare(1)).toBe(0.165);
});

test('the sun of an hour is in the middle of the part of it that has sun', () => {
  const { hours } = sunOfHours(YEAR, PLACE, 0, 2026);
  const up = (ms: number) => sunPosition(ms, PLACE).altitudeDeg > 0;
  let parts = 0;
  for (const { startMs, sun, beamNormal } of hours.slice(80 * 24, 84 * 24)) {
    const minutes = Array.from({ length: 60 }, (_, i) => startMs + (i + 0.5) * 60_000).filter(up);
    if (minutes.length === 0) {
      expect(sun).toBeNull();
      expect(beamNormal).toBe(0);
      continue;
    }
    if (minutes.length < 60) parts++;
    const middle = (minutes[0]! + minutes.at(-1)!) / 2;
    expect(Math.abs(sun!.atMs - middle)).toBeLessThan(65_000);
  }
  // Sunrise and sunset of four days fall within hours.
  expect(parts).toBe(8);
});

test('an hour is local standard time and ends at its stamp', () => {
  const east = sunOfHours(YEAR, PLACE, 9, 2026).hours[0]!;
  expect(new Date(east.startMs).toISOString()).toBe('2025-12-31T15:00:00.000Z');
  expect(new Date(sunOfHours(YEAR, PLACE, 0, 2026).hours[30]!.startMs).toISOString()).toBe(
    '2026-01-02T06:00:00.000Z',
  );
});

describe('without beam and diffuse', () => {
  const blank = (...fields: ('beam' | 'diffuse' | 'global')[]): WeatherYear => ({
    ...YEAR,
    values: {
      ...YEAR.values,
      ...Object.fromEntries(fields.map((f) => [f, new Float64Array(8760).fill(NaN)])),
    },
  });

  test('the global is split, and comes together again', () => {
    const { hours, split, notes } = sunOfHours(blank('beam', 'diffuse'), PLACE, 0, 2026);
    expect(split).toBeGreaterThan(4000);
    expect(notes[0]).toContain('Erbs');
    const wrong = hours.filter(({ sun, beamNormal, diffuseHorizontal, globalHorizontal }) => {
      if (!sun) return false;
      const made = beamNormal * Math.sin(sun.altitudeDeg * RAD) + diffuseHorizontal;
      return !(Math.abs(made - globalHorizontal) < 5e-7 && beamNormal <= sun.extraterrestrial);
    });
    expect(wrong).toEqual([]);
  });

  test('the third is made of the other two', () => {
    const whole = sunOfHours(YEAR, PLACE, 0, 2026).hours;
    for (const missing of ['beam', 'diffuse'] as const) {
      const { hours, split } = sunOfHours(blank(missing), PLACE, 0, 2026);
      expect(split).toBe(0);
      const wrong = hours.filter((hour, i) => {
        if (!hour.sun || hour.sun.altitudeDeg < 15) return false;
        // The file holds whole numbers.
        const beam = Math.abs(hour.beamNormal - whole[i]!.beamNormal);
        const diffuse = Math.abs(hour.diffuseHorizontal - whole[i]!.diffuseHorizontal);
        return !(beam < 12 && diffuse < 12);
      });
      expect(wrong).toEqual([]);
    }
  });

  test('nothing at all counts as dark, and is said', () => {
    const { hours, notes } = sunOfHours(blank('beam', 'diffuse', 'global'), PLACE, 0, 2026);
    expect(hours.every((h) => h.beamNormal === 0 && h.diffuseHorizontal === 0)).toBe(true);
    expect(notes[0]).toContain('count as dark');
  });
});

describe('a made-up year', () => {
  test('is the same for the same seed and another for another', () => {
    const again = makeUpYear(PLACE, climateAt(52), 3, 2026);
    expect(again.values).toEqual(YEAR.values);
    expect(makeUpYear(PLACE, climateAt(52), 4, 2026).values.cloud).not.toEqual(YEAR.values.cloud);
    expect(EPW.split('\n')[0]).toContain('(made up)');
  });

  test.each([
    [56, 0],
    [-33, -5],
    [5, 3],
    [70, 2],
  ])(
    'at latitude %d balances, and its summer is warmer and brighter than its winter',
    (latitudeDeg, standardTimeH) => {
      const place = { ...PLACE, latitudeDeg, standardTimeH, longitudeDeg: standardTimeH * 15 };
      const year = makeUpYear(place, climateAt(latitudeDeg), 1, 2026);
      const { months, sums, checks, dryBulb, missing } = weatherSummary(
        year,
        sunOfHours(year, place, standardTimeH, 2026),
      );
      expect(checks).toEqual({ unbalancedHours: 0, sunlessHoursWithRadiation: 0 });
      expect(Object.values(missing).every((n) => n === 0)).toBe(true);
      const [june, december] = [months[5]!, months[11]!];
      if (Math.abs(latitudeDeg) > 20) {
        const [summer, winter] = latitudeDeg > 0 ? [june, december] : [december, june];
        expect(summer.global).toBeGreaterThan(2 * winter.global);
        expect(summer.meanC).toBeGreaterThan(winter.meanC + 3);
      }
      // Between the least and the most that is measured anywhere on Earth.
      expect(sums.global).toBeGreaterThan(500);
      expect(sums.global).toBeLessThan(2600);
      expect(dryBulb.min).toBeGreaterThan(-45);
      expect(dryBulb.max).toBeLessThan(45);
      expect(months.reduce((sum, m) => sum + m.global, 0)).toBeCloseTo(sums.global, 6);
    },
  );
});

test('the share of an hour in a window: whole, part, none; over the turn of the year', () => {
  const { hours } = sunOfHours(YEAR, PLACE, 0, 2026);
  const share = shareWithin({ fromDay: 321, toDay: 321, startMinutes: 570, endMinutes: 690 }, 0);
  const day = hours.filter(({ startMs }) => new Date(startMs).toISOString().startsWith('2026-03-21'));
  expect(day.map(share).slice(8, 13)).toEqual([0, 0.5, 1, 0.5, 0]);
  expect(hours.reduce((sum, hour) => sum + share(hour), 0)).toBe(2);
  const winter = shareWithin({ fromDay: 1201, toDay: 228, startMinutes: 0, endMinutes: 1440 }, 0);
  expect(hours.reduce((sum, hour) => sum + winter(hour), 0)).toBe((31 + 31 + 28) * 24);
});
