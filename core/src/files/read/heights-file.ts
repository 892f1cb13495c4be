import { decodedText } from '../../civil';
import { InputError } from '../../errors';
import { blankModel, checkSize, counted, type ModelFile } from '../model-file';

/** Cells of a grid that are read; of larger ones every second, third … in both directions. */
export const MAX_CELLS = 1_000_000;

/**
 * Reads heights: a gridded text file (`ncols`, `nrows`, `xllcorner` or `xllcenter`, `yllcorner` or `yllcenter`,
 * `cellsize`, `NODATA_value`, then rows from the north), or points, one a line, as x, y and z between semicolons, tabs, blanks
 * or commas; a line before them may name the columns. Decimals with a comma where that parts no columns. In the coordinates of
 * the file. Throws InputError `heights`.
 */
export function readHeights(bytes: Uint8Array): ModelFile {
  checkSize(bytes);
  const { text } = decodedText(bytes);
  const model = blankModel('heights');
  model.up = 'z';
  const isGrid = /^\s*ncols\s/i.test(text);
  if (isGrid) model.unit = 'm';
  const positions = isGrid ? readGrid(text, model.notes) : readPoints(text);
  if (positions.length < 9) fail('The file holds fewer than three heights.');
  model.spots.push({ name: 'Heights', positions: Float64Array.from(positions) });
  return model;
}

/** Of how many cells one is read in each direction, which is said. */
export function strideOf(columns: number, rows: number, notes: string[]): number {
  const stride = Math.ceil(Math.sqrt((columns * rows) / MAX_CELLS));
  if (stride > 1)
    notes.push(
      `The grid has ${counted(columns * rows, 'cell', 'cells')}; every ${stride}${stride === 2 ? 'nd' : stride === 3 ? 'rd' : 'th'} is read in both directions.`,
    );
  return Math.max(1, stride);
}

function fail(sentence: string): never {
  throw new InputError('heights', sentence);
}

function readGrid(text: string, notes: string[]): number[] {
  const header = new Map<string, number>();
  const words = text.split(/\s+/).filter(Boolean);
  let at = 0;
  while (at + 1 < words.length && /^[a-z_]+$/i.test(words[at]!)) {
    header.set(words[at]!.toLowerCase(), Number(words[at + 1]));
    at += 2;
  }
  const read = (key: string) => {
    const value = header.get(key);
    return value !== undefined && Number.isFinite(value) ? value : null;
  };
  const columns = read('ncols') ?? 0;
  const rows = read('nrows') ?? 0;
  const cell = read('cellsize') ?? 0;
  if (
    !Number.isInteger(columns) ||
    !Number.isInteger(rows) ||
    columns < 1 ||
    rows < 1 ||
    columns * rows > 100_000_000
  )
    fail('The height grid names no sound number of columns and rows.');
  if (!(cell > 0)) fail('The height grid names no cell size.');
  const left = read('xllcenter') ?? (read('xllcorner') ?? 0) + cell / 2;
  const foot = read('yllcenter') ?? (read('yllcorner') ?? 0) + cell / 2;
  const missing = read('nodata_value') ?? -9999;
  if (words.length - at < columns * rows)
    fail(
      `The height grid holds ${words.length - at} heights where ${columns * rows} are named; it is cut off.`,
    );
  const positions: number[] = [];
  const stride = strideOf(columns, rows, notes);
  for (let row = 0; row < rows; row += stride)
    for (let column = 0; column < columns; column += stride) {
      const word = words[at + row * columns + column]!;
      const z = Number(word);
      if (!Number.isFinite(z))
        fail(`“${word.slice(0, 20)}” in row ${row + 1} of the height grid is not a height.`);
      if (z !== missing) positions.push(left + column * cell, foot + (rows - 1 - row) * cell, z);
    }
  return positions;
}

/** Names of columns of points. */
const AXES: readonly RegExp[] = [
  /^(?:x|e|east(?:ing)?|ostwert|rechtswert|rechts|lon(?:gitude)?|x_?coord)$/i,
  /^(?:y|n|north(?:ing)?|nordwert|hochwert|hoch|lat(?:itude)?|y_?coord)$/i,
  /^(?:z|h|height|elev(?:ation)?|altitude|hoehe|höhe|level|z_?coord)$/i,
];

function readPoints(text: string): number[] {
  const positions: number[] = [];
  let order: readonly number[] = [0, 1, 2];
  let begun = 0;
  text.split(/\r\n|\r|\n/).forEach((line, i) => {
    const trimmed = line.trim();
    if (trimmed === '' || trimmed.startsWith('#')) return;
    const separator = /[;\t]/.test(trimmed) ? /[;\t]/ : /\d\s+[-+]?\d/.test(trimmed) ? /\s+/ : /[,\s]+/;
    const words = trimmed.split(separator).map((word) => word.trim());
    // Parted by something else, a comma is that of decimals.
    const numbers = order.map((k) => (words[k] ? Number(words[k]!.replace(',', '.')) : NaN));
    if (words.length > Math.max(...order) && numbers.every(Number.isFinite)) positions.push(...numbers);
    else if (positions.length > 0) fail(`Line ${i + 1}: a height needs three numbers, x, y and z.`);
    else {
      const named = AXES.map((axis) =>
        words.findIndex((word) => axis.test(word.replace(/[[(].*$/, '').trim())),
      );
      if (named.every((k) => k >= 0)) order = named;
      if (++begun > 20) fail('The file holds no heights; give x, y and z in each line.');
    }
  });
  return positions;
}
