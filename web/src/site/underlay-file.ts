import { MAX_PICTURE_SIDE, MAX_UNDERLAY_BYTES, underlayFacts } from '@dial-shade/core';

/** A picture as it is kept: the bytes of a PNG or JPEG, upright, and what was done to it for that. */
export interface PictureRead {
  bytes: Uint8Array<ArrayBuffer>;
  widthPx: number;
  heightPx: number;
  /** How many pixels of the file one of these is, where it was made smaller. */
  pixelsOfFile: number;
  note: string | null;
}

/** Pixels that a picture may have, so that boards of most machines can show it. */
const MAX_PIXELS = 32e6;
const JPEG_QUALITY = 0.92;

/**
 * Reads a picture out of a file. One that lies on its side, is larger than a board can show, or of another format that the
 * browser knows, is saved anew as it is seen. Throws with a sentence where it is none.
 */
export async function readPicture(file: Blob & { name?: string }): Promise<PictureRead> {
  const image = await createImageBitmap(file).catch(() => {
    throw new Error(`“${file.name ?? 'It'}” cannot be read as a picture; use PNG, JPEG or PDF.`);
  });
  const { width, height } = image;
  const share = Math.min(
    1,
    MAX_PICTURE_SIDE / Math.max(width, height),
    Math.sqrt(MAX_PIXELS / (width * height)),
  );
  try {
    if (share === 1 && file.size <= MAX_UNDERLAY_BYTES) {
      const bytes = new Uint8Array(await file.arrayBuffer());
      if (isKeptAsItIs(bytes))
        return { bytes, widthPx: width, heightPx: height, pixelsOfFile: 1, note: null };
    }
    return await savedAnew(image, share, file.type === 'image/jpeg');
  } finally {
    image.close();
  }
}

function isKeptAsItIs(bytes: Uint8Array): boolean {
  try {
    underlayFacts(bytes);
    return true;
  } catch {
    return false;
  }
}

async function savedAnew(image: ImageBitmap, share: number, isPhoto: boolean): Promise<PictureRead> {
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.floor(image.width * share)),
    Math.max(1, Math.floor(image.height * share)),
  );
  const context = canvas.getContext('2d')!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  const png = isPhoto ? null : await canvas.convertToBlob({ type: 'image/png' });
  const blob =
    png && png.size <= MAX_UNDERLAY_BYTES
      ? png
      : await canvas.convertToBlob({ type: 'image/jpeg', quality: JPEG_QUALITY });
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const { widthPx, heightPx } = underlayFacts(bytes);
  return {
    bytes,
    widthPx,
    heightPx,
    pixelsOfFile: image.width / widthPx,
    note:
      share < 1
        ? `It was made smaller, from ${image.width} × ${image.height} to ${widthPx} × ${heightPx} pixels.`
        : null,
  };
}
