import { api } from '../state/api';

/** Pictures on the ground that have been fetched, by hash; one that could not be had is asked for again. */
const images = new Map<string, Promise<ImageBitmap>>();

/** A picture on the ground, decoded; its values are those of the file. */
export function underlayImage(hash: string): Promise<ImageBitmap> {
  let image = images.get(hash);
  if (!image) {
    image = api.underlay(hash).then(decoded);
    images.set(hash, image);
    image.catch(() => images.delete(hash));
  }
  return image;
}

/** Lets go of all of them: another project has others. */
export const forgetUnderlayImages = () => images.clear();

/** Puts a picture that has just been read at hand under its hash. */
export function rememberUnderlay(hash: string, bytes: Uint8Array<ArrayBuffer>): void {
  if (!images.has(hash)) images.set(hash, decoded(new Blob([bytes])));
}

const decoded = (blob: Blob) =>
  createImageBitmap(blob, { premultiplyAlpha: 'none', colorSpaceConversion: 'none' });
