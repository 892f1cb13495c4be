import fc from 'fast-check';
import { budgetProblem, MAX_LISTS, MAX_OBJECTS, OVER_BUDGET } from './budget';
import { JsonScan } from './json-scan';

/** What a scan tells of a text that comes in pieces of these lengths. */
function scanned(text: string, pieces: readonly number[] = []): string | null {
  const bytes = new TextEncoder().encode(text);
  const scan = new JsonScan();
  let at = 0;
  for (const length of [...pieces, bytes.length]) {
    const problem = scan.take(bytes.subarray(at, at + length));
    if (problem) return problem.message;
    at += length;
  }
  return null;
}

const list = (item: string, count: number) => `[${Array(count).fill(item).join(',')}]`;
const nested = (levels: number) => '['.repeat(levels) + ']'.repeat(levels);

test.each<[string, string, string | null]>([
  ['nested as deep as may be', `{"project":${nested(41)}}`, null],
  ['nested deeper', `{"project":${nested(60)}}`, OVER_BUDGET.depth],
  ['nested without end', '['.repeat(1_000_000), OVER_BUDGET.depth],
  ['as many objects as may be', list('{}', MAX_OBJECTS), null],
  ['more objects', list('{}', MAX_OBJECTS + 10), OVER_BUDGET.objects],
  ['as many lists as may be', list('[]', MAX_LISTS - 1), null],
  ['more lists', list('[]', MAX_LISTS + 10), OVER_BUDGET.lists],
  ['more lists of texts', list('[ "1"]', MAX_LISTS + 10), OVER_BUDGET.lists],
  ['points, of which there may be more', list('[ 1,-2]', MAX_LISTS + 10), null],
  ['negative points', list('[-1,2]', MAX_LISTS + 10), null],
  ['brackets in a text', JSON.stringify('[{'.repeat(2_000_000)), null],
  ['quotes and strokes in a text', JSON.stringify(`${'"[\\'.repeat(99)}"`), null],
])('a text with %s', (_, text, wanted) => {
  expect(scanned(text)).toBe(wanted);
});

test('a scan and a look at what was parsed agree, however the text comes in', () => {
  fc.assert(
    fc.property(
      fc.jsonValue({ maxDepth: 5 }),
      fc.integer({ min: 30, max: 60 }),
      fc.array(fc.nat(9), { maxLength: 30 }),
      (value, levels, pieces) => {
        // A look takes nothing off for what a document comes in.
        const text = `${'[['}${'["a",'.repeat(levels)}${JSON.stringify(value)}${']'.repeat(levels)}]]`;
        const inner = (JSON.parse(text) as unknown[][])[0]![0];
        const isDeep = budgetProblem(inner) === OVER_BUDGET.depth;
        const told = scanned(text, pieces);
        expect(told).toBe(scanned(text));
        if (levels > 41) expect([told, isDeep]).toEqual([OVER_BUDGET.depth, true]);
        if (levels < 34) expect([told, isDeep]).toEqual([null, false]);
      },
    ),
  );
});
