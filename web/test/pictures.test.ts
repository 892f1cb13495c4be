import './browser-stand-in';
import { momentsOf, type Project } from '@dial-shade/core';
import { kelpLane, mesaBaja } from '@dial-shade/samples';
import { sheetLayout, sheetSvg } from '../src/pictures/contact-sheet';
import { type FilmCourse, filmMoments, mostFrames, viewAt, wrongFilmSize } from '../src/pictures/film-plan';
import { canWrite, openFilm } from '../src/pictures/film-writer';
import { histogramMarks } from '../src/pictures/histogram';
import { type Context2d, type Mark, paintMarks } from '../src/pictures/marks';
import {
  distinct,
  filmName,
  pictureName,
  type PictureView,
  scaleBarLength,
  slug,
  stripTexts,
  WHOLE,
  wrongSize,
} from '../src/pictures/picture';
import { pictureSet, sheetOf } from '../src/pictures/picture-set';
import { stripMarks } from '../src/pictures/strip';

const project = kelpLane();
const VIEW: PictureView = {
  optionId: 'b',
  date: '2026-12-21',
  minutes: 540,
  camera: { kind: 'sun', lookAt: [0, 0, 0], heightM: 50 },
  drawing: { tone: 'paper', ink: 1, shade: 0.5, sunPath: true, grid: true, ghost: false },
  viewpoint: 'South room',
  hidden: [],
  result: null,
  shade: null,
  rooms: null,
  rays: null,
  title: null,
  box: WHOLE,
};

test('a sheet as SVG: true to the layout in millimetres, pictures within, words escaped', async () => {
  const asked = {
    ...{
      title: 'A & B',
      rows: ['A Bar'],
      columns: ['June', 'May <late>'],
      picture: { width: 900, height: 570 },
    },
    cells: [0, 1].map((column) => ({
      picture: new Blob([Uint8Array.of(1, 2, 3)]),
      ...{ row: 0, column, ...(column === 1 && { caption: '12 %' }) },
    })),
  };
  const { width, height, cell } = sheetLayout(asked);
  const svg = await sheetSvg(asked);
  expect(svg).toContain(`viewBox="0 0 ${width} ${height}"`);
  expect(Number(/width="([\d.]+)mm"/.exec(svg)![1])).toBeCloseTo((width * 25.4) / 150, 0);
  expect(svg.match(/href="data:image\/png;base64,AQID"/g)).toHaveLength(2);
  expect(svg.match(new RegExp(`<image [^>]*width="${cell.width}"`, 'g'))).toHaveLength(2);
  expect(svg).toContain('A &amp; B');
  expect(svg).toContain('May &lt;late');
  expect(svg.match(/>12 %</g)).toHaveLength(1);
});

describe('names', () => {
  test('say project, option, viewpoint, date and time', () => {
    expect(pictureName(project, VIEW)).toBe('kelp-lane_B-court_south-room_2026-12-21_0900');
    expect(filmName(project, VIEW, 'day')).toBe('kelp-lane_B-court_south-room_2026-12-21_day');
    expect(filmName(project, VIEW, 'season')).toBe('kelp-lane_B-court_south-room_2026_0900_season');
  });

  test('hold nothing that a file system minds, and are never empty', () => {
    expect(slug('../a/b: "ç"?')).toBe('a-b-ç');
    expect(slug('☀')).toBe('x');
    expect(slug('x'.repeat(500))).toHaveLength(60);
  });

  test('are each there once', () => {
    expect(distinct(['a', 'b', 'a', 'a-2', 'a'])).toEqual(['a', 'b', 'a-2', 'a-2-2', 'a-3']);
  });
});

test('sizes outside of what can be drawn are answered in a sentence', () => {
  expect(wrongSize(64, 8192)).toBeNull();
  for (const [w, h] of [
    [63, 100],
    [100, 8193],
    [100.5, 100],
    [NaN, 100],
  ] as const)
    expect(wrongSize(w, h)).toContain('64 to 8192');
  expect(wrongFilmSize('gif', 1281, 801)).toBeNull();
  expect(wrongFilmSize('mp4', 1281, 800)).toContain('even');
  expect(wrongFilmSize('webm', 3842, 800)).toContain('3840');
});

describe('the strip', () => {
  test('says clock time with what the zone’s clocks do, and where the sun is', () => {
    const winter = stripTexts(project, [VIEW]);
    expect(winter[0]).toEqual(['Kelp Lane', '55.8700° N, 4.3200° W']);
    expect(winter[1]).toEqual(['B Court', 'South room']);
    expect(winter[2]![0]).toBe('21 December 2026, 09:00 (UTC+0, standard time)');
    expect(winter[2]![1]).toMatch(/^sun \d\.\d° high, azimuth 136\.\d° from true north$/);
    const summer = stripTexts(project, [{ ...VIEW, date: '2026-06-21' }]);
    expect(summer[2]![0]).toContain('UTC+1, summer time');
    const night = stripTexts(project, [{ ...VIEW, minutes: 60 }]);
    expect(night[2]![1]).toBe('the sun is below the horizon');
  });

  test('of several panes says only what they have in common', () => {
    const [, shown, when] = stripTexts(project, [VIEW, { ...VIEW, optionId: 'a', minutes: 600 }]);
    expect(shown).toEqual(['several options', '2 views']);
    expect(when![0]).toBe('several moments');
  });

  test('the scale bar has a round length that is as long as its pixels say', () => {
    expect([40, 100, 333, 5000].map(scaleBarLength)).toEqual([2, 10, 20, 500]);
    const marks = stripMarks(project, [VIEW], { width: 1000, metresPerPixel: 0.1, northUp: 0 });
    const bar = marks.filter((mark) => mark.kind === 'rect');
    expect(bar.reduce((sum, { width }) => sum + width, 0) * 0.1).toBeCloseTo(10, 9);
    expect(marks.some((mark) => mark.kind === 'text' && mark.text === '10 m')).toBe(true);
    const bare = stripMarks(project, [VIEW], { width: 1000, metresPerPixel: null, northUp: null });
    expect(bare.some((mark) => mark.kind === 'rect' || (mark.kind === 'text' && mark.text === 'N'))).toBe(
      false,
    );
  });

  test('north points the way that it is told', () => {
    const arrow = (northUp: number) =>
      stripMarks(project, [VIEW], { width: 1000, metresPerPixel: null, northUp }).find(
        (mark) => mark.kind === 'path' && mark.points.length === 2 && mark.strokeWidth === 1.2,
      ) as Extract<Mark, { kind: 'path' }>;
    const way = ({ points: [a, b] }: ReturnType<typeof arrow>) => [b![0] - a![0], b![1] - a![1]];
    expect(way(arrow(0))[1]).toBeLessThan(-20);
    expect(way(arrow(Math.PI / 2))[0]).toBeGreaterThan(20);
  });
});

describe('films', () => {
  const day = (date: string, everyMinutes: number): FilmCourse => ({ kind: 'day', date, everyMinutes });

  test('of a day run from sunrise to sunset, as the set of that day does', () => {
    const source = { kind: 'day', date: '2026-03-21', everyMinutes: 10, from: null, to: null } as const;
    const set = momentsOf({ id: 's', name: 'S', basis: 'clock', source }, project.site);
    const frames = filmMoments(day('2026-03-21', 10), project.site);
    expect(frames).toEqual(set.map(({ date, minutes }) => ({ date, minutes })));
  });

  test('of a season keep the time of day', () => {
    const course = {
      kind: 'season',
      from: '2026-01-01',
      to: '2026-12-31',
      minutes: 720,
      everyDays: 7,
    } as const;
    const frames = filmMoments(course, project.site);
    expect(frames).toHaveLength(53);
    expect(frames.at(-1)).toEqual({ date: '2026-12-31', minutes: 720 });
    expect(new Set(frames.map(({ minutes }) => minutes)).size).toBe(1);
  });

  test('that are too long, too dark or the wrong way round say so, with the most that goes', () => {
    expect(() => filmMoments(day('2026-03-21', 0.0073), project.site)).toThrow(
      /100,\d{3} frames.*2,000: take a step of 0\.37 min/,
    );
    expect(filmMoments(day('2026-03-21', 0.37), project.site).length).toBeLessThanOrEqual(2000);
    const arctic: Project['site'] = { ...project.site, place: { ...project.site.place, latitudeDeg: 78 } };
    expect(() => filmMoments(day('2026-12-21', 10), arctic)).toThrow('does not rise');
    expect(filmMoments(day('2026-06-21', 60), arctic)).toHaveLength(24);
    const season = {
      kind: 'season',
      from: '2026-02-01',
      to: '2026-01-01',
      minutes: 0,
      everyDays: 1,
    } as const;
    expect(() => filmMoments(season, project.site)).toThrow('ends before it begins');
  });

  test('show nothing that was measured at another moment; a pinned pane stays as it is', () => {
    const shade = { shaded: [], newly: [] };
    const rays = { stretches: [], strip: null };
    const rooms = { lit: [], ray: null, fan: [] };
    const view = { ...VIEW, shade, rays, rooms, isPinned: false };
    const moment = { date: '2026-06-21', minutes: 600 };
    expect(viewAt(view, moment)).toMatchObject({ ...moment, shade: null, rays: null, rooms: null });
    const pinned = { ...view, isPinned: true };
    expect(viewAt(pinned, moment)).toBe(pinned);
  });

  test('of more pixels have fewer frames', () => {
    expect(mostFrames('gif', 3840, 2160)).toBe(144);
    expect(mostFrames('mp4', 1280, 800)).toBe(2000);
  });
});

describe('sets', () => {
  const moments = [540, 720, 900].map((minutes) => ({ date: '2026-03-21', minutes }));
  const from = ['South', 'Roof'].map((name) => ({
    name,
    camera: VIEW.camera,
    drawing: VIEW.drawing,
    hidden: [],
  }));
  const set = pictureSet(['a', 'b'], from, moments);
  const made = set.map((one) => ({ ...one, picture: new Blob() }));
  const style = { width: 1600, height: 1000, paper: 'white', strip: true } as const;

  test('hold every option from every viewpoint at every moment once, under names of their own', () => {
    expect(set).toHaveLength(12);
    expect(new Set(set.map(({ view }) => pictureName(project, view))).size).toBe(12);
  });

  test('go onto a sheet with one dimension along and the others down', () => {
    const sheet = sheetOf(project, made, 'moment', style);
    expect(sheet.columns).toEqual(['09:00', '12:00', '15:00'].map((at) => `21 March 2026, ${at}`));
    expect(sheet.rows).toEqual(['A Bar, South', 'A Bar, Roof', 'B Court, South', 'B Court, Roof']);
    expect(new Set(sheet.cells.map(({ row, column }) => `${row}/${column}`)).size).toBe(12);
    expect(sheetOf(project, made, 'option', style).columns).toEqual(['A Bar', 'B Court']);
  });

  test('a sheet that was stopped early has what there is, and no sheet is larger than a picture may be', () => {
    expect(sheetOf(project, made.slice(0, 4), 'moment', style).rows).toHaveLength(2);
    for (const [rows, columns] of [
      [1, 1],
      [3, 12],
      [40, 50],
      [1, 400],
    ] as const) {
      const names = (n: number) => Array.from({ length: n }, (_, i) => String(i));
      const layout = sheetLayout({
        title: '',
        rows: names(rows),
        columns: names(columns),
        cells: [],
        picture: style,
      });
      expect(Math.max(layout.width, layout.height)).toBeLessThan(columns === 400 ? 9000 : 8400);
      expect(layout.cell.height / layout.cell.width).toBeCloseTo(0.625, 1);
    }
  });
});

test('the histogram has all the area of a result, and its figures are those of the scale', () => {
  const hours = Float64Array.from([0, 1, 2, 7.9, 8, NaN]);
  const areas = Float64Array.from([1, 2, 3, 4, 5, 6]);
  const result = {
    summary: { kind: 'sun-hours' },
    grid: { areas },
    values: { hours },
  } as unknown as Parameters<typeof histogramMarks>[0];
  const marks = histogramMarks(result, { min: 0, max: 8, ramp: 'sun' as const }, '#000');
  const area = marks.reduce(
    (sum, mark) => sum + (mark.kind === 'rect' && mark.title ? parseFloat(mark.title) : 0),
    0,
  );
  expect(area).toBeCloseTo(15, 9);
  expect(marks.flatMap((mark) => (mark.kind === 'text' ? [mark.text] : []))).toEqual([
    '0.0',
    '2.0',
    '4.0',
    '6.0',
    '8.0',
  ]);
});

test('marks are painted where they are told, each with its own paint', () => {
  const calls: string[] = [];
  const context = new Proxy({} as Record<string, unknown>, {
    get: (own, key: string) => own[key] ?? ((...args: unknown[]) => calls.push(`${key}(${args.join()})`)),
    set(own, key: string, value) {
      own[key] = value;
      calls.push(`${key}=${String(value)}`);
      return true;
    },
  }) as unknown as Context2d;
  const marks: Mark[] = [
    { kind: 'rect', x: 1, y: 2, width: 3, height: 4, fill: 'red' },
    {
      kind: 'path',
      points: [
        [0, 0],
        [5, 5],
      ],
      stroke: 'blue',
      strokeWidth: 2,
    },
    { kind: 'text', x: 7, y: 8, text: 'N', size: 11, fill: 'black', anchor: 'middle' },
  ];
  paintMarks(context, marks, 10, 20, 2);
  expect(calls).toEqual(
    expect.arrayContaining([
      'translate(10,20)',
      'scale(2,2)',
      'rect(1,2,3,4)',
      'fillStyle=red',
      'lineTo(5,5)',
      'strokeStyle=blue',
      'lineWidth=2',
      'textAlign=center',
      'fillText(N,7,8)',
    ]),
  );
  expect(calls.filter((call) => call === 'stroke()')).toHaveLength(1);
});

test('a sample in another zone says its own clock', () => {
  const south = mesaBaja();
  const [, , when] = stripTexts(south, [{ ...VIEW, optionId: south.options[0]!.id }]);
  expect(when![0]).toMatch(/^21 December 2026, 09:00 \(UTC/);
});

test('a browser without video encoders still writes GIF, and says of the others that it cannot', async () => {
  expect(await canWrite('gif', 100, 100)).toBe(true);
  expect(await canWrite('mp4', 100, 100)).toBe(false);
  expect(await canWrite('webm', 100, 100)).toBe(false);
  await expect(openFilm({ width: 100, height: 100 } as OffscreenCanvas, 'webm', 10)).rejects.toThrow(
    'cannot write webm',
  );
});
