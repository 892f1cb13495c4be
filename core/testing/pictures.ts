import { crc32, deflateSync } from 'node:zlib';

/** A PNG (ISO/IEC 15948) of 8-bit grey, a tone a pixel, row by row from the top. */
export function greyPng(width: number, height: number, toneAt: (x: number, y: number) => number): Uint8Array {
  const rows = Buffer.alloc(height * (width + 1));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) rows[y * (width + 1) + 1 + x] = toneAt(x, y);
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head[8] = 8;
  const magic = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const chunks = [chunk('IHDR', head), chunk('IDAT', deflateSync(rows)), chunk('IEND', Buffer.alloc(0))];
  return new Uint8Array(Buffer.concat([magic, ...chunks]));
}

function chunk(kind: string, data: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(kind, 'latin1'), data]);
  const ends = Buffer.alloc(8);
  ends.writeUInt32BE(data.length, 0);
  ends.writeUInt32BE(crc32(named), 4);
  return Buffer.concat([ends.subarray(0, 4), named, ends.subarray(4)]);
}

/** The head of a JPEG (ITU T.81) up to its scan, with an Exif orientation where one is given, in either order of bytes. */
export function jpegHead(
  width: number,
  height: number,
  { orientation, isLittle = false }: { orientation?: number; isLittle?: boolean } = {},
): Uint8Array {
  const segment = (marker: number, data: number[]) => [
    ...[0xff, marker],
    ...[(data.length + 2) >> 8, (data.length + 2) & 255],
    ...data,
  ];
  const words = (...values: number[]) =>
    values.flatMap((value) => (isLittle ? [value & 255, value >> 8] : [value >> 8, value & 255]));
  const long = (value: number) => (isLittle ? words(value, 0) : words(0, value));
  const tiff = [
    ...(isLittle ? [0x49, 0x49] : [0x4d, 0x4d]),
    ...[...words(42), ...long(8), ...words(1)],
    ...[...words(0x0112, 3), ...long(1), ...words(orientation ?? 1, 0)],
  ];
  return Uint8Array.from([
    ...[0xff, 0xd8],
    ...segment(0xe0, [...Buffer.from('JFIF\0'), 1, 1, 0, 0, 1, 0, 1, 0, 0]),
    ...(orientation === undefined ? [] : segment(0xe1, [...Buffer.from('Exif\0\0'), ...tiff])),
    ...segment(0xc4, [0]),
    ...segment(0xc2, [8, height >> 8, height & 255, width >> 8, width & 255, 1, 1, 0x11, 0]),
    ...segment(0xda, [1, 1, 0, 0, 63, 0]),
    ...[0x12, 0x34, 0xff, 0xd9],
  ]);
}
