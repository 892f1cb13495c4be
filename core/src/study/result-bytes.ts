import { InputError } from '../errors';
import type { FlatTarget } from './flat-target';
import { type Measure, STUDY_KINDS, storedMeasuresIn, type StudyValues } from './kinds';
import type { StudyPlan } from './run-study';
import { mainValues, type ResultGrid, summarize, type StudySummary } from './summary';

/** A result as it is stored and sent: whole, or of those sensors that were done when it was stopped. */
export interface StudyResult {
  summary: StudySummary;
  targets: FlatTarget[];
  grid: ResultGrid;
  values: StudyValues;
  /** What of it is looked at, where that is not its first measure. Not stored. */
  shown?: { measure: Measure; values: Float32Array };
}

/** The measure of a result that is looked at. */
export function shownMeasure({ summary, shown }: Pick<StudyResult, 'summary' | 'shown'>): Measure {
  return shown?.measure ?? STUDY_KINDS[summary.kind].measures[0];
}

/** The values of a result that are looked at. */
export function shownValues({ summary, values, shown }: StudyResult): Float32Array {
  return shown?.values ?? mainValues(summary.kind, values);
}

/** What a run has found, as it is stored. */
export function studyResult(plan: StudyPlan, values: StudyValues): StudyResult {
  return { summary: summarize(plan, values), targets: plan.targets, grid: plan.grid, values };
}

const MAGIC = 0x31525344; // “DSR1”
const TYPES = {
  f32: Float32Array,
  f64: Float64Array,
  i32: Int32Array,
  u16: Uint16Array,
  u8: Uint8Array,
} as const;
type TypeName = keyof typeof TYPES;
type Numbers = Float32Array | Float64Array | Int32Array | Uint16Array | Uint8Array;

interface ArrayHead {
  name: string;
  type: TypeName;
  length: number;
}

/** Length in bytes, rounded up to a multiple of eight. */
const padded = (bytes: number) => (bytes + 7) & ~7;

/**
 * A result as bytes, little-endian: “DSR1”, the length of the JSON head in bytes (32 bits each), the head (ASCII, padded
 * with blanks to a multiple of 8), then the arrays that the head lists, each padded to a multiple of 8 bytes.
 */
export function resultToBytes(plan: StudyPlan, values: StudyValues): Uint8Array {
  const { grid } = plan;
  const arrays: [string, TypeName, Numbers][] = [
    ['positions', 'f64', grid.positions],
    ['normals', 'f64', grid.normals],
    ['areas', 'f64', grid.areas],
    ['target', 'u16', grid.target],
    ['cells', 'i32', grid.cells],
    ['covered', 'u8', grid.covered],
    ...storedMeasuresIn(plan.study.kind, values).map(({ key }): [string, TypeName, Numbers] => [
      key,
      'f32',
      values[key]!,
    ]),
  ];
  const heads: ArrayHead[] = arrays.map(([name, type, array]) => ({ name, type, length: array.length }));
  const json = asciiJson({ summary: summarize(plan, values), targets: plan.targets, arrays: heads });
  const headBytes = padded(json.length);
  const total = arrays.reduce((sum, [, , array]) => sum + padded(array.byteLength), 8 + headBytes);
  const bytes = new Uint8Array(total).fill(32, 8, 8 + headBytes);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, headBytes, true);
  for (let i = 0; i < json.length; i++) bytes[8 + i] = json.charCodeAt(i);
  let at = 8 + headBytes;
  for (const [, , array] of arrays) {
    bytes.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at);
    at += padded(array.byteLength);
  }
  return bytes;
}

/** JSON in which every character beyond ASCII is escaped, so that a byte is a character. */
function asciiJson(value: unknown): string {
  return JSON.stringify(value).replace(
    /[\u0080-\uffff]/g,
    (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

/** The result in these bytes. Throws InputError `result` when they are not one. */
export function resultFromBytes(bytes: Uint8Array): StudyResult {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 8 || view.getUint32(0, true) !== MAGIC)
    throw new InputError('result', 'These bytes are not a result.');
  const headBytes = view.getUint32(4, true);
  let json = '';
  for (let i = 8; i < 8 + headBytes; i += 8192)
    json += String.fromCharCode(...bytes.subarray(i, Math.min(8 + headBytes, i + 8192)));
  const head = JSON.parse(json) as Pick<StudyResult, 'summary' | 'targets'> & { arrays: ArrayHead[] };
  const arrays: Record<string, Numbers> = {};
  let at = 8 + headBytes;
  for (const { name, type, length } of head.arrays) {
    const size = length * TYPES[type].BYTES_PER_ELEMENT;
    if (at + size > bytes.length) throw new InputError('result', 'The result is cut off.');
    arrays[name] = new TYPES[type](Uint8Array.from(bytes.subarray(at, at + size)).buffer);
    at += padded(size);
  }
  const summary = completed(head.summary);
  return {
    summary,
    targets: head.targets,
    grid: {
      count: arrays.areas!.length,
      positions: arrays.positions as Float64Array,
      normals: arrays.normals as Float64Array,
      areas: arrays.areas as Float64Array,
      target: arrays.target as Uint16Array,
      cells: arrays.cells as Int32Array,
      // Earlier results hold only what is measured.
      covered: (arrays.covered as Uint8Array | undefined) ?? new Uint8Array(arrays.areas!.length),
    },
    values: Object.fromEntries(
      STUDY_KINDS[summary.kind].measures
        .filter(({ key }) => arrays[key])
        .map(({ key }) => [key, arrays[key] as Float32Array]),
    ),
  };
}

/** What results of sun hours said before there were other kinds. */
interface FirstSummary {
  sunPositions: number;
  hours: StudySummary['values'];
  criterion: { atLeastH: number };
  targets: { meanH: number }[];
}

/** A summary as it is now, of one that may have been stored before there were several kinds. */
function completed(stored: StudySummary | FirstSummary): StudySummary {
  // Before methods had numbers, all were the first.
  if ('measure' in stored) return { ...stored, method: stored.method ?? 1 };
  const { key, label, unit } = STUDY_KINDS['sun-hours'].measures[0];
  const { sunPositions, hours, criterion, targets, ...rest } = stored;
  return {
    ...rest,
    method: 1,
    measure: { key, label, unit },
    directions: sunPositions,
    values: hours,
    criterion: { ...criterion, atLeast: criterion.atLeastH },
    targets: targets.map((target) => ({ ...target, mean: target.meanH })),
  } as unknown as StudySummary;
}
