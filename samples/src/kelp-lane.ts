import { BAR_SCHEMES } from './kelp-lane-devices';
import {
  DEFAULT_DRAWING,
  DEFAULT_REFLECTANCES,
  emptyProject,
  massLevels,
  type Mass,
  type Neighbour,
  type Point2,
  type Project,
  todayOption,
  SEASON_MARKS,
} from '@dial-shade/core';
import { box, building, lights, mass } from './drawing';
import { gardenOutline, GROUND } from './kelp-lane-site';
import { studies, targets } from './kelp-lane-studies';
import { sampleWeather } from './sample-weather';

function terrace(): Neighbour[] {
  const houses: Neighbour[] = [];
  const walls: Neighbour[] = [];
  for (let i = 0; i < 5; i++) {
    const x = i * 7.4;
    houses.push(
      building(`terrace-${i + 1}`, `Terrace house ${i + 1}`, box(x, 36, 7.4, 7), [2.9, 2.7], {
        kind: 'gable',
        riseM: 2.4,
      }),
    );
    if (i > 0) walls.push(building(`yard-wall-${i}`, `Yard wall ${i}`, box(x - 0.1, 28.2, 0.2, 7.8), [1.8]));
  }
  walls.push(building('back-wall', 'Back wall', box(0, 28, 37, 0.2), [1.9]));
  return [...houses, ...walls];
}

function tree(id: string, name: string, at: [number, number], heightM: number, crownM: number): Neighbour {
  return {
    kind: 'tree',
    id,
    name,
    at,
    heightM,
    crownM,
    clearM: heightM * 0.28,
    crown: 'round',
    leafOpenness: 0.2,
    bareOpenness: 0.62,
    leafFrom: '04-25',
    leafUntil: '10-28',
    demolished: false,
  };
}

function neighbours(): Neighbour[] {
  return [
    ...terrace(),
    tree('rowan', 'Rowan at the gate', [-2.5, 24.5], 7, 5),
    tree('lime', 'Lime in the lane', [42, 3], 11, 7.5),
    {
      kind: 'fence',
      id: 'allotment-fence',
      name: 'Allotment fence',
      path: [
        [-29, 14],
        [-4, 14],
        [-4, 41],
      ],
      heightM: 1.3,
      openness: 0.45,
      demolished: false,
    },
    building('chapel-nave', 'Chapel nave', box(47, -38, 11, 22), [7.5], { kind: 'gable', riseM: 5.5 }),
    building('chapel-tower', 'Chapel tower', box(49.5, -16, 6, 6), [6, 5.5, 5.5], {
      kind: 'pyramid',
      riseM: 8,
    }),
    building('harbour-house', 'Harbour house', box(-2, -30, 13, 10), [3.4, 3, 2.8], {
      kind: 'pyramid',
      riseM: 3.2,
    }),
    building('net-loft', 'Net loft', box(17, -31, 16, 11), [3.6, 3.2], { kind: 'gable', riseM: 3 }),
    building('rope-store', 'Rope store', box(-31, -12, 12, 18), [4.2], { kind: 'flat', parapetM: 0.6 }),
    building('allotment-shed', 'Allotment shed', box(-29, 38.5, 4, 3), [2.2]),
    building('lane-house', 'Lane house', box(46, 10, 10, 9), [2.9, 2.7, 2.7], {
      kind: 'pyramid',
      riseM: 2.6,
    }),
    building('corner-shop', 'Corner shop', box(46, 24, 12, 10), [3.4, 2.8], { kind: 'flat', parapetM: 0.5 }),
  ];
}

function stepped(): Mass[] {
  const podium = mass('podium', 'Clinic podium', box(2, 2, 34, 22), [3.8]);
  const atop = (below: Mass, id: string, name: string, outer: Point2[], heights: number[]): Mass => ({
    ...mass(id, name, outer, heights),
    base: { on: 'level', levelM: Number(massLevels(below, GROUND).eavesM.toFixed(3)) },
  });
  const middle = atop(podium, 'middle', 'Middle step', box(6, 2, 30, 16), [3.1, 3.1]);
  const top = atop(middle, 'top', 'Top step', box(14, 2, 22, 10), [3.1, 3.1]);
  return [podium, middle, top];
}

const bar = (): Mass =>
  mass('bar', 'Bar', box(2, 4, 34, 12), [3.8, 3.1, 3.1, 3.1, 3.1], { kind: 'flat', parapetM: 0.9 });

/** The clinic on the ground floor: treatment rooms to the south-west, a waiting room two storeys high at the east end. */
function clinic(shell: Mass): Mass {
  const wall = (id: string, storey: number, ...path: [number, number][]) => ({ id, storey, path });
  const bench = (id: string, at: [number, number], widthM: number, depthM: number, heightM: number) => ({
    id,
    name: id[0]!.toUpperCase() + id.slice(1).replace('-', ' '),
    storey: 0,
    at,
    widthM,
    depthM,
    heightM,
    turnDeg: 0,
  });
  const rooms = [5, 11, 17, 23].map((x, i) => ({
    id: `treatment-${i + 1}`,
    name: `Treatment room ${i + 1}`,
    storey: 0,
    at: [x, 7] as [number, number],
    doubleHeight: false,
  }));
  return {
    ...shell,
    partitions: [
      wall('corridor', 0, [2, 10], [26, 10]),
      ...[8, 14, 20].map((x, i) => wall(`between-${i + 1}`, 0, [x, 4], [x, 10])),
      wall('waiting-wall', 0, [26, 4], [26, 16]),
      wall('gallery-wall', 1, [26, 4], [26, 16]),
    ],
    rooms: [
      ...rooms,
      { id: 'offices', name: 'Offices', storey: 0, at: [14, 13], doubleHeight: false },
      { id: 'waiting', name: 'Waiting room', storey: 0, at: [31, 10], doubleHeight: true },
    ],
    furniture: [
      ...rooms.map(({ at: [x] }, i) => bench(`desk-${i + 1}`, [x, 5.4], 1.6, 0.8, 0.74)),
      bench('reception', [32.5, 14], 3.2, 0.8, 1.05),
      bench('bench-1', [29.5, 6.6], 3.6, 0.5, 0.45),
      bench('bench-2', [29.5, 9.2], 3.6, 0.5, 0.45),
    ],
  };
}

/** From the door of the waiting room towards its high windows. */
function waitingRoomView(): Project['viewpoints'][number] {
  const floorM = massLevels(bar(), GROUND).floorM;
  return {
    id: 'waiting-room',
    name: 'Waiting room',
    camera: {
      kind: 'eye',
      at: [27, 14.8, Number((floorM + 1.6).toFixed(3))],
      bearingDeg: 152,
      pitchDeg: 4,
      fovDeg: 75,
    },
    drawing: { ...DEFAULT_DRAWING, sunPath: false },
    hidden: [],
  };
}

const PLACE = {
  name: 'Orrin Bay',
  latitudeDeg: 55.87,
  longitudeDeg: -4.32,
  elevationM: 12,
  zone: 'Europe/London',
  confirmed: true,
};

/** Kelp Lane: a small clinic with flats above, on a sloping corner plot in the invented harbour town of Orrin Bay. */
export function kelpLane(): Project {
  const project = emptyProject('Kelp Lane', 2026);
  const court = mass('ring', 'Court ring', box(2, 2, 34, 23), [3.8, 3.1, 3.1], {
    kind: 'flat',
    parapetM: 0.9,
  });
  court.footprint.holes = [box(12, 9, 14, 9).map(([x, y]) => [x, y])];
  return {
    ...project,
    note: 'A made-up site. A small health clinic with flats above; the allotment garden must keep its sun.',
    site: {
      place: { ...PLACE },
      north: { trueNorthDeg: 14, confirmed: true },
      year: 2026,
      boundary: box(0, 0, 38, 27).map(([x, y]) => [x, y]),
      ground: GROUND,
      albedo: 0.2,
      thrownBack: 'traced',
      reflectances: DEFAULT_REFLECTANCES,
      survey: null,
      weather: sampleWeather(PLACE, 0, 7),
    },
    neighbours: neighbours(),
    options: [
      todayOption([
        {
          ...mass('depot', 'Old depot', box(4, 6, 24, 12), [4.6], { kind: 'gable', riseM: 2.2 }),
          demolished: true,
        },
        mass('kiosk', 'Transformer kiosk', box(32.5, 25, 3, 2), [2.6]),
      ]),
      {
        id: 'a',
        name: 'Bar',
        letter: 'A',
        hue: 0,
        schemes: BAR_SCHEMES,
        scheme: null,
        note: 'One bar along the lane.',
        models: [],
        rules: [
          lights(
            'treatment',
            'Treatment rooms',
            { sectors: ['south', 'west'], storeys: [0] },
            { by: 'ratio', ratio: 0.4, sillM: 0.9, headM: 3, jambM: 0.3, bayM: 3.4 },
          ),
          lights(
            'flats',
            'Flats',
            { storeys: [1, 2, 3, 4] },
            { by: 'size', widthM: 1.5, heightM: 1.6, spacingM: 3.4, sillM: 0.8, jambM: 0.8 },
          ),
        ],
        masses: [clinic(bar())],
      },
      {
        id: 'b',
        name: 'Court',
        letter: 'B',
        hue: 1,
        schemes: [],
        scheme: null,
        note: 'A low ring round a court.',
        masses: [court],
        models: [],
        rules: [],
      },
      {
        id: 'c',
        name: 'Stepped',
        letter: 'C',
        hue: 2,
        schemes: [],
        scheme: null,
        note: 'Steps down towards the garden.',
        masses: stepped(),
        models: [],
        rules: [],
      },
    ],
    neighbourRules: [
      {
        ...lights(
          'terrace-windows',
          'Terrace windows',
          { owners: [1, 2, 3, 4, 5].map((i) => `terrace-${i}`), sectors: ['south'] },
          { by: 'size', widthM: 1.1, heightM: 1.3, spacingM: 2.6, sillM: 0.9, jambM: 0.6 },
        ),
        glazing: 'single',
      },
    ],
    areas: [
      {
        id: 'play',
        name: 'Play corner',
        use: 'play',
        outline: box(29, 19, 7, 6).map(([x, y]) => [x, y]),
        on: { kind: 'ground' },
      },
      {
        id: 'allotments',
        name: 'Allotment garden',
        use: 'allotment',
        outline: gardenOutline(),
        on: { kind: 'ground' },
      },
      {
        id: 'yards',
        name: 'Terrace courtyards',
        use: 'courtyard',
        outline: box(0, 28.2, 37, 7.8).map(([x, y]) => [x, y]),
        on: { kind: 'ground' },
      },
    ],
    envelopes: [
      {
        id: 'gardens',
        name: 'Sun on gardens and courtyards',
        keep: [
          {
            on: 'area',
            id: 'allotments',
            option: null,
            basis: 'clock',
            windows: [{ from: '2026-03-01', to: '2026-09-30', startMinutes: 600, endMinutes: 900 }],
          },
          {
            on: 'area',
            id: 'yards',
            option: null,
            basis: 'clock',
            windows: [{ from: '2026-03-21', to: '2026-03-21', startMinutes: 600, endMinutes: 900 }],
          },
        ],
        build: null,
        setbacksM: [3],
        noBuild: [],
        limit: { over: 'ground', heightM: 30 },
        slope: null,
        lost: 'keep',
        storeyM: 3.2,
        spacingM: 1,
      },
    ],
    comparison: {
      measures: [
        ...['floor', 'height', 'study/courtyards-march/share', 'study/garden-season/share'],
        ...['study/windows-sky/takes', 'envelope/gardens/over'],
      ],
      options: null,
      rooms: 'new',
      against: 'today',
    },
    targets: targets(),
    studies: studies(),
    probes: [],
    viewpoints: [waitingRoomView()],
    momentSets: [
      {
        id: 'seasons',
        name: 'Solstices and equinoxes',
        basis: 'clock',
        source: { kind: 'seasons', marks: [...SEASON_MARKS], times: [540, 720, 900] },
      },
      {
        id: 'brief-day',
        name: '21 March, hour by hour',
        basis: 'clock',
        source: { kind: 'day', date: '2026-03-21', everyMinutes: 60, from: null, to: null },
      },
    ],
    hourSets: [
      {
        id: 'too-warm',
        name: 'Too warm',
        use: 'unwanted',
        source: { by: 'temperature', above: true, atC: 18 },
      },
      {
        id: 'too-cold',
        name: 'Too cold',
        use: 'wanted',
        source: { by: 'temperature', above: false, atC: 8 },
      },
    ],
  };
}
