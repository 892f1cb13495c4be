// What a document may name, and how much of it: apart from the schemas, so that those who only read a document need none.

/** Id of the option that is the site as it stands. */
export const TODAY = 'today';

/** Neighbours that a project may have. */
export const MAX_NEIGHBOURS = 5000;

/** Masses that an option may have. */
export const MAX_MASSES = 500;

/** Points that a terrain may have. */
export const MAX_TERRAIN_POINTS = 10_000;

/** Pixels that a side of a picture may have. */
export const MAX_PICTURE_SIDE = 8192;

/** Bytes that a picture on the ground may have. */
export const MAX_UNDERLAY_BYTES = 32 * 1_048_576;

/** Pictures that may lie on the ground of a project. */
export const MAX_UNDERLAYS = 20;

/** Furthest a coordinate may lie from the project origin, metres. */
export const MAX_COORDINATE_M = 100_000;

/** Towards where a facade faces. */
export const SECTORS = ['north', 'east', 'south', 'west'] as const;

/** What an area of the site is used for. */
export const AREA_USES = ['garden', 'courtyard', 'play', 'allotment', 'terrace', 'room', 'other'] as const;

/** What a study may measure. */
export const STUDY_KIND_KEYS = [
  'sun-hours',
  'shadow-frequency',
  'sun-on-ground',
  'room-exposure',
  'vsc',
  'sky-view',
  'insolation',
  'probable-sun',
  'solar-gain',
] as const;

/** Fields of a weather year, in the order in which they are written. */
export const WEATHER_KEYS = [
  'dryBulb',
  'dewPoint',
  'humidity',
  'pressure',
  'global',
  'beam',
  'diffuse',
  'windDirection',
  'windSpeed',
  'cloud',
] as const;

/** What a part of a file that is brought in may become. */
export const BECOMES = [
  'neighbour',
  'today',
  'option',
  'device',
  'terrain',
  'target',
  'area',
  'rooms',
  'boundary',
  'leave',
] as const;
export type Becomes = (typeof BECOMES)[number];
