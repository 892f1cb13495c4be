import {
  DEFAULT_REFLECTANCES,
  type Device,
  emptyProject,
  type Ground,
  type Mass,
  massLevels,
  type Neighbour,
  type Opening,
  type Project,
  roofFaces,
  type Scheme,
  todayOption,
} from '@dial-shade/core';
import { box, building, lights, mass } from './drawing';
import { sampleWeather } from './sample-weather';

/** The table land falls a little towards the river in the west. */
const GROUND: Ground = { kind: 'plane', levelM: 480, slopeDeg: 1, fallsTowardsDeg: 262 };

/** Drawing north is not quite true north: the old streets were laid out by a compass. */
const TRUE_NORTH_DEG = 352;

function pepperTree(id: string, name: string, at: [number, number], heightM: number): Neighbour {
  return {
    kind: 'tree',
    id,
    name,
    at,
    heightM,
    crownM: heightM * 0.8,
    clearM: 2.4,
    crown: 'round',
    leafOpenness: 0.25,
    bareOpenness: 0.25,
    leafFrom: '10-01',
    leafUntil: '05-15',
    demolished: false,
  };
}

/** An arcade: shops stand back under the flats above. */
function arcade(): Neighbour[] {
  return [0, 1, 2, 3].flatMap((i) => {
    const x = -26 + i * 13;
    const shops = building(`shops-${i + 1}`, `Arcade shops ${i + 1}`, box(x, -46, 13, 9), [3.9]);
    const flats = mass(`flats-${i + 1}`, `Flats over the arcade ${i + 1}`, box(x, -46, 13, 12), [3, 3], {
      kind: 'mono',
      riseM: 1.4,
      fallsTowardsDeg: 180,
    });
    const levelM = Number(massLevels(mass('s', 'S', box(x, -46, 13, 9), [3.9]), GROUND).eavesM.toFixed(3));
    return [shops, { kind: 'building' as const, ...flats, base: { on: 'level' as const, levelM } }];
  });
}

function neighbours(): Neighbour[] {
  return [
    ...arcade(),
    building('school', 'School', box(40, -44, 12, 30), [3.6, 3.4], { kind: 'hip', pitchDeg: 24 }),
    building('granary', 'Granary', box(-46, 8, 12, 20), [4.2, 3.8, 3.8], { kind: 'gable', riseM: 3.4 }),
    building('smithy', 'Smithy', box(-44, -16, 9, 12), [4], {
      kind: 'mono',
      riseM: 1.6,
      fallsTowardsDeg: 270,
    }),
    building('houses-east', 'Row in the east', box(42, 4, 10, 26), [3.2, 3], { kind: 'flat', parapetM: 0.5 }),
    building('tank', 'Water tank', box(32, 44, 7, 7), [4, 4, 4, 3], { kind: 'pyramid', riseM: 2 }),
    building('bakery', 'Bakery', box(-24, 44, 16, 9), [3.6, 3], { kind: 'gable', riseM: 2.6 }),
    {
      kind: 'wall',
      id: 'school-wall',
      name: 'School wall',
      path: [
        [39, -13],
        [56, -13],
        [56, -44],
      ],
      heightM: 2.2,
      thicknessM: 0.4,
      demolished: false,
    },
    pepperTree('pepper-1', 'Pepper tree by the well', [-18, -22], 9),
    pepperTree('pepper-2', 'Pepper tree on the square', [14, -24], 8),
    pepperTree('pepper-3', 'Pepper tree at the school', [36, -22], 10),
  ];
}

/** Glass in every upright face of a sawtooth roof, 40 cm from its edges. */
function toothLights(hall: Mass): Opening[] {
  return roofFaces(hall, GROUND)
    .filter(({ normal, heightM, lengthM }) => Math.abs(normal[2]) < 1e-6 && heightM > 1.5 && lengthM > 4)
    .map(({ host, lengthM, heightM }, i) => ({
      id: `${hall.id}-tooth-${i + 1}`,
      name: `Tooth light ${i + 1}`,
      host,
      outline: { kind: 'rectangle', u: 0.4, v: 0.4, widthM: lengthM - 0.8, heightM: heightM - 0.8 },
      kind: 'window',
      glazing: 'double',
      revealM: 0.05,
      openable: false,
      grid: { columns: 8, rows: 1, barM: 0.08 },
    }));
}

function hall(id: string, name: string, facesDeg: number): Mass {
  const plain = mass(id, name, box(-24, 0, 48, 32), [6.4], {
    kind: 'sawtooth',
    riseM: 3.6,
    teeth: 5,
    facesDeg,
  });
  return {
    ...plain,
    openings: toothLights(plain),
    furniture: [0, 1, 2, 3, 4, 5].map((i) => ({
      id: `${id}-stalls-${i + 1}`,
      name: `Stalls ${i + 1}`,
      storey: 0,
      at: [-18 + i * 7, 16] as [number, number],
      widthM: 2.4,
      depthM: 20,
      heightM: 1,
      turnDeg: 0,
    })),
  };
}

/** Gates on every side of a hall. */
const gates = (id: string) =>
  lights(id, 'Gates', {}, { by: 'door', widthM: 4, heightM: 3.6, jambM: 1, opaque: true });

/** What may shade the bays of the stalls that look north, where the sun stands; none stands at first. */
const STALL_SCHEMES: Scheme[] = [
  {
    id: 'stall-roofs',
    name: 'Stall roofs',
    devices: [
      stallDevice('stall-roof', 'Roof on posts', {
        kind: 'canopy',
        depthM: 2.4,
        aboveM: 0.2,
        sideM: 0,
        thicknessM: 0.1,
        tiltDeg: 6,
        postM: 0.12,
        downM: 0.6,
      }),
    ],
  },
  {
    id: 'slatted',
    name: 'Slatted overhangs',
    devices: [
      stallDevice('slats', 'Slatted overhang', {
        kind: 'overhang',
        depthM: 1.6,
        aboveM: 0.2,
        sideM: 0.4,
        thicknessM: 0.03,
        tiltDeg: 0,
        slats: { slatM: 0.14, spacingM: 0.2, turnDeg: -35 },
      }),
    ],
  },
  {
    id: 'screens',
    name: 'Screens',
    devices: [
      stallDevice('screen', 'Perforated screen', {
        kind: 'screen',
        openness: 0.35,
        holeDepth: 0.5,
        offM: 0.3,
        aroundM: 0.1,
      }),
    ],
  },
];

function stallDevice(id: string, name: string, make: Device['make']): Device {
  const scope: Device['scope'] = { owners: null, sectors: ['north'], storeys: null };
  return { id, name, scope, openings: null, make };
}

const PLACE = {
  name: 'Mesa Baja',
  latitudeDeg: -33.1,
  longitudeDeg: -70.9,
  elevationM: 480,
  zone: 'America/Santiago',
  confirmed: true,
};

/** Mesa Baja: a market hall under a deep sawtooth roof in an invented town where the sun stands in the north. */
export function mesaBaja(): Project {
  const project = emptyProject('Mesa Baja', 2026);
  const patio = mass('patio', 'Hall round a patio', box(-24, 0, 48, 32), [6.4], {
    kind: 'flat',
    parapetM: 0.8,
  });
  patio.footprint.holes = [box(-10, 9, 20, 14).map(([x, y]) => [x, y])];
  const option = { models: [], note: '' };
  return {
    ...project,
    note: 'A made-up site. The market square lies on the pole side of the hall and must keep its winter sun.',
    site: {
      place: { ...PLACE },
      north: { trueNorthDeg: TRUE_NORTH_DEG, confirmed: true },
      year: 2026,
      boundary: box(-27, -3, 54, 38).map(([x, y]) => [x, y]),
      ground: GROUND,
      albedo: 0.2,
      thrownBack: 'traced',
      reflectances: DEFAULT_REFLECTANCES,
      survey: null,
      weather: sampleWeather(PLACE, -4, 11),
    },
    neighbours: neighbours(),
    neighbourRules: [
      lights(
        'arcade-windows',
        'Windows over the arcade',
        { owners: [1, 2, 3, 4].map((i) => `flats-${i}`), sectors: ['north'] },
        { by: 'size', widthM: 1.1, heightM: 1.6, spacingM: 2.6, sillM: 0.7, jambM: 0.7 },
      ),
      lights(
        'school-windows',
        'School windows',
        { owners: ['school'], sectors: ['west'] },
        { by: 'ratio', ratio: 0.35, sillM: 0.9, headM: 2.8, jambM: 0.4, bayM: 3.6 },
      ),
    ],
    options: [
      todayOption([
        {
          ...mass('sheds', 'Old market sheds', box(-20, 4, 30, 18), [4.2], { kind: 'gable', riseM: 2 }),
          demolished: true,
        },
      ]),
      {
        ...option,
        id: 'a',
        name: 'Pole light',
        letter: 'A',
        hue: 0,
        schemes: [],
        scheme: null,
        note: 'Teeth look south, away from the sun: even light, no glare.',
        masses: [hall('hall-a', 'Market hall', 180)],
        rules: [gates('gates-a')],
      },
      {
        ...option,
        id: 'b',
        name: 'Sun light',
        letter: 'B',
        hue: 1,
        schemes: [],
        scheme: null,
        note: 'Teeth look north: winter sun on the stalls, and glare.',
        masses: [hall('hall-b', 'Market hall', 0)],
        rules: [gates('gates-b')],
      },
      {
        ...option,
        id: 'c',
        name: 'Patio',
        letter: 'C',
        hue: 2,
        schemes: STALL_SCHEMES,
        scheme: null,
        note: 'A flat roof round an open patio.',
        masses: [patio],
        rules: [
          lights(
            'bays',
            'Bays to the patio and the streets',
            {},
            { by: 'ratio', ratio: 0.45, sillM: 0.6, headM: 5.4, jambM: 0.6, bayM: 4 },
          ),
        ],
      },
    ],
    areas: [
      {
        id: 'schoolyard',
        name: 'School yard',
        use: 'play',
        outline: box(52.5, -43, 3, 29).map(([x, y]) => [x, y]),
        on: { kind: 'ground' },
      },
    ],
    targets: [
      {
        id: 'square',
        name: 'Market square',
        kind: 'ground',
        outline: box(-26, -33, 60, 29).map(([x, y]) => [x, y]),
        spacingM: 1,
        offsetM: 0.1,
      },
    ],
    studies: [
      {
        id: 'square-midwinter',
        name: 'Square at midwinter',
        kind: 'sun-hours',
        targets: ['square'],
        window: { from: '2026-06-21', to: '2026-06-21', startMinutes: 0, endMinutes: 1440 },
        stepMinutes: 10,
        criterion: {
          atLeast: 4,
          share: 0.6,
          source: 'Made-up brief: 4 h of sun on 21 June over three fifths of the square',
        },
        scale: null,
      },
    ],
    probes: [],
    viewpoints: [],
    momentSets: [],
    hourSets: [
      {
        id: 'too-hot',
        name: 'Too hot',
        use: 'unwanted',
        source: { by: 'temperature', above: true, atC: 26 },
      },
      {
        id: 'chilly',
        name: 'Chilly',
        use: 'wanted',
        source: { by: 'temperature', above: false, atC: 12 },
      },
    ],
  };
}
