import { formatClock, MONTH_NAMES } from '../../civil';
import type { Method } from '../../method';
import type { Project, Study, WindowOfTime } from '../../project';
import { maskWords } from '../../trace';
import type { WeatherYear } from '../../weather';
import type { FlatTarget } from '../flat-target';
import type { RaysAsked, ThrownBack } from '../reflected-light';
import type { SensorGrid } from '../sensor-grid';

/** Values at each sensor by the key of their measure, in the order of the grid; NaN where there is none. */
export type StudyValues = Record<string, Float32Array>;

/** One figure that a kind of study gives at every sensor. Values, columns, legends and tables follow from it. */
export interface Measure {
  key: string;
  /** As it is read in a legend and at the head of a column. */
  label: string;
  unit: string;
  /** Head of its column in `sensors.csv`. */
  heading: string;
  /** Digits after the point where it is shown; the CSV has four. */
  digits: number;
  /** Read as a time of the clock, of minutes since midnight; or as an hour, of month × 10,000 + day × 100 + hour. */
  reads?: 'clock' | 'date-hour';
  /** The setting of a study without which it is not worked out. */
  onRequest?: 'peakHour';
  /** Kept with the values and not shown: what an error is told from. */
  hidden?: boolean;
  /** One of a series: a value for each month, for each hour of the day. */
  series?: 'month' | 'hour';
  /** What it is, in a sentence or two, with its source. */
  definition: string;
}

/** Directions that a study traces to, and all that weighing them takes: flat, of typed arrays and plain values only. */
export interface Directions {
  count: number;
  /** 3 numbers a direction: unit vector away from the sensor, project frame. */
  vectors: Float64Array;
  /** Day of each as month × 100 + day: tells trees in leaf. */
  date: Uint16Array;
  /** Of suns, what devices that move go by there; left out where nothing asks for it. */
  moments?: DirectionMoments;
}

/** The moments of the suns among some directions. */
export interface DirectionMoments {
  /** Clock time on site, minutes since midnight; NaN of what is no sun. */
  minutes: Float32Array;
  /** Beam on a plane that faces the sun, W/m²; NaN where it is not known. */
  beamWm2: Float32Array;
}

/** Which directions of a stretch of sensors are open. */
export interface OpenDirections {
  /** Sensors in the stretch. */
  sensors: number;
  /** The first of them in the grid. */
  from: number;
  /** Bits by sensor, `maskWords(count)` words each. */
  mask: Uint32Array;
  /** By sensor: which open directions meet panes, fences and crowns, and what gets through; null where there are none. */
  shares: { direction: Uint32Array; share: Float32Array }[] | null;
}

/** The sensors that are weighed: how they face, on which of the targets they stand, and whether anything covers them. */
export type WeighedAt = Pick<SensorGrid, 'normals' | 'target' | 'covered'> & {
  targets: readonly FlatTarget[];
};

/** All windows of time of a study. */
export function windowsOf({ window, also }: Pick<Study, 'window' | 'also'>): WindowOfTime[] {
  return [window, ...(also ?? [])];
}

/** A kind of study. Nothing outside its own file knows how it measures. */
export interface StudyKind<D extends Directions = Directions> {
  kind: Study['kind'];
  /** Goes up when a value of any measure changes its meaning or its precision. */
  method: Method;
  name: string;
  /** What it is for, in a sentence. */
  purpose: string;
  /** Whether it goes by a window of time and a step; else by the sky, whatever the hour. */
  hasWindow: boolean;
  /** Whether it samples the window at a step of its own. */
  hasStep: boolean;
  /** Whether it goes by a weather year, and cannot be planned without one. */
  needsWeather: boolean;
  /** What its directions are, as a plural noun. */
  directionsAre: string;
  /** Colours: of hours of sun, of time in shade, of sky light, or of energy. */
  ramp: 'sun' | 'shade' | 'sky' | 'heat';
  /** The first is what is coloured, held to the criterion and ranked; the second breaks ties. */
  measures: readonly [Measure, ...Measure[]];
  /** Top of the scale where the study sets none: its most, or what fits its values. */
  most: number | null;
  /** Criterion of a new study. */
  atLeast: number;
  /** Throws InputError `weather` where it needs a weather year and has none. */
  directions(project: Project, study: Study, weather: WeatherYear | null): D;
  /** Things to know before reading the result. */
  notes(directions: D): string[];
  /** The measure whose mean over an area, weighted with area, is the value of the area; the first where none is named. */
  areaMeasure?: string;
  /**
   * For kinds whose first measure is a sum over directions: writes what each direction adds to a sensor when it is open,
   * 0 for those behind it, and gives what is added whatever stands in the way.
   */
  weights?(directions: D, at: WeighedAt, sensor: number, into: Float64Array): number;
  /**
   * Of glass, where shade is finer than cells: values are means over points of each cell, whose gain `of` its eighths and
   * `error` are given beside it.
   */
  overGlass?: boolean;
  /** Refuses targets that it cannot be measured on. Throws InputError. */
  check?(targets: readonly FlatTarget[]): void;
  /** Values of a stretch of sensors. Nothing is traced but what is asked of `asks`. */
  weigh(open: OpenDirections, directions: D, at: WeighedAt, asks?: WeighAsks): StudyValues;
}

/** What a kind may ask for while it weighs a stretch of sensors. */
export interface WeighAsks {
  /** For sensors whose values its directions do not tell well enough. */
  more?: TraceMore;
  /** What is thrown back onto the sensors of the stretch. */
  thrownBack?: (asked: RaysAsked) => ThrownBack;
  /** The same hour by hour, of one sensor counted from the first, W/m². */
  thrownBackHourly?: (sensor: number, asked: RaysAsked) => Float64Array;
}

/** Traces some sensors of a stretch, counted from its first, to more directions. */
export type TraceMore = (sensors: readonly number[], directions: Directions) => MoreOpen;

/** What came of it: which sensors, those that are covered left out, and rows of a mask in their order. */
export interface MoreOpen {
  sensors: readonly number[];
  open: OpenDirections;
  at: WeighedAt;
}

/** A kind whose directions are its own business. */
export function studyKind<D extends Directions>(kind: StudyKind<D>): StudyKind {
  return {
    ...kind,
    notes: (directions) => kind.notes(directions as D),
    ...(kind.weights && {
      weights: (directions: Directions, at: WeighedAt, sensor: number, into: Float64Array) =>
        kind.weights!(directions as D, at, sensor, into),
    }),
    weigh: (open, directions, at, asks) => kind.weigh(open, directions as D, at, asks),
  };
}

/** A value of a measure for reading, without its unit; a dash where there is none. */
export function readMeasure({ reads, digits }: Measure, value: number): string {
  if (Number.isNaN(value)) return '–';
  return reads === 'clock'
    ? formatClock(value)
    : reads === 'date-hour'
      ? readHour(value)
      : value.toFixed(digits);
}

/** An hour as `21 June, 12:00`. */
function readHour(stamp: number): string {
  const { month, day, hour } = partsOfHour(stamp);
  return `${day} ${MONTH_NAMES[month - 1]}, ${formatClock(hour * 60)}`;
}

/** An hour as `06-21 12:00`. */
export function hourStamp(stamp: number): string {
  const { month, day, hour } = partsOfHour(stamp);
  return `${two(month)}-${two(day)} ${formatClock(hour * 60)}`;
}

const two = (n: number) => String(n).padStart(2, '0');

function partsOfHour(stamp: number) {
  return { month: Math.floor(stamp / 10_000), day: Math.floor(stamp / 100) % 100, hour: stamp % 100 };
}

/** What one sensor has of each direction: 0 where it is blocked, else the share that gets through. */
export function openRow(
  { mask, shares }: OpenDirections,
  count: number,
  sensor: number,
  into: Float64Array,
): void {
  const at = sensor * maskWords(count);
  for (let d = 0; d < count; d++) into[d] = (mask[at + (d >> 5)]! >>> (d & 31)) & 1;
  const row = shares?.[sensor];
  if (row) for (let i = 0; i < row.direction.length; i++) into[row.direction[i]!]! *= row.share[i]!;
}

/** Writes the weights of all directions before a sensor, and 0 for those behind it. */
export function weightsBefore(
  { count, vectors }: Directions,
  { normals }: Pick<WeighedAt, 'normals'>,
  sensor: number,
  into: Float64Array,
  weightOf: (direction: number, cosine: number) => number,
): void {
  const [nx, ny, nz] = [normals[sensor * 3]!, normals[sensor * 3 + 1]!, normals[sensor * 3 + 2]!];
  for (let d = 0; d < count; d++) {
    const cosine = nx * vectors[d * 3]! + ny * vectors[d * 3 + 1]! + nz * vectors[d * 3 + 2]!;
    into[d] = cosine > 0 ? weightOf(d, cosine) : 0;
  }
}
