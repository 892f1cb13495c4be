import fc from 'fast-check';
import { cutText } from './text';

test('a cut text is a beginning of it, short enough, and never ends in half a character', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.integer({ min: 1, max: 30 }), (text, most) => {
      const cut = cutText(text, most);
      expect(text.startsWith(cut)).toBe(true);
      expect(cut.length).toBeLessThanOrEqual(most);
      expect(cut.length).toBeGreaterThanOrEqual(Math.min(text.length, most) - 1);
      expect([...cut].every((c) => !/^\p{Surrogate}$/u.test(c))).toBe(true);
    }),
  );
});
