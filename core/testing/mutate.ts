import fc from 'fast-check';
import { InputError } from '../src/errors';

/** A file changed at random: cut off, bytes replaced, taken out, doubled, or numbers in it made absurd. */
export function mutations(valid: Uint8Array): fc.Arbitrary<Uint8Array> {
  const at = fc.nat(valid.length - 1);
  const change = fc.oneof(
    fc.tuple(at, fc.integer({ min: 0, max: 255 })).map(([i, byte]) => (bytes: number[]) => {
      bytes[i] = byte;
    }),
    fc.tuple(at, fc.nat(12)).map(([i, n]) => (bytes: number[]) => {
      bytes.splice(i, n);
    }),
    fc.tuple(at, fc.nat(40)).map(([i, n]) => (bytes: number[]) => {
      bytes.splice(i, 0, ...bytes.slice(i, i + n));
    }),
    fc
      .tuple(at, fc.constantFrom('999999999999', '-1', 'NaN', '1e400', 'null', '[]', '{}', '""', '\u0000'))
      .map(([i, text]) => (bytes: number[]) => {
        let end = i;
        while (end < bytes.length && bytes[end]! >= 48 && bytes[end]! <= 57) end++;
        bytes.splice(i, end - i, ...new TextEncoder().encode(text));
      }),
  );
  return fc
    .tuple(fc.array(change, { minLength: 0, maxLength: 5 }), fc.option(at, { freq: 4, nil: valid.length }))
    .map(([changes, cut]) => {
      const bytes = [...valid];
      for (const apply of changes) apply(bytes);
      return Uint8Array.from(bytes.slice(0, cut ?? undefined));
    });
}

/** What reading gave: the value, or null when it was refused in a sentence. Anything else fails. */
export async function readOrRefused<T>(read: () => T | Promise<T>): Promise<T | null> {
  try {
    return await read();
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    expect(error.message).toMatch(/[.?]$/);
    expect(error.message.length).toBeLessThan(400);
    return null;
  }
}
