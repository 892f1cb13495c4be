import { InputError } from '../errors';

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
const CODES = Uint8Array.from(LETTERS, (letter) => letter.charCodeAt(0));
const VALUES = new Uint8Array(128).fill(255);
CODES.forEach((code, i) => (VALUES[code] = i));
const PAD = 61;

/** Bytes as base64 (RFC 4648, section 4), padded. */
export function toBase64(bytes: Uint8Array): string {
  const codes = new Uint8Array(Math.ceil(bytes.length / 3) * 4);
  for (let i = 0, o = 0; i < bytes.length; i += 3) {
    const word = (bytes[i]! << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    codes[o++] = CODES[word >> 18]!;
    codes[o++] = CODES[(word >> 12) & 63]!;
    codes[o++] = i + 1 < bytes.length ? CODES[(word >> 6) & 63]! : PAD;
    codes[o++] = i + 2 < bytes.length ? CODES[word & 63]! : PAD;
  }
  return new TextDecoder().decode(codes);
}

/** The bytes of a base64 text. Throws InputError `base64` when it is none. */
export function fromBase64(text: string): Uint8Array {
  const length = text.endsWith('==') ? text.length - 2 : text.endsWith('=') ? text.length - 1 : text.length;
  if (text.length % 4 !== 0 || length % 4 === 1) throw notBase64();
  const bytes = new Uint8Array(Math.floor((length * 3) / 4));
  let word = 0;
  let o = 0;
  for (let i = 0; i < length; i++) {
    const code = text.charCodeAt(i);
    const value = code < 128 ? VALUES[code]! : 255;
    if (value === 255) throw notBase64();
    word = ((word << 6) | value) & 0xffffff;
    if ((i & 3) === 1) bytes[o++] = (word >> 4) & 255;
    else if ((i & 3) === 2) bytes[o++] = (word >> 2) & 255;
    else if ((i & 3) === 3) bytes[o++] = word & 255;
  }
  return bytes;
}

function notBase64(): InputError {
  return new InputError('base64', 'Bytes in the file are not base64; export the project again.');
}
