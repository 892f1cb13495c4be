import { InputError } from '../../../errors';
import { cleanName } from '../../model-file';

/** A line with a group code and the line with its value. */
export type Pair = readonly [code: number, value: string];

/** Code pages as a header names them, and as the platform does. */
const PAGES: Readonly<Record<string, string>> = {
  '932': 'shift_jis',
  '936': 'gbk',
  '949': 'euc-kr',
  '950': 'big5',
  '874': 'windows-874',
};

/** From this version on drawings are written in UTF-8. */
const UTF8_FROM = 1021;

/**
 * The text of a drawing by the code page of its header: UTF-8 from AC1021 on, else as `$DWGCODEPAGE` says; where nothing
 * says, UTF-8 if it is that, else Latin-1.
 */
export function dxfText(bytes: Uint8Array): string {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 8192));
  const version = Number(/\$ACADVER\s+1\s+AC(\d{4})/.exec(head)?.[1] ?? NaN);
  const page = /\$DWGCODEPAGE\s+3\s+ANSI_(\d{3,4})/i.exec(head)?.[1];
  if (!(version >= UTF8_FROM) && page !== undefined)
    try {
      return new TextDecoder(PAGES[page] ?? `windows-${page}`).decode(bytes);
    } catch {
      // A page that is not known here.
    }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** The pairs of lines of a drawing, one after another. Throws InputError `dxf` when group codes are not numbers. */
export function* dxfPairs(text: string): Generator<Pair> {
  let at = 0;
  let number = 0;
  let isFirst = true;
  const line = (): string | null => {
    if (at >= text.length) return null;
    let end = at;
    while (end < text.length && text.charCodeAt(end) !== 10 && text.charCodeAt(end) !== 13) end++;
    const found = text.slice(at, end);
    at = text.charCodeAt(end) === 13 && text.charCodeAt(end + 1) === 10 ? end + 2 : end + 1;
    number++;
    return found;
  };
  for (;;) {
    const raw = line();
    if (raw === null) return;
    const code = raw.trim();
    if (!/^-?\d{1,4}$/.test(code)) {
      if (code === '' && text.slice(at).trim() === '') return;
      if (isFirst) throw new InputError('dxf', 'This is not a DXF text file.');
      throw new InputError(
        'dxf',
        `Line ${number}: “${cleanName(code, ' ')}” is no group code; export the file again.`,
      );
    }
    isFirst = false;
    const value = line();
    if (value === null) return;
    yield [Number(code), value.trim()];
  }
}

/** A name in a drawing: characters that are written by their number, `\U+00E9`, as themselves. */
export function dxfName(value: string): string {
  return cleanName(
    value.replace(/\\U\+([0-9a-f]{4})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
    '0',
  );
}
