import { InputError } from '../../errors';
import { strideOf } from './heights-file';
import { blankModel, checkSize, type ModelFile } from '../model-file';

/** Keys of the file that say what its coordinates are. */
interface GeoKeys {
  GTModelTypeGeoKey?: number;
  GTRasterTypeGeoKey?: number;
  ProjectedCSTypeGeoKey?: number;
  GeographicTypeGeoKey?: number;
}

const GEOGRAPHIC = 2;
const PIXEL_IS_POINT = 2;
/** The key says that the system is described otherwise. */
const OTHER_SYSTEM = 32_767;

/**
 * Reads a grid of heights out of a GeoTIFF: one band, north up. Its map system and whether a cell is told by its corner or its
 * middle are those of its keys. Throws InputError `heights`.
 */
export async function readGeoTiff(bytes: Uint8Array): Promise<ModelFile> {
  checkSize(bytes);
  const model = blankModel('geotiff');
  model.up = 'z';
  model.unit = 'm';
  const { fromArrayBuffer } = await import('geotiff');
  try {
    const tiff = await fromArrayBuffer(bytes.slice().buffer);
    const image = await tiff.getImage();
    const [columns, rows] = [image.getWidth(), image.getHeight()];
    if (image.getSamplesPerPixel() !== 1)
      throw new InputError('heights', 'The TIFF is a picture of several colours; heights have one band.');
    const [left, top] = originOf(image);
    const [width, height] = image.getResolution() as [number, number];
    const keys = (image.getGeoKeys() ?? {}) as GeoKeys;
    model.geographic = keys.GTModelTypeGeoKey === GEOGRAPHIC;
    const code = keys.ProjectedCSTypeGeoKey;
    if (!model.geographic && code !== undefined && code !== OTHER_SYSTEM) model.system = `EPSG:${code}`;
    const missing = image.getGDALNoData();
    const offset = keys.GTRasterTypeGeoKey === PIXEL_IS_POINT ? 0 : 0.5;
    const values = (await image.readRasters({ interleave: true })) as unknown as ArrayLike<number>;
    const stride = strideOf(columns, rows, model.notes);
    const positions: number[] = [];
    for (let row = 0; row < rows; row += stride)
      for (let column = 0; column < columns; column += stride) {
        const z = values[row * columns + column]!;
        if (!Number.isFinite(z) || z === missing || Math.abs(z) >= SURELY_MISSING) continue;
        positions.push(left + (column + offset) * width, top + (row + offset) * height, z);
      }
    if (positions.length < 9) throw new InputError('heights', 'The TIFF holds fewer than three heights.');
    model.spots.push({ name: 'Heights', positions: Float64Array.from(positions) });
    return model;
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(
      'heights',
      'This TIFF cannot be read: it is cut off, damaged, or packed in a way that is not known.',
    );
  }
}

/** No height on earth; other programs write such where there is none. */
const SURELY_MISSING = 30_000;

function originOf(image: { getOrigin(): number[] }): [number, number] {
  try {
    const [x, y] = image.getOrigin();
    return [x!, y!];
  } catch {
    throw new InputError('heights', 'The TIFF does not say where it lies; use a GeoTIFF.');
  }
}
