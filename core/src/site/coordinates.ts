import { InputError } from '../errors';

/** A place on the earth, degrees, north and east positive. */
export interface Coordinates {
  latitudeDeg: number;
  longitudeDeg: number;
}

const NUMBER = String.raw`[+\-−]?\d+(?:[.,]\d+)?`;

/**
 * A typed or pasted pair of coordinates, latitude first unless letters say otherwise: decimal degrees
 * (`55.87, -4.32`, `55,87° N 4,32° W`), degrees and minutes (`55° 52.2' N 4° 19.2' W`), degrees, minutes and seconds
 * (`55°52'12"N 4°19'12"W`, `N 55 52 12 W 4 19 12`), and `geo:55.87,-4.32`.
 * Throws InputError `coordinates`.
 */
export function parseCoordinates(text: string): Coordinates {
  const plain = text
    .trim()
    .replace(/^geo:/i, '')
    .replace(/[;?].*$/, (rest) => (rest.startsWith(';') && !/crs|u=/i.test(rest) ? ` ${rest.slice(1)}` : ''))
    .replace(/−/g, '-')
    .replace(/[º˚]/g, '°')
    .replace(/[’′´]/g, "'")
    .replace(/[”″]|''/g, '"');
  const letters = [...plain.toUpperCase().matchAll(/[NSEWO]/g)].map((m) => m[0]);
  const axes = letters.map((letter) => (letter === 'N' || letter === 'S' ? 'lat' : 'lon'));
  if (letters.length === 1 || letters.length > 2 || (letters.length === 2 && axes[0] === axes[1]))
    throw wrong(text);
  const [one, two] = letters.length === 2 ? halvesByLetter(plain) : halves(plain);
  if (!one || !two) throw wrong(text);
  const first = degrees(one);
  const second = degrees(two);
  if (first === null || second === null) throw wrong(text);
  const swapped = axes[0] === 'lon';
  const [lat, lon] = swapped ? [second, first] : [first, second];
  return checked(lat, lon);
}

function wrong(text: string): InputError {
  return new InputError(
    'coordinates',
    `“${text.trim().slice(0, 60)}” is no pair of coordinates; type for example 55.87, -4.32 or 55°52'12"N 4°19'12"W.`,
  );
}

function checked(latitudeDeg: number, longitudeDeg: number): Coordinates {
  if (Math.abs(latitudeDeg) > 90)
    throw new InputError('coordinates', `Latitude ${latitudeDeg} is outside −90 to 90 degrees.`);
  if (Math.abs(longitudeDeg) > 180)
    throw new InputError('coordinates', `Longitude ${longitudeDeg} is outside −180 to 180 degrees.`);
  return { latitudeDeg, longitudeDeg };
}

/** Cuts before or behind the letters, whichever way they stand. */
function halvesByLetter(text: string): [string?, string?] {
  const leading = /^\s*[NSEWO]/i.test(text);
  const match = leading
    ? /^\s*([NSEWO].*?)([NSEWO].*)$/i.exec(text)
    : /^(.*?[NSEWO])(.*[NSEWO])\s*$/i.exec(text);
  return match ? [match[1], match[2]] : [];
}

function halves(text: string): [string?, string?] {
  const marked = /^(.*°.*?)[,;\s]+(?=[+-]?\d+(?:[.,]\d+)?\s*°)(.*)$/.exec(text);
  if (marked) return [marked[1], marked[2]];
  const parts = text
    .trim()
    .split(/\s*[;]\s*|\s*,\s+|\s+/)
    .filter(Boolean);
  if (parts.length === 2) return [parts[0], parts[1]];
  if (parts.length === 1) {
    const commas = parts[0]!.split(',');
    if (commas.length === 2) return [commas[0], commas[1]];
    // 55,87,-4,32: decimal commas.
    if (commas.length === 4) return [commas.slice(0, 2).join('.'), commas.slice(2).join('.')];
  }
  if (parts.length === 4 || parts.length === 6)
    return [parts.slice(0, parts.length / 2).join(' '), parts.slice(parts.length / 2).join(' ')];
  return [];
}

/** Degrees out of one half, with minutes and seconds where they stand; null when it cannot be read. */
function degrees(text: string): number | null {
  const letter = /[NSEWO]/i.exec(text)?.[0]?.toUpperCase();
  const bare = text
    .replace(/[NSEWO]/gi, ' ')
    .replace(/[,;]\s*$|^\s*[,;]/g, ' ')
    .trim();
  const match = new RegExp(
    `^(${NUMBER})\\s*°?\\s*(?:(\\d+(?:[.,]\\d+)?)\\s*'?\\s*(?:(\\d+(?:[.,]\\d+)?)\\s*"?)?)?$`,
  ).exec(bare);
  if (!match) return null;
  const number = (part: string | undefined) => (part === undefined ? 0 : Number(part.replace(',', '.')));
  const [whole, minutes, seconds] = [number(match[1]), number(match[2]), number(match[3])];
  if (minutes >= 60 || seconds >= 60) return null;
  if (match[2] !== undefined && !Number.isInteger(whole)) return null;
  const negative = match[1]!.startsWith('-');
  if (negative && letter) return null;
  const size = Math.abs(whole) + minutes / 60 + seconds / 3600;
  return negative || letter === 'S' || letter === 'W' ? -size : size;
}
