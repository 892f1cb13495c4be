import { InputError } from '../errors';
import { checkSize } from './model-file';
import { terrainPoints } from './model-surfaces';

/** Heights out of a file: spot heights, metres, and what was left out. */
export interface Heights {
  points: [number, number, number][];
  notes: string[];
}

/**
 * Reads heights: a gridded text file (`ncols`, `nrows`, `xllcorner` or `xllcenter`, `yllcorner` or `yllcenter`,
 * `cellsize`, `NODATA_value`, then rows from the north), or points, one a line, as x, y and z between commas,
 * semicolons, tabs or blanks. Metres in the project frame. Throws InputError `heights`.
 */
export function readHeights(bytes: Uint8Array): Heights {
  checkSize(bytes);
  const text = new TextDecoder().decode(bytes);
  return /^\s*ncols\s/i.test(text) ? readGrid(text) : readPoints(text);
}

function fail(sentence: string): never {
  throw new InputError('heights', sentence);
}

function readGrid(text: string): Heights {
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
    columns * rows > 4_000_000
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
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const word = words[at + row * columns + column]!;
      const z = Number(word);
      if (!Number.isFinite(z))
        fail(`“${word.slice(0, 20)}” in row ${row + 1} of the height grid is not a height.`);
      if (z !== missing) positions.push(left + column * cell, foot + (rows - 1 - row) * cell, z);
    }
  return finish(positions);
}

function readPoints(text: string): Heights {
  const positions: number[] = [];
  text.split(/\r\n|\r|\n/).forEach((line, i) => {
    const words = line
      .trim()
      .split(/[;,\t ]+/)
      .filter(Boolean);
    if (words.length === 0 || line.trim().startsWith('#')) return;
    const numbers = words.slice(0, 3).map(Number);
    if (numbers.length === 3 && numbers.every(Number.isFinite)) positions.push(...numbers);
    else if (positions.length > 0) fail(`Line ${i + 1}: a height needs three numbers, x, y and z.`);
    else if (i > 20) fail('The file holds no heights; give x, y and z in each line.');
  });
  return finish(positions);
}

/** Heights far from the origin are brought to it, since site plans often carry national coordinates. */
function finish(positions: number[]): Heights {
  if (positions.length < 9) fail('The file holds fewer than three heights.');
  const notes: string[] = [];
  const all = Float64Array.from(positions);
  const low = [Infinity, Infinity];
  const high = [-Infinity, -Infinity];
  for (let i = 0; i < all.length; i += 3)
    for (const k of [0, 1]) {
      low[k] = Math.min(low[k]!, all[i + k]!);
      high[k] = Math.max(high[k]!, all[i + k]!);
    }
  const far = Math.max(...[...low, ...high].map(Math.abs));
  if (far > 20_000) {
    const shift = [0, 1].map((k) => Math.round((low[k]! + high[k]!) / 2));
    for (let i = 0; i < all.length; i += 3) for (const k of [0, 1]) all[i + k]! -= shift[k]!;
    notes.push(
      `The heights lay ${Math.round(far / 1000)} km from the origin; they are moved by ${-shift[0]!} m and ${-shift[1]!} m, so that their middle lies on it.`,
    );
  }
  for (let i = 2; i < all.length; i += 3)
    if (Math.abs(all[i]!) > 9000)
      fail(`A height of ${all[i]} m is none on this earth; is the file in metres?`);
  if (Math.max(high[0]! - low[0]!, high[1]! - low[1]!) > 50_000)
    fail('The heights reach over more than 50 km; leave out what is far from the site.');
  return { points: terrainPoints(all, notes), notes };
}
