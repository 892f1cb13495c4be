import fc from 'fast-check';
import { roundLength } from './length';
import { cutText, escapeXml } from './text';

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

test('text in XML has no mark that would end it', () => {
  expect(escapeXml('A & "B" < C')).toBe('A &amp; &quot;B&quot; &lt; C');
  expect(escapeXml('&lt;')).toBe('&amp;lt;');
});

test('a round length is 1, 2 or 5 and noughts, at or below, and more than a third of it', () => {
  expect([0.7, 1, 4.99, 5, 19, 230].map(roundLength)).toEqual([0.5, 1, 2, 5, 10, 200]);
  fc.assert(
    fc.property(fc.double({ min: 0.001, max: 1e6, noNaN: true }), (most) => {
      const round = roundLength(most);
      expect(round).toBeLessThanOrEqual(most * (1 + 1e-9));
      expect(round).toBeGreaterThan(most / 3);
      expect(['1', '2', '5']).toContain(round.toExponential()[0]);
    }),
  );
});
