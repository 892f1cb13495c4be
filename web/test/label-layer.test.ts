import fc from 'fast-check';
import { type LabelPlace, placeLabels } from '../src/board/label-layer';

const label = (x: number, y: number, isFixed = false): LabelPlace => ({
  x,
  y,
  width: 60,
  height: 16,
  isFixed,
});
const clash = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  Math.abs(a.x - b.x) < 60 && Math.abs(a.y - b.y) < 16;

test('a label stays at its place where there is room', () => {
  expect(placeLabels([label(100, 50), label(200, 50)], [])).toEqual([
    { x: 100, y: 50 },
    { x: 200, y: 50 },
  ]);
});

test('of two that lie on one another the second goes aside', () => {
  const [first, second] = placeLabels([label(100, 50), label(110, 52)], []);
  expect(first).toEqual({ x: 100, y: 50 });
  expect(clash(first!, second!)).toBe(false);
  expect(Math.hypot(second!.x - 110, second!.y - 52)).toBeLessThan(40);
});

test('labels keep off the name under the pointer', () => {
  const [place] = placeLabels([label(100, 50)], [{ x: 80, y: 40, width: 90, height: 20 }]);
  expect(place!.y < 40 - 8 || place!.y > 60 + 8 || place!.x + 30 < 80 || place!.x - 30 > 170).toBe(true);
});

test('none ever lies on another; fixed ones stay; where there is no room it goes', () => {
  const some = fc.array(
    fc.record({
      x: fc.integer({ min: 0, max: 300 }),
      y: fc.integer({ min: 0, max: 200 }),
      isFixed: fc.boolean(),
    }),
    { maxLength: 30 },
  );
  fc.assert(
    fc.property(some, (list) => {
      const labels = list.map(({ x, y, isFixed }) => label(x, y, isFixed));
      const places = placeLabels(labels, []);
      places.forEach((a, i) => {
        if (labels[i]!.isFixed) expect(a).toEqual({ x: labels[i]!.x, y: labels[i]!.y });
        places.forEach((b, k) => {
          if (k >= i || !a || !b || (labels[i]!.isFixed && labels[k]!.isFixed)) return;
          expect(clash(a, b)).toBe(false);
        });
      });
    }),
  );
  const crowd = placeLabels(
    Array.from({ length: 30 }, () => label(100, 100)),
    [],
  );
  expect(crowd.filter((place) => place === null).length).toBeGreaterThan(10);
});

test('what is exact stands at its place or nowhere', () => {
  const exact = (x: number) => ({ ...label(x, 0), isExact: true });
  expect(placeLabels([exact(0), exact(5), exact(500)], [])).toEqual([{ x: 0, y: 0 }, null, { x: 500, y: 0 }]);
});
