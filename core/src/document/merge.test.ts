import fc from 'fast-check';
import { mergeDocuments, sameJson } from './merge';

const leaf = fc.oneof(fc.integer(), fc.string(), fc.boolean(), fc.constant(null));
const entity = (id: string) =>
  fc.record({ id: fc.constant(id), a: leaf, b: fc.array(fc.integer(), { maxLength: 3 }) });
const document = fc.record({
  name: leaf,
  deep: fc.record({ x: leaf, y: leaf }),
  list: fc.subarray(['p', 'q', 'r', 's']).chain((ids) => fc.tuple(...ids.map(entity))),
});

test('when only one side changed, its document is the result', () => {
  fc.assert(
    fc.property(document, document, (base, changed) => {
      expect(sameJson(mergeDocuments(base, changed, base).merged, changed)).toBe(true);
      expect(sameJson(mergeDocuments(base, base, changed).merged, changed)).toBe(true);
      expect(mergeDocuments(base, changed, base).conflicts).toEqual([]);
    }),
  );
});

test('when both sides made the same change there is nothing to choose', () => {
  fc.assert(
    fc.property(document, document, (base, changed) => {
      const { merged, conflicts } = mergeDocuments(base, changed, structuredClone(changed));
      expect(sameJson(merged, changed)).toBe(true);
      expect(conflicts).toEqual([]);
    }),
  );
});

test('changes in different parts are both kept, whichever side they are on', () => {
  fc.assert(
    fc.property(document, leaf, leaf, (base, name, x) => {
      const mine = { ...base, name };
      const theirs = { ...base, deep: { ...base.deep, x } };
      for (const { merged, conflicts } of [
        mergeDocuments(base, mine, theirs),
        mergeDocuments(base, theirs, mine),
      ]) {
        expect(sameJson(merged, { ...mine, deep: theirs.deep })).toBe(true);
        expect(conflicts).toEqual([]);
      }
    }),
  );
});

test('every value of the result comes from one of the sides, and no id twice', () => {
  fc.assert(
    fc.property(document, document, document, (base, mine, theirs) => {
      const { merged, conflicts } = mergeDocuments(base, mine, theirs);
      expect([JSON.stringify(mine.name), JSON.stringify(theirs.name)]).toContain(JSON.stringify(merged.name));
      const ids = merged.list.map((item) => item.id);
      expect(new Set(ids).size).toBe(ids.length);
      // What only they changed is never lost without being told.
      if (!sameJson(theirs.name, base.name) && sameJson(mine.name, base.name))
        expect(merged.name).toEqual(theirs.name);
      if (
        !sameJson(theirs.name, base.name) &&
        !sameJson(mine.name, base.name) &&
        !sameJson(mine.name, theirs.name)
      )
        expect(conflicts.some(({ path }) => path[0] === 'name')).toBe(true);
    }),
  );
});
