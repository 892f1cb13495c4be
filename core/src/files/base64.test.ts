import fc from 'fast-check';
import { fromBase64, toBase64 } from './base64';

test('bytes go out as Node writes them, and come back', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
      const text = toBase64(bytes);
      expect(text).toBe(Buffer.from(bytes).toString('base64'));
      expect(fromBase64(text)).toEqual(bytes);
    }),
  );
  const long = Uint8Array.from({ length: 100_001 }, (_, i) => (i * 31) & 255);
  expect(toBase64(long)).toBe(Buffer.from(long).toString('base64'));
});

test('what is not base64 is refused', () => {
  for (const text of ['A', 'AB', 'AB=C', 'A===', 'ÄÄÄÄ', 'AB C'])
    expect(() => fromBase64(text)).toThrow('not base64');
});
