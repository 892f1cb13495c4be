import type { Ring } from '../geometry';
import { DEFAULT_CRITERIA } from './criteria';
import { DEFAULT_GLAZINGS } from './glazings';
import { DEFAULT_REFLECTANCES } from './reflectances';
import { NO_COMPARISON } from './comparison';
import { TODAY } from './constants';
import type { Project } from './schema';
import type { Mass, Option } from './schema/form-schema';
import { CURRENT_VERSION } from './versions';

/** A project with nothing in it: level ground at Greenwich, place and north unconfirmed, only Today. */
export function emptyProject(name: string, year: number): Project {
  return {
    format: 'dial-shade-project',
    version: CURRENT_VERSION,
    name,
    note: '',
    units: 'metric',
    site: {
      place: {
        name: '',
        latitudeDeg: 51.48,
        longitudeDeg: 0,
        elevationM: 20,
        zone: 'Europe/London',
        confirmed: false,
      },
      north: { trueNorthDeg: 0, confirmed: false },
      year,
      boundary: null,
      survey: null,
      ground: { kind: 'level', levelM: 0 },
      albedo: 0.2,
      thrownBack: 'traced',
      reflectances: DEFAULT_REFLECTANCES,
      weather: null,
    },
    neighbours: [],
    neighbourRules: [],
    glazings: DEFAULT_GLAZINGS,
    areas: [],
    options: [
      todayOption(),
      {
        id: 'a',
        name: 'First',
        letter: 'A',
        hue: 0,
        note: '',
        masses: [],
        models: [],
        rules: [],
        schemes: [],
        scheme: null,
      },
    ],
    targets: [],
    criteria: DEFAULT_CRITERIA,
    studies: [],
    probes: [],
    viewpoints: [],
    momentSets: [],
    hourSets: [],
    envelopes: [],
    sources: [],
    underlays: [],
    comparison: NO_COMPARISON,
  };
}

/** The option that is the site as it stands, empty. */
export function todayOption(masses: Mass[] = []): Option {
  return {
    id: TODAY,
    name: 'Today',
    letter: 'T',
    hue: 7,
    note: '',
    masses,
    models: [],
    rules: [],
    schemes: [],
    scheme: null,
  };
}

/** A mass on the ground with equal storeys and a flat roof. */
export function defaultMass(id: string, name: string, outer: Ring, storeys: number, heightM = 3): Mass {
  return {
    id,
    name,
    footprint: { outer: outer.map(([x, y]) => [x, y]), holes: [] },
    base: { on: 'ground', offsetM: 0 },
    storeys: Array.from({ length: storeys }, () => ({ heightM })),
    roof: { kind: 'flat', parapetM: 0 },
    openings: [],
    partitions: [],
    rooms: [],
    furniture: [],
    demolished: false,
  };
}
