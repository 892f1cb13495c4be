import fc from 'fast-check';
import { join } from 'node:path';
import { mutations, readOrRefused } from '../../core/testing/mutate';
import { SMALL_IFC } from '../../core/testing/small-ifc';
import { GuardedIfc } from './guarded-ifc';

test('IFC: whatever is done to a file, it gives a model or a sentence', async () => {
  const guard = new GuardedIfc(join(process.cwd(), 'dist/cli'));
  const valid = new TextEncoder().encode(SMALL_IFC);
  expect((await guard.read(valid)).mesh!.triangles.length / 3).toBe(24);
  let read = 0;
  await fc.assert(
    fc.asyncProperty(mutations(valid), async (bytes) => {
      const model = await readOrRefused(() => guard.read(bytes));
      if (!model) return;
      read++;
      expect(model.mesh!.positions.every(Number.isFinite)).toBe(true);
    }),
    { numRuns: 2000 },
  );
  expect(read).toBeGreaterThan(20);
  await guard.close();
});
