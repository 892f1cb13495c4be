import './browser-stand-in';
import { niceTop, sunDay } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { chartScale } from '../src/almanac/chart-scale';
import { edgesAt, windowBox } from '../src/almanac/window-box';
import { dateOfColumn, dayInWords, longDate, shortDate, zoneInWords } from '../src/almanac/wording';
import { openProject } from '../src/state/project-store';
import {
  beginView,
  momentFrom,
  momentText,
  optionsInOrder,
  setMoment,
  setView,
  useView,
} from '../src/state/view-store';
import { almanacTone, OPTION_HUES, rampRgb, RAMPS, OBSTRUCTION_COLOURS } from '../src/theme/palette';
import { lab, rgb } from 'd3';

const LONDON = 'Europe/London';

describe('the chart', () => {
  const scale = chartScale(1000, 200, 365);

  test('a place on it is a day and a minute, and back', () => {
    for (const column of [0, 78, 364]) expect(scale.column(scale.x(column + 0.5))).toBe(column);
    for (const minutes of [0, 360, 1439]) expect(scale.minutes(scale.y(minutes))).toBeCloseTo(minutes, 9);
  });

  test('beyond its edges it stays within the year and the day', () => {
    expect(scale.column(-50)).toBe(0);
    expect(scale.column(2000)).toBe(364);
    expect(scale.minutes(-50)).toBe(0);
    expect(scale.minutes(900)).toBe(1439);
  });

  test('the edges of a window are taken near them and nowhere else', () => {
    const window = { from: '2026-03-01', to: '2026-06-30', startMinutes: 480, endMinutes: 1080 };
    const shown = { window, isSolar: false, lateness: () => 0 };
    const { left, right, top, bottom } = windowBox(shown, scale);
    const middle = { x: (left + right) / 2, y: (top + bottom) / 2 };
    expect(edgesAt(shown, scale, left + 2, middle.y)).toEqual({ left: true });
    expect(edgesAt(shown, scale, right - 2, bottom + 1)).toEqual({ right: true, bottom: true });
    expect(edgesAt(shown, scale, middle.x, top)).toEqual({ top: true });
    expect(edgesAt(shown, scale, middle.x, middle.y)).toBeNull();
    expect(edgesAt(shown, scale, left - 40, middle.y)).toBeNull();
  });

  test('by the sun its hours lie where the clock shows them on the day under the pointer', () => {
    const window = { from: '2026-03-01', to: '2026-06-30', startMinutes: 480, endMinutes: 1080 };
    // An hour ahead from the 29th of March on.
    const shown = { window, isSolar: true, lateness: (column: number) => (column < 87 ? 0 : 60) };
    const [before, after] = [scale.x(70), scale.x(120)];
    expect(edgesAt(shown, scale, before, scale.y(480))).toEqual({ top: true });
    expect(edgesAt(shown, scale, after, scale.y(480))).toBeNull();
    expect(edgesAt(shown, scale, after, scale.y(540))).toEqual({ top: true });
  });
});

describe('words', () => {
  test('dates', () => {
    expect(longDate('2026-03-01')).toBe('1 March 2026');
    expect(shortDate('2026-12-21')).toBe('21 Dec');
    expect(dateOfColumn(2028, 59)).toBe('2028-02-29');
  });

  test('what the clocks do', () => {
    expect(zoneInWords(Date.UTC(2026, 6, 1), LONDON)).toBe('UTC+1, summer time');
    expect(zoneInWords(Date.UTC(2026, 0, 1), LONDON)).toBe('UTC+0, standard time');
    expect(zoneInWords(Date.UTC(2026, 0, 1), 'America/Santiago')).toBe('UTC−3, summer time');
    expect(zoneInWords(Date.UTC(2026, 0, 1), 'Asia/Kathmandu')).toBe('UTC+5:45');
  });

  test('the length of a day', () => {
    const place = kelpLane().site.place;
    expect(dayInWords(sunDay('2026-06-21', place, LONDON), LONDON)).toBe('04:31 – 22:07, 17 h 35 min');
    const north = { latitudeDeg: 78, longitudeDeg: 15, elevationM: 0 };
    expect(dayInWords(sunDay('2026-06-21', north, 'Europe/Oslo'), 'Europe/Oslo')).toBe(
      'The sun does not set.',
    );
    expect(dayInWords(sunDay('2026-12-21', north, 'Europe/Oslo'), 'Europe/Oslo')).toBe(
      'The sun does not rise.',
    );
  });
});

describe('the moment', () => {
  beforeEach(() => openProject('p', 1, kelpLane()));

  test('goes through an address', () => {
    expect(momentText('2026-03-21', 545)).toBe('2026-03-21T09:05');
    expect(momentFrom('2026-03-21T09:05')).toEqual({ date: '2026-03-21', minutes: 545 });
    for (const bad of [null, '', '2026-03-21', '2026-13-41T09:05', '2026-03-21T29:05'])
      expect(momentFrom(bad)).toBeNull();
  });

  test('rolls over midnight in both directions, through a clock change too', () => {
    setMoment('2026-03-21', 1450);
    expect(useView.getState()).toMatchObject({ date: '2026-03-22', minutes: 10 });
    setMoment('2026-03-21', -10);
    expect(useView.getState()).toMatchObject({ date: '2026-03-20', minutes: 1430 });
    setMoment('2026-12-31', 1450);
    expect(useView.getState()).toMatchObject({ date: '2026-01-01', minutes: 10 });
    setMoment('2026-03-28', 1440 * 2 + 720);
    expect(useView.getState()).toMatchObject({ date: '2026-03-30', minutes: 720 });
  });

  test('options stand in the order of their letters, Today last', () => {
    expect(optionsInOrder(kelpLane()).map((option) => option.letter)).toEqual(['A', 'B', 'C', 'T']);
  });
});

describe('colours', () => {
  test('the sun ramp rises evenly in lightness, so that it reads in grey', () => {
    const lightness = Array.from({ length: 21 }, (_, i) => lab(RAMPS.sun(i / 20)).l);
    const steps = lightness.slice(1).map((l, i) => l - lightness[i]!);
    expect(Math.min(...steps)).toBeGreaterThan(1.5);
    expect(Math.max(...steps) / Math.min(...steps)).toBeLessThan(3);
    expect(rampRgb(RAMPS.sun, 7)).toEqual(rampRgb(RAMPS.sun, 1));
  });

  test('white letters on the option hues have a contrast of at least 4.5 (WCAG 2, relative luminance)', () => {
    const part = (c: number) => (c / 255 <= 0.04045 ? c / 255 / 12.92 : ((c / 255 + 0.055) / 1.055) ** 2.4);
    for (const hue of OPTION_HUES) {
      const { r, g, b } = rgb(hue);
      const luminance = 0.2126 * part(r) + 0.7152 * part(g) + 0.0722 * part(b);
      expect({ hue, enough: 1.05 / (luminance + 0.05) >= 4.5 }).toEqual({ hue, enough: true });
    }
  });

  test('those who take the sun differ in lightness or hue from their neighbours in the list', () => {
    for (let i = 1; i < OBSTRUCTION_COLOURS.length; i++) {
      const a = lab(OBSTRUCTION_COLOURS[i]!);
      const b = lab(OBSTRUCTION_COLOURS[i - 1]!);
      expect(Math.hypot(a.l - b.l, a.a - b.a, a.b - b.b)).toBeGreaterThan(25);
    }
  });

  test('the almanac is darker by night than by day, and lighter the higher the sun', () => {
    const light = (altitude: number) => lab(rgb(...almanacTone(altitude))).l;
    expect(light(-40)).toBeLessThan(light(-2));
    expect(light(-2)).toBeLessThan(light(2));
    expect(light(2)).toBeLessThan(light(30));
    expect(light(30)).toBeLessThan(light(60));
  });

  test('scales end at round numbers not below the greatest value', () => {
    for (const [max, top] of [
      [0, 1],
      [7.3, 8],
      [10, 10],
      [10.2, 12],
      [1873, 2000],
      [0.4, 0.4],
    ] as const)
      expect(niceTop(max)).toBeCloseTo(top, 9);
  });
});

test('a project is looked at as at first: what was hidden, chosen or compared in another is not carried over', () => {
  const project = kelpLane();
  setView({
    optionId: 'today',
    hidden: new Set(['option:b:ring']),
    selection: { id: 'ring', optionId: 'b', layer: 'option', wallBearingDeg: null },
    hourSets: new Set(['warm']),
    shownMeasure: { 'garden-season': 'kWh' },
    before: 'today',
    almanacTone: 'dryBulb',
    live: true,
    theme: 'dark',
  });
  beginView(project);
  expect(useView.getState()).toMatchObject({
    optionId: 'a',
    date: '2026-03-21',
    minutes: 720,
    activeStudy: project.studies[0]!.id,
    selection: null,
    shownMeasure: {},
    before: null,
    almanacTone: 'sun',
    live: false,
    theme: 'dark',
  });
  expect(useView.getState().hidden.size + useView.getState().hourSets.size).toBe(0);
  setView({ theme: 'light' });
});
