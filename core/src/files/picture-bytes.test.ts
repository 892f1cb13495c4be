import { contentHash } from '../content-hash';
import { newUnderlay } from '../document';
import { emptyProject } from '../project';
import { greyPng, jpegHead } from '../../testing/pictures';
import { toBase64 } from './base64';
import { pictureFacts, picturesFromFile, underlayFacts } from './picture-bytes';

const png = greyPng(5, 3, (x, y) => 40 * x + y);

test('a PNG says its size; one that is cut off anywhere is refused', () => {
  expect(pictureFacts(png)).toEqual({ type: 'png', widthPx: 5, heightPx: 3, orientation: 1 });
  // What stands behind its end is no part of it.
  expect(pictureFacts(Uint8Array.of(...png, 1, 2, 3))).toMatchObject({ widthPx: 5 });
  for (let length = 8; length < png.length; length++)
    expect(() => pictureFacts(png.subarray(0, length))).toThrow('The picture is cut off; save it anew.');
  expect(() => pictureFacts(png.subarray(0, 7))).toThrow('This is no PNG or JPEG picture.');
});

test('a JPEG says its size and how it is seen upright, in both orders of bytes', () => {
  expect(pictureFacts(jpegHead(640, 300))).toEqual({
    type: 'jpeg',
    widthPx: 640,
    heightPx: 300,
    orientation: 1,
  });
  for (const isLittle of [false, true])
    for (let orientation = 1; orientation <= 8; orientation++)
      expect(pictureFacts(jpegHead(640, 300, { orientation, isLittle }))).toMatchObject({
        widthPx: 640,
        orientation,
      });
  expect(pictureFacts(jpegHead(640, 300, { orientation: 9 })).orientation).toBe(1);
  const head = jpegHead(640, 300);
  expect(() => pictureFacts(head.subarray(0, 30))).toThrow('The picture is cut off');
});

test('what has more pixels than a board can show is refused', () => {
  expect(() => pictureFacts(jpegHead(8193, 10))).toThrow(
    'The picture has 8193 × 10 pixels; a side may have 1 to 8192. Save it smaller.',
  );
  expect(() => pictureFacts(jpegHead(8192, 0))).toThrow('8192 × 0 pixels');
  expect(pictureFacts(jpegHead(8192, 8192)).heightPx).toBe(8192);
});

test('the pictures of a file are those that it was saved with', () => {
  const picture = contentHash(png);
  const plan = newUnderlay(
    emptyProject('E', 2026),
    { name: 'Plan', picture, widthPx: 5, heightPx: 3 },
    [0, 0],
  );
  const read = (underlays: (typeof plan)[], bytes: Uint8Array = png) =>
    picturesFromFile({ underlays }, { [picture]: toBase64(bytes) });
  // The same picture may lie there twice.
  expect([...read([plan, { ...plan, id: 'other' }])]).toEqual([[picture, png]]);
  expect(() =>
    read(
      [plan],
      greyPng(5, 3, () => 9),
    ),
  ).toThrow('The picture of “Plan” is another than the one it was saved with.');
  expect(() => read([{ ...plan, heightPx: 4 }])).toThrow(
    '“Plan” says that its picture has 5 × 4 pixels; it has 5 × 3.',
  );
  expect(() => picturesFromFile({ underlays: [plan] }, { [picture]: '!!!!' })).toThrow('not base64');
  const padded = (length: number) => {
    const bytes = new Uint8Array(length);
    bytes.set(png);
    return bytes;
  };
  expect(underlayFacts(padded(32 * 1_048_576))).toMatchObject({ widthPx: 5 });
  expect(() => underlayFacts(padded(32 * 1_048_576 + 1))).toThrow(
    'The picture has 33 MB; at most 32 MB can lie on the ground. Save it smaller.',
  );
  expect(() => underlayFacts(jpegHead(8, 8, { orientation: 6 }))).toThrow('save it anew as it is seen');
});
