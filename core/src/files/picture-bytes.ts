import { contentHash } from '../content-hash';
import { InputError } from '../errors';
import { MAX_PICTURE_SIDE, MAX_UNDERLAY_BYTES, type Project } from '../project';
import { fromBase64 } from './base64';

/** What the head of a picture says of it. */
export interface PictureFacts {
  type: 'png' | 'jpeg';
  /** Pixels as they stand in the file, before `orientation` is minded. */
  widthPx: number;
  heightPx: number;
  /** How it is to be turned and mirrored to be seen upright, 1 (as it is) to 8 (Exif 2.32, tag 0x0112). */
  orientation: number;
}

const PNG_MAGIC = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/**
 * What a picture is, by its head: a PNG (ISO/IEC 15948) or a JPEG (ITU T.81), whole as far as its own lengths tell. Throws
 * InputError `picture` for anything else, and for a side of more than MAX_PICTURE_SIDE pixels.
 */
export function pictureFacts(bytes: Uint8Array): PictureFacts {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const isPng = PNG_MAGIC.every((byte, i) => bytes[i] === byte);
  const isJpeg = bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff;
  if (!isPng && !isJpeg) throw new InputError('picture', 'This is no PNG or JPEG picture.');
  const facts = isPng ? pngFacts(view) : jpegFacts(view);
  if (!facts) throw new InputError('picture', 'The picture is cut off; save it anew.');
  const { widthPx, heightPx } = facts;
  if (Math.min(widthPx, heightPx) < 1 || Math.max(widthPx, heightPx) > MAX_PICTURE_SIDE)
    throw new InputError(
      'picture',
      `The picture has ${widthPx} × ${heightPx} pixels; a side may have 1 to ${MAX_PICTURE_SIDE}. Save it smaller.`,
    );
  return facts;
}

const IHDR = 0x49484452;
const IEND = 0x49454e44;

/** Chunk by chunk to the last; null where they do not reach it. */
function pngFacts(view: DataView): PictureFacts | null {
  let size: [number, number] | null = null;
  for (let at = 8; at + 12 <= view.byteLength;) {
    const length = view.getUint32(at);
    const kind = view.getUint32(at + 4);
    if (at + 12 + length > view.byteLength) return null;
    if (kind === IHDR && length >= 8) size = [view.getUint32(at + 8), view.getUint32(at + 12)];
    if (kind === IEND) return size && { type: 'png', widthPx: size[0], heightPx: size[1], orientation: 1 };
    at += 12 + length;
  }
  return null;
}

const isFrame = (marker: number) =>
  marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc;

/** Segment by segment to the scan; null where there is none. */
function jpegFacts(view: DataView): PictureFacts | null {
  let orientation = 1;
  let size: [number, number] | null = null;
  for (let at = 2; at + 4 <= view.byteLength;) {
    if (view.getUint8(at) !== 0xff) return null;
    const marker = view.getUint8(at + 1);
    // Bytes that fill, and markers without anything behind them.
    if (marker === 0xff || marker === 0x01 || (marker >= 0xd0 && marker <= 0xd7)) {
      at += marker === 0xff ? 1 : 2;
      continue;
    }
    const length = view.getUint16(at + 2);
    if (length < 2 || at + 2 + length > view.byteLength) return null;
    if (marker === 0xe1) orientation = exifOrientation(view, at + 4, length - 2) ?? orientation;
    if (isFrame(marker) && length >= 7) size = [view.getUint16(at + 7), view.getUint16(at + 5)];
    if (marker === 0xda) return size && { type: 'jpeg', widthPx: size[0], heightPx: size[1], orientation };
    at += 2 + length;
  }
  return null;
}

/** The orientation that an Exif segment says, if it is one and does. */
function exifOrientation(view: DataView, start: number, length: number): number | null {
  const isExif = length >= 14 && view.getUint32(start) === 0x45786966 && view.getUint16(start + 4) === 0;
  if (!isExif) return null;
  const tiff = start + 6;
  const end = start + length;
  const isLittle = view.getUint16(tiff) === 0x4949;
  const list = tiff + view.getUint32(tiff + 4, isLittle);
  if (list + 2 > end) return null;
  const count = view.getUint16(list, isLittle);
  for (let i = 0, at = list + 2; i < count && at + 12 <= end; i++, at += 12) {
    if (view.getUint16(at, isLittle) !== 0x0112) continue;
    const value = view.getUint16(at + 8, isLittle);
    return value >= 1 && value <= 8 ? value : null;
  }
  return null;
}

/**
 * The pictures of a project file as bytes, by their hash. Throws InputError `picture` where one is none, too large, not the one
 * that its name says, or of another size than its underlay tells.
 */
export function picturesFromFile(
  { underlays }: Pick<Project, 'underlays'>,
  held: Readonly<Record<string, string>>,
): Map<string, Uint8Array> {
  const pictures = new Map<string, Uint8Array>();
  for (const { name, picture, widthPx, heightPx } of underlays) {
    const bytes = pictures.get(picture) ?? fromBase64(held[picture] ?? '');
    const facts = underlayFacts(bytes);
    if (!pictures.has(picture) && contentHash(bytes) !== picture)
      throw new InputError('picture', `The picture of “${name}” is another than the one it was saved with.`);
    if (facts.widthPx !== widthPx || facts.heightPx !== heightPx)
      throw new InputError(
        'picture',
        `“${name}” says that its picture has ${widthPx} × ${heightPx} pixels; it has ${facts.widthPx} × ${facts.heightPx}.`,
      );
    pictures.set(picture, bytes);
  }
  return pictures;
}

/**
 * What a picture that is to lie on the ground is. Throws InputError `picture` where it is none, larger than it may be, or to be
 * turned to be seen upright.
 */
export function underlayFacts(bytes: Uint8Array): PictureFacts {
  if (bytes.length > MAX_UNDERLAY_BYTES)
    throw new InputError(
      'picture',
      `The picture has ${Math.ceil(bytes.length / 1_048_576)} MB; at most ${MAX_UNDERLAY_BYTES / 1_048_576} MB can lie on the ground. Save it smaller.`,
    );
  const facts = pictureFacts(bytes);
  if (facts.orientation !== 1)
    throw new InputError(
      'picture',
      'The picture lies on its side and says how it is to be turned; save it anew as it is seen.',
    );
  return facts;
}
